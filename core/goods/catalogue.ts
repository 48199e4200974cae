import type { Quantity } from '../quantity.ts';
import type { Item } from './item.ts';
import { indexCodes } from './codes.ts';
import { buildSearchIndex, indexInPieces, type SearchIndex } from './search.ts';

/** The till's copy of what the shop sells. Changes are searched beside the large index until there are many. */
export interface Catalogue {
  readonly size: number;
  /**
   * Goes on with the index of words for a moment; searching before it is ready waits for it. @returns whether there
   * is more to do
   */
  prepare(): boolean;
  search(text: string, most?: number): Item[];
  recognise(code: string): Item | undefined;
  find(itemId: number): Item | undefined;
  /** The variants of a family, in the order in which they came. */
  variants(familyId: number): Item[];
  /** Everything, in no order. */
  items(): Iterable<Item>;
  /** Takes changed and new items in and removed ones out. */
  apply(changed: readonly Item[], removed: readonly number[]): void;
  setStock(levels: readonly (readonly [itemId: number, quantity: Quantity])[]): void;
}

/** So many changes are worth building the large index anew. */
const MANY = 2000;

const MOST_FOUND = 50;

/** @param items in the order in which they are listed when they fit equally well */
export function createCatalogue(items: readonly Item[]): Catalogue {
  const byId = new Map(items.map((item) => [item.id, item]));
  let codes = indexCodes(items);
  let pieces: ReturnType<typeof indexInPieces> | undefined = indexInPieces(items, codes);
  let index: SearchIndex = buildSearchIndex([]);
  let changes = new Map<number, Item>();
  let outdated = new Set<number>();
  let changedCodes = indexCodes([]);
  let changeIndex = buildSearchIndex([]);

  function prepare(): boolean {
    const next = pieces?.next();
    if (!next?.done) return next !== undefined;
    index = next.value;
    pieces = undefined;
    return false;
  }

  /** Begins the large index anew, with what is sold now. */
  function takeIn(): void {
    const all = [...byId.values()].sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
    codes = indexCodes(all);
    pieces = indexInPieces(all, codes);
    changes = new Map();
    outdated = new Set();
  }

  return {
    prepare,
    get size() {
      return byId.size;
    },
    find: (itemId) => byId.get(itemId),
    items: () => byId.values(),
    variants: (familyId) =>
      [...byId.values()].filter(({ more }) => more?.familyId === familyId).sort((a, b) => a.id - b.id),
    recognise(code) {
      const changed = changedCodes.recognise(code);
      if (changed) return changed;
      const item = codes.recognise(code);
      return item && outdated.has(item.id) ? undefined : item;
    },
    search(text, most = MOST_FOUND) {
      while (prepare());
      if (outdated.size === 0) return index.search(text, most);
      const kept = index.search(text, most + outdated.size).filter(({ id }) => !outdated.has(id));
      return [...changeIndex.search(text, most), ...kept].slice(0, most);
    },
    apply(changed, removed) {
      for (const item of changed) {
        byId.set(item.id, item);
        changes.set(item.id, item);
        outdated.add(item.id);
      }
      for (const id of removed) {
        byId.delete(id);
        changes.delete(id);
        outdated.add(id);
      }
      if (outdated.size > MANY) takeIn();
      changedCodes = indexCodes([...changes.values()]);
      changeIndex = buildSearchIndex([...changes.values()], changedCodes);
    },
    setStock(levels) {
      for (const [itemId, quantity] of levels) {
        const item = byId.get(itemId);
        if (item && item.stock !== null) item.stock = quantity;
      }
    },
  };
}
