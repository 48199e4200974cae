import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { ItemPage, WantedItem } from '../../contract/goods.ts';
import { tell } from '../testing/houseEvents.ts';
import { useItemPageStore } from './itemPageStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

const page = (id: number, version = 1) => ({ id, version }) as ItemPage;

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
});

describe('the page of an item', () => {
  it('is saved as it was seen, and shown as it stands then, also where an older look is answered later', async () => {
    const items = useItemPageStore();
    let late = (_page: ItemPage): void => {};
    net.read.mockReturnValueOnce(new Promise<ItemPage>((come) => (late = come)));
    const look = items.load(4);
    net.write.mockResolvedValueOnce(page(4, 8));
    await items.save(page(4, 7), { name: 'Strap' } as WantedItem);
    expect(net.write).toHaveBeenCalledWith('PUT', '/goods/items/4', {
      record: { name: 'Strap' },
      version: 7,
    });
    late(page(4, 7));
    await look;
    expect(items.page?.version).toBe(8);
  });

  it('of another item is not shown by an answer about the one before', async () => {
    const items = useItemPageStore();
    let late = (_page: ItemPage): void => {};
    net.write.mockReturnValueOnce(new Promise<ItemPage>((come) => (late = come)));
    const saved = items.addPrice(page(4), '2026-04-01', 1_500);
    net.read.mockResolvedValueOnce(page(5));
    await items.load(5);
    late(page(4, 2));
    await saved;
    expect(items.page?.id).toBe(5);
  });

  it('is read again as long as no other item is looked at', async () => {
    const items = useItemPageStore();
    net.read.mockResolvedValueOnce(page(4)).mockResolvedValueOnce(page(4, 2)).mockResolvedValueOnce(page(5));
    await items.load(4);
    await items.again(4);
    expect(items.page).toEqual(page(4, 2));
    await items.load(5);
    await items.again(4);
    expect(items.page).toEqual(page(5));
  });

  it('is read again when goods or stock change, while one is open', async () => {
    const items = useItemPageStore();
    items.follow();
    tell({ kind: 'catalogue-changed' });
    expect(net.read).not.toHaveBeenCalled();
    net.read.mockResolvedValue(page(4));
    await items.load(4);
    tell({ kind: 'people-changed' });
    tell({ kind: 'stock-changed' });
    expect(net.read).toHaveBeenCalledTimes(2);
    expect(net.read).toHaveBeenLastCalledWith('/goods/items/4/page');
  });

  it('finds a part among goods only, and an item by a code that needs its own address', async () => {
    const items = useItemPageStore();
    const rows = Array.from({ length: 12 }, (_, id) => ({ id, kind: id === 0 ? 'family' : 'goods' }));
    net.read
      .mockResolvedValueOnce({ rows })
      .mockResolvedValueOnce({ id: 4 })
      .mockResolvedValueOnce({ id: null });
    expect((await items.findGoods({ find: 'reed & cane' })).map(({ id }) => id)).toEqual([
      1, 2, 3, 4, 5, 6, 7, 8,
    ]);
    expect(net.read).toHaveBeenLastCalledWith('/goods/list?find=reed+%26+cane');
    expect(await items.idOfCode('A/B')).toBe(4);
    expect(net.read).toHaveBeenLastCalledWith('/goods/codes/A%2FB');
    expect(await items.idOfCode('A/C')).toBeNull();
  });
});
