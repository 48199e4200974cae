import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { CustomerPage } from '../../contract/people.ts';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../testing/late.ts';
import { useCustomerPageStore } from './customerPageStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

const page = (id: number, more: object = {}) =>
  ({ panel: { id }, version: 1, cards: [], ...more }) as unknown as CustomerPage;

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
});

/** The store with the page of a customer open. */
async function opened(id: number) {
  const store = useCustomerPageStore();
  net.read.mockResolvedValueOnce(page(id));
  await store.load(id);
  return store;
}

describe('the page of a customer', () => {
  it('is not taken from whoever is looked at by now when somebody else was forgotten', async () => {
    const store = await opened(1);
    const forgotten = late<undefined>();
    net.write.mockReturnValueOnce(forgotten.promise);
    const forgetting = store.forget(page(1));
    net.read.mockResolvedValueOnce(page(2));
    await store.load(2);
    forgotten.come(undefined);
    await forgetting;
    expect(store.page).toEqual(page(2));
  });

  it('is gone when they were forgotten, and does not come back by a look that was slower', async () => {
    const store = await opened(1);
    const looked = late<CustomerPage>();
    net.read.mockReturnValueOnce(looked.promise);
    const looking = store.load(1);
    await store.forget(page(1));
    expect(store.page).toBeNull();
    looked.come(page(1));
    await looking;
    expect(store.page).toBeNull();
  });

  it('shows cards as they are given and stopped, on the page that they are for', async () => {
    const store = await opened(1);
    net.write.mockResolvedValueOnce([{ code: 'A/1' }]);
    await store.giveCard(page(1), 'A/1', true);
    expect(store.page?.cards).toEqual([{ code: 'A/1' }]);
    net.write.mockResolvedValueOnce([]);
    await store.stopCard(page(1), 'A/1');
    expect(net.write.mock.calls.at(-1)).toEqual(['DELETE', '/people/customers/1/cards/A%2F1']);
    net.write.mockResolvedValueOnce([{ code: 'B' }]);
    await store.giveCard(page(9), 'B', false);
    expect(store.page?.cards).toEqual([]);
  });

  it('is saved and merged as it was seen', async () => {
    const store = await opened(1);
    net.write.mockResolvedValue(page(1, { version: 2 }));
    await store.save(page(1), { name: 'Ana' } as never);
    await store.merge(page(1, { version: 2 }), page(5, { version: 9 }), { name: 'Ana' } as never);
    expect(net.write.mock.calls).toEqual([
      ['PUT', '/people/customers/1', { record: { name: 'Ana' }, version: 1 }],
      ['POST', '/people/customers/1/merge', { goes: 5, record: { name: 'Ana' }, version: 2, goesVersion: 9 }],
    ]);
    net.write.mockResolvedValueOnce({ to: 'ana@mail.example' });
    expect(await store.mailCode(page(1))).toBe('ana@mail.example');
  });

  it('is read again when they, or all, have changed elsewhere', async () => {
    const store = await opened(1);
    store.follow();
    net.read.mockResolvedValue(page(1, { version: 3 }));
    tell({ kind: 'people-changed', customerId: 2 });
    expect(net.read).toHaveBeenCalledTimes(1);
    tell({ kind: 'people-changed', customerId: 1 });
    tell({ kind: 'people-changed', customerId: null });
    await vi.waitFor(() => expect(store.page?.version).toBe(3));
    expect(net.read).toHaveBeenCalledTimes(3);
  });
});
