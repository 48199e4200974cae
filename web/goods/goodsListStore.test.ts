import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { GoodsPage, GoodsRow, ManyItems } from '../../contract/goods.ts';
import { tell } from '../testing/houseEvents.ts';
import { useGoodsListStore } from './goodsListStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

const row = (id: number, version = 1) => ({ id, version }) as GoodsRow;
const page = (...rows: GoodsRow[]) => ({ rows, count: rows.length }) as GoodsPage;

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset().mockResolvedValue(page(row(1), row(2, 5)));
  net.write.mockReset();
});

describe('the list of goods', () => {
  it('is asked for by what narrows it, and always by whether they are sold', async () => {
    const list = useGoodsListStore();
    await list.load();
    expect(net.read).toHaveBeenLastCalledWith('/goods/list?state=sold&sort=name&page=0');
    expect(list.narrowed).toBe(false);
    Object.assign(list.filter, { find: 'strap', category: 4, state: '', noCode: 'yes' });
    list.page = 2;
    await list.load();
    expect(net.read).toHaveBeenLastCalledWith(
      '/goods/list?find=strap&category=4&state=&noCode=yes&sort=name&page=2',
    );
    expect(list.narrowed).toBe(true);
    list.widen();
    expect([list.narrowed, list.filter.find, list.filter.state]).toEqual([false, '', 'sold']);
  });

  it('is read again when goods or their stock change, and not for anything else', async () => {
    useGoodsListStore().follow();
    tell({ kind: 'people-changed' });
    for (const [at, kind] of ['catalogue-changed', 'stock-changed', 'connected'].entries()) {
      tell({ kind });
      await eventually(() => expect(net.read).toHaveBeenCalledTimes(at + 1));
    }
  });
});

describe('what is picked of it', () => {
  it('is picked one by one, or a page at once', async () => {
    const list = useGoodsListStore();
    await list.load();
    list.pick(row(1));
    list.pick(row(9, 4));
    list.pickPage();
    expect([...list.picked]).toEqual([
      [1, 1],
      [9, 4],
      [2, 5],
    ]);
    // All of the page is picked: it is let go, and what lies on other pages stays.
    list.pickPage();
    expect([...list.picked.keys()]).toEqual([9]);
    list.pick(row(9, 4));
    expect(list.picked.size).toBe(0);
  });

  it('is all that is listed, on whatever page, at once', async () => {
    const list = useGoodsListStore();
    await list.load();
    list.filter.tag = 'sale';
    list.pick(row(1));
    net.read.mockResolvedValueOnce([
      { id: 7, version: 2 },
      { id: 3, version: 1 },
    ]);
    await list.pickAll();
    expect(net.read).toHaveBeenLastCalledWith('/goods/list/versions?tag=sale&state=sold&sort=name');
    expect([...list.picked]).toEqual([
      [7, 2],
      [3, 1],
    ]);
  });

  it('is changed as it was seen, and let go after that', async () => {
    const list = useGoodsListStore();
    const change = { what: 'category', name: 'Straps' } as unknown as ManyItems['change'];
    await list.load();
    list.pickPage();
    net.write.mockResolvedValueOnce([]).mockResolvedValueOnce({ changed: 2 });
    const asked = {
      items: [
        { id: 1, version: 1 },
        { id: 2, version: 5 },
      ],
      change,
    };
    await list.rehearse(change);
    expect(net.write).toHaveBeenLastCalledWith('POST', '/goods/changes/rehearsal', asked);
    expect(list.picked.size).toBe(2);
    expect(await list.changeMany(change)).toBe(2);
    expect(net.write).toHaveBeenLastCalledWith('POST', '/goods/changes', asked);
    expect([list.picked.size, net.read.mock.calls.length]).toEqual([0, 2]);
  });

  it('stays picked where the change is refused', async () => {
    const list = useGoodsListStore();
    await list.load();
    list.pick(row(1));
    net.write.mockRejectedValueOnce(new Error('changed meanwhile'));
    await expect(list.changeMany({} as ManyItems['change'])).rejects.toThrow('changed meanwhile');
    expect(list.picked.size).toBe(1);
  });
});
