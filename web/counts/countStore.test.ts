import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { CountDifferences, CountPage } from '../../contract/counts.ts';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../../contract/testing/late.ts';
import { useCountStore } from './countStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

const page = (id: number) => ({ id }) as CountPage;
const differences = (words: string) => ({ words }) as unknown as CountDifferences;

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
});

describe('a count', () => {
  it('does not show the differences of the one before, however late they come', async () => {
    const counts = useCountStore();
    net.read.mockResolvedValueOnce(page(1));
    await counts.load(1);
    const found = late<CountDifferences>();
    net.read.mockReturnValueOnce(found.promise);
    const looked = counts.look(1);
    net.read.mockResolvedValueOnce(page(2));
    await counts.load(2);
    found.come(differences('of the first'));
    await looked;
    expect(counts.page).toEqual(page(2));
    expect(counts.found).toBeNull();
  });

  it('keeps its differences in sight while it is read again', async () => {
    const counts = useCountStore();
    net.read.mockResolvedValue(page(1));
    await counts.load(1);
    net.read.mockResolvedValueOnce(differences('three missing'));
    await counts.look(1);
    await counts.load(1);
    expect(counts.found).toEqual(differences('three missing'));
  });

  it('is begun, counted, counted again and booked at its own address', async () => {
    const counts = useCountStore();
    net.write.mockResolvedValueOnce({ id: 7 });
    expect(await counts.begin({ words: 'Shelf 3' } as never)).toBe(7);
    await counts.add(7, { itemId: 12, quantity: 3000 });
    await counts.takeBack(7, 4);
    await counts.again(7, [12]);
    await counts.none(7, [13]);
    net.write.mockResolvedValueOnce({ booked: 2 });
    expect(await counts.book(7, null)).toBe(2);
    await counts.cancel(7);
    expect(net.write.mock.calls.map(([method, path, body]) => [method, path, body] as unknown[])).toEqual([
      ['POST', '/counts', { words: 'Shelf 3' }],
      ['POST', '/counts/7/entries', { itemId: 12, quantity: 3000 }],
      ['DELETE', '/counts/7/entries/4', undefined],
      ['POST', '/counts/7/again', { items: [12] }],
      ['POST', '/counts/7/none', { items: [13] }],
      ['POST', '/counts/7/booked', { approval: null }],
      ['POST', '/counts/7/cancelled', undefined],
    ]);
  });

  it('is looked at again when somebody else counts', async () => {
    const heard = vi.fn(() => Promise.reject(new Error('away')));
    useCountStore().follow(heard);
    tell({ kind: 'sale-finished' });
    expect(heard).not.toHaveBeenCalled();
    tell({ kind: 'counts-changed' });
    tell({ kind: 'connected' });
    await eventually(() => expect(heard).toHaveBeenCalledTimes(2));
  });
});
