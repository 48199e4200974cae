import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { CustomerPage } from '../../contract/people.ts';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../../contract/testing/late.ts';
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

  it('is read again as long as nobody else is looked at', async () => {
    const store = await opened(1);
    net.read.mockResolvedValueOnce(page(1, { version: 2 })).mockResolvedValueOnce(page(2));
    await store.again(1);
    expect(store.page?.version).toBe(2);
    await store.load(2);
    await store.again(1);
    expect(store.page).toEqual(page(2));
  });

  it('shows cards at once, and what was noted about them after that', async () => {
    const store = await opened(1);
    store.follow();
    const heard = late<CustomerPage>();
    net.read
      .mockReturnValueOnce(heard.promise)
      .mockResolvedValue(page(1, { version: 2, cards: [{ code: 'A/1' }] }));
    // The house tells of the change before it is answered; that look comes last.
    net.write.mockImplementationOnce(() => {
      tell({ kind: 'people-changed', customerId: 1 });
      return Promise.resolve([{ code: 'A/1' }]);
    });
    await store.giveCard(page(1), 'A/1', true);
    heard.come(page(1));
    expect(store.page).toMatchObject({ version: 2, cards: [{ code: 'A/1' }] });
    net.write.mockResolvedValueOnce([]);
    net.read.mockRejectedValueOnce(new Error('away'));
    await store.stopCard(page(1), 'A/1');
    expect(store.page?.cards).toEqual([]);
    net.write.mockResolvedValueOnce([{ code: 'B' }]);
    await store.giveCard(page(9), 'B', false);
    expect(store.page?.cards).toEqual([]);
  });

  it('has a code that is mailed to them', async () => {
    const store = await opened(1);
    net.write.mockResolvedValueOnce({ to: 'ana@mail.example' });
    expect(await store.mailCode(page(1))).toBe('ana@mail.example');
  });
});
