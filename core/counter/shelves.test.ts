import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { itemsOnShelves, moveTile, tilesAt, withTiles, type Shelf, type Tile } from './shelves.ts';

const item = (id: string, itemId: number): Tile => ({ id, colour: 'plain', kind: 'item', itemId });
const bin: Tile = {
  id: 'bin',
  colour: 'blue',
  kind: 'bin',
  name: 'Picks',
  tiles: [item('b1', 7), item('b2', 8)],
};
const shelves: Shelf[] = [
  { id: 's1', name: 'No barcode', tillId: null, tiles: [item('a', 1), bin, item('c', 3)] },
  {
    id: 's2',
    name: 'Jobs',
    tillId: 2,
    tiles: [{ id: 'j', colour: 'plain', kind: 'job', job: 'hold' }, item('d', 1)],
  },
];
const ids = (tiles: readonly Tile[]) => tiles.map(({ id }) => id);

describe('shelves', () => {
  it('find and replace the tiles of a shelf or of an open bin', () => {
    expect(ids(tilesAt(shelves, { shelfId: 's1', binId: null }))).toEqual(['a', 'bin', 'c']);
    expect(ids(tilesAt(shelves, { shelfId: 's1', binId: 'bin' }))).toEqual(['b1', 'b2']);
    expect(tilesAt(shelves, { shelfId: 's1', binId: 'a' })).toEqual([]);
    expect(tilesAt(shelves, { shelfId: 'none', binId: null })).toEqual([]);
    const changed = withTiles(shelves, { shelfId: 's1', binId: 'bin' }, [item('x', 9)]);
    expect(ids(tilesAt(changed, { shelfId: 's1', binId: 'bin' }))).toEqual(['x']);
    expect(changed[1]).toBe(shelves[1]);
  });

  it('know every item on them, also inside bins, once', () => {
    expect(itemsOnShelves(shelves)).toEqual([1, 7, 8, 3]);
  });

  it('keep all tiles when one is moved, and do not move it past the ends', () => {
    const tiles = [item('a', 1), item('b', 2), item('c', 3), item('d', 4)];
    expect(ids(moveTile(tiles, 'b', 1))).toEqual(['a', 'c', 'b', 'd']);
    expect(ids(moveTile(tiles, 'a', -1))).toEqual(['a', 'b', 'c', 'd']);
    expect(ids(moveTile(tiles, 'a', 6))).toEqual(['b', 'c', 'd', 'a']);
    fc.assert(
      fc.property(fc.constantFrom('a', 'b', 'c', 'd', 'none'), fc.integer({ min: -9, max: 9 }), (id, by) => {
        expect(ids(moveTile(tiles, id, by)).sort()).toEqual(['a', 'b', 'c', 'd']);
      }),
    );
  });
});
