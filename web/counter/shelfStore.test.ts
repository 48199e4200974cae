import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { StoredShelves } from '../../contract/shelves.ts';
import type { Shelf, Tile } from '../../core/counter/shelves.ts';
import { ApiProblem, Unreachable } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../../contract/testing/late.ts';
import { useShelfStore } from './shelfStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
vi.mock('../sale/catalogue/thread.ts', () => ({
  catalogue: {
    find: (ids: readonly number[]) => Promise.resolve(ids.map((id) => ({ id, name: `Item ${id}` }))),
  },
}));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => ({ facts: { till: { id: 7 } } }) }));

const tile = (id: string, itemId: number): Tile => ({ id, colour: 'plain', kind: 'item', itemId });
const BIN: Tile = { id: 'bin', colour: 'blue', kind: 'bin', name: 'Reeds', tiles: [tile('t2', 2)] };
const shelf = (id: string, tillId: number | null, tiles: Tile[] = []): Shelf => ({
  id,
  name: id,
  tillId,
  tiles,
});
const stored = (...shelves: Shelf[]): StoredShelves => ({ shelves, revision: 3 });

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
});

describe('the touch pages of a till', () => {
  it('are its own and those of all tills, with the items that lie on them', async () => {
    const shelves = useShelfStore();
    net.read.mockResolvedValue(
      stored(shelf('all', null, [tile('t1', 1), BIN]), shelf('other', 8), shelf('own', 7)),
    );
    await shelves.load();
    expect(shelves.shelves.map(({ id }) => id)).toEqual(['all', 'own']);
    expect([shelves.shelf?.id, shelves.tiles.length, [...shelves.items.keys()]]).toEqual(['all', 2, [1, 2]]);
    shelves.binId = 'bin';
    expect(shelves.tiles.map(({ id }) => id)).toEqual(['t2']);
    shelves.open('own');
    expect([shelves.shelf?.id, shelves.binId, shelves.tiles]).toEqual(['own', null, []]);
  });

  it('are changed at once, also in a bin, and stored with what was seen', async () => {
    const shelves = useShelfStore();
    net.read.mockResolvedValue(stored(shelf('all', null, [BIN])));
    await shelves.load();
    shelves.binId = 'bin';
    net.write.mockResolvedValueOnce({ revision: 4 });
    const changed = shelves.changeTiles([tile('t2', 2), tile('t9', 9)]);
    await eventually(() => expect(shelves.tiles).toHaveLength(2));
    await changed;
    expect(net.write.mock.lastCall?.[2]).toMatchObject({ revision: 3 });
    expect([shelves.binId, shelves.items.get(9)?.name]).toEqual(['bin', 'Item 9']);
    // The next change has seen this one.
    net.write.mockResolvedValueOnce({ revision: 5 });
    await shelves.changeTiles([]);
    expect(net.write.mock.lastCall?.[2]).toMatchObject({ revision: 4 });
  });

  it('are changed faster than they are stored: one after the other, and the last as it is', async () => {
    const shelves = useShelfStore();
    net.read.mockResolvedValue(stored(shelf('all', null, [tile('t1', 1), tile('t2', 2)])));
    await shelves.load();
    shelves.follow();
    const first = late<{ revision: number }>();
    net.write.mockReturnValueOnce(first.promise).mockResolvedValueOnce({ revision: 5 });
    const changes = [4, 5, 6].map((id) => shelves.changeTiles([...shelves.tiles, tile(`t${id}`, id)]));
    expect(shelves.tiles.map(({ id }) => id)).toEqual(['t1', 't2', 't4', 't5', 't6']);
    // What is told of the first is no news of somebody else's.
    tell({ kind: 'shelves-changed', revision: 4 });
    first.come({ revision: 4 });
    await Promise.all(changes);
    expect(net.write.mock.calls.map(([, , body]) => body as StoredShelves)).toMatchObject([
      { revision: 3, shelves: [{ tiles: { length: 3 } }] },
      { revision: 4, shelves: [{ tiles: { length: 5 } }] },
    ]);
    expect(shelves.tiles).toHaveLength(5);
    expect(useNoticeStore().notice).toBeNull();
  });

  it('are those of somebody who was faster, and that is said', async () => {
    const shelves = useShelfStore();
    net.read.mockResolvedValue(stored(shelf('all', null, [BIN])));
    await shelves.load();
    shelves.binId = 'bin';
    const theirs = { shelves: [shelf('all', null, [tile('t5', 5)])], revision: 9 };
    net.write.mockRejectedValueOnce(
      new ApiProblem({
        type: 'shelves-changed',
        title: 'Changed elsewhere.',
        status: 409,
        data: theirs,
      } as never),
    );
    await shelves.changeTiles([]);
    expect(shelves.tiles.map(({ id }) => id)).toEqual(['t5']);
    expect(shelves.binId).toBeNull();
    expect(useNoticeStore().notice?.text).toContain('Changed elsewhere.');
  });

  it('are what the server has where a change is refused', async () => {
    const shelves = useShelfStore();
    net.read.mockResolvedValue(stored(shelf('all', null, [BIN])));
    await shelves.load();
    net.write.mockRejectedValueOnce(
      new ApiProblem({ type: 'not-allowed', title: 'A manager does this.', status: 403 }),
    );
    await shelves.changeTiles([]);
    expect(shelves.tiles.map(({ id }) => id)).toEqual(['bin']);
  });

  it('stay as they were changed while the server is away, and are stored once it is back, each change once', async () => {
    vi.useFakeTimers();
    const shelves = useShelfStore();
    net.read.mockResolvedValue(stored(shelf('all', null, [BIN])));
    await shelves.load();
    shelves.follow();
    net.write.mockRejectedValueOnce(new Unreachable()).mockResolvedValue({ revision: 4 });
    const changed = shelves.changeTiles([]);
    await vi.advanceTimersByTimeAsync(0);
    expect(useNoticeStore().notice?.tone).toBe('failed');
    tell({ kind: 'connected' });
    await vi.advanceTimersByTimeAsync(0);
    expect(shelves.tiles).toEqual([]);
    net.read.mockResolvedValue({ ...stored(shelf('all', null)), revision: 4 });
    await vi.advanceTimersByTimeAsync(1000);
    await changed;
    vi.useRealTimers();
    expect(shelves.tiles).toEqual([]);
    const [first, again] = net.write.mock.calls;
    expect(again).toEqual(first);
    expect(net.write).toHaveBeenCalledTimes(2);
  });

  it('are read again where others are newer', async () => {
    const shelves = useShelfStore();
    net.read.mockResolvedValue(stored(shelf('all', null)));
    await shelves.load();
    shelves.follow();
    tell({ kind: 'shelves-changed', revision: 3 });
    expect(net.read).toHaveBeenCalledTimes(1);
    tell({ kind: 'shelves-changed', revision: 4 });
    await eventually(() => expect(net.read).toHaveBeenCalledTimes(2));
    tell({ kind: 'connected' });
    await eventually(() => expect(net.read).toHaveBeenCalledTimes(3));
  });
});
