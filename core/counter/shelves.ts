/** The colour bar of a tile; each means what it means everywhere. */
export type TileColour = 'plain' | 'blue' | 'yellow' | 'red';

export const TILE_COLOURS: readonly TileColour[] = ['plain', 'blue', 'yellow', 'red'];

/** What a till job tile does. */
export const TILE_JOBS = {
  'open-price': 'Open-price item',
  'gift-card': 'Gift card',
  customer: 'Customer',
  hold: 'Put on hold',
  return: 'Return',
  waiting: 'Held baskets',
  'last-receipt': 'Last receipt',
  drawer: 'Drawer',
  'no-sale': 'Drawer, no sale',
  cash: 'Cash in or out',
  relay: 'Pass an order on',
} as const;

export type TileJob = keyof typeof TILE_JOBS;

export type Tile = { id: string; colour: TileColour } & (
  | { kind: 'item'; itemId: number }
  | { kind: 'category'; category: string }
  | { kind: 'job'; job: TileJob }
  /** A discount that the shop has ready. */
  | { kind: 'discount'; presetId: number }
  /** Opens to more tiles. */
  | { kind: 'bin'; name: string; tiles: Tile[] }
);

/** A touch page. */
export interface Shelf {
  id: string;
  name: string;
  /** The till it is for; `null` for all. */
  tillId: number | null;
  tiles: Tile[];
}

/** A place among the shelves: which shelf, and which bin on it, if one is open. */
export interface ShelfPlace {
  shelfId: string;
  binId: string | null;
}

/** The tiles that lie at a place. */
export function tilesAt(shelves: readonly Shelf[], { shelfId, binId }: ShelfPlace): Tile[] {
  const tiles = shelves.find(({ id }) => id === shelfId)?.tiles ?? [];
  if (binId === null) return tiles;
  const bin = tiles.find(({ id }) => id === binId);
  return bin?.kind === 'bin' ? bin.tiles : [];
}

/** The shelves with other tiles at a place. */
export function withTiles(shelves: readonly Shelf[], { shelfId, binId }: ShelfPlace, tiles: Tile[]): Shelf[] {
  return shelves.map((shelf) => {
    if (shelf.id !== shelfId) return shelf;
    if (binId === null) return { ...shelf, tiles };
    return {
      ...shelf,
      tiles: shelf.tiles.map((tile) =>
        tile.id === binId && tile.kind === 'bin' ? { ...tile, tiles } : tile,
      ),
    };
  });
}

/** The tiles with one of them a place further on or back; at the end it stays. */
export function moveTile(tiles: readonly Tile[], id: string, by: number): Tile[] {
  const at = tiles.findIndex((tile) => tile.id === id);
  const tile = tiles[at];
  if (!tile) return [...tiles];
  const to = Math.min(tiles.length - 1, Math.max(0, at + by));
  return tiles.toSpliced(at, 1).toSpliced(to, 0, tile);
}

/** Every item that lies on a shelf or in a bin. */
export function itemsOnShelves(shelves: readonly Shelf[]): number[] {
  const inTiles = (tiles: readonly Tile[]): number[] =>
    tiles.flatMap((tile) =>
      tile.kind === 'item' ? [tile.itemId] : tile.kind === 'bin' ? inTiles(tile.tiles) : [],
    );
  return [...new Set(shelves.flatMap(({ tiles }) => inTiles(tiles)))];
}
