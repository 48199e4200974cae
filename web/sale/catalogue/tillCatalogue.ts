import type { Catalogue as CatalogueAnswer, CatalogueRow } from '../../../contract/goods.ts';
import { createCatalogue, type Catalogue } from '../../../core/goods/catalogue.ts';
import type { Item } from '../../../core/goods/item.ts';
import type { Quantity } from '../../../core/quantity.ts';
import type { KeptCatalogue } from './keptCatalogue.ts';

function toItem([
  id,
  number,
  name,
  category,
  price,
  unit,
  decimals,
  taxCategoryId,
  stock,
  codes,
  more,
]: CatalogueRow): Item {
  return {
    id,
    number,
    name,
    category,
    price,
    unit,
    decimals,
    taxCategoryId,
    stock,
    codes,
    ...(more && { more }),
  };
}

const toRow = ({ more, ...item }: Item): CatalogueRow => {
  const { id, number, name, category, price, unit, decimals, taxCategoryId, stock, codes } = item;
  const row: CatalogueRow = [
    ...([id, number, name, category, price, unit, decimals, taxCategoryId, stock] as const),
    [...codes],
  ];
  if (more) row.push(more);
  return row;
};
const byName = (a: Item, b: Item) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0);

/** Where a till reads its catalogue. */
export interface CatalogueSource {
  /** What is most likely to be scanned first. */
  first(): Promise<CatalogueRow[]>;
  since(origin: string, revision: number): Promise<CatalogueAnswer>;
  stock(): Promise<[itemId: number, quantity: Quantity][]>;
  recall(): Promise<KeptCatalogue | undefined>;
  keep(copy: KeptCatalogue): Promise<void>;
  /** Lets something else have its turn. */
  pause(): Promise<void>;
}

/** So many changes since the copy was kept are worth keeping another one. */
const MANY = 1000;

/**
 * The till's copy of the catalogue and how it comes: from what the browser kept, or first what is likely to be
 * scanned and the rest behind it, so that the first scan need not wait for a hundred thousand items.
 */
export function tillCatalogue(source: CatalogueSource) {
  let items: Catalogue = createCatalogue([]);
  let origin = '';
  let revision = 0;
  /** Whether everything is here. */
  let whole = false;
  let arriving: Promise<void> = Promise.resolve();
  /** So much is another than in the copy that the browser keeps. */
  let changed = 0;
  let onNew = () => {};

  /** Builds the index of words, a piece at a time. */
  async function prepare(): Promise<void> {
    const mine = items;
    while (mine === items && mine.prepare()) await source.pause();
  }

  const keep = () => source.keep({ origin, revision, items: [...items.items()].sort(byName).map(toRow) });

  function replace(rows: readonly CatalogueRow[]): void {
    items = createCatalogue(rows.map(toItem));
    onNew();
  }

  function takeIn(answer: CatalogueAnswer): void {
    if (answer.whole) replace(answer.items);
    else {
      items.apply(answer.items.map(toItem), answer.removed);
      onNew();
    }
    ({ origin, revision } = answer);
    whole = true;
    changed += answer.items.length + answer.removed.length;
    const keeps = answer.whole || changed > MANY;
    if (keeps) changed = 0;
    // Who types is served first.
    void prepare().then(() => (keeps ? keep() : undefined));
  }

  let updated: Promise<void> = Promise.resolve();

  /** One after the other: an answer that comes late must not undo what a later one said. */
  function update(): Promise<void> {
    updated = updated.catch(() => {}).then(async () => takeIn(await source.since(origin, revision)));
    return updated;
  }

  /** Reads what goods can be sold with. @returns the rest, on its way */
  async function begin(): Promise<{ rest: Promise<void> }> {
    const kept = await source.recall();
    if (!kept) {
      replace(await source.first());
      // Another till of this page may have read its own before.
      origin = '';
      revision = 0;
      return { rest: update() };
    }
    replace(kept.items);
    ({ origin, revision } = kept);
    await update();
    return { rest: Promise.resolve() };
  }

  /** Waits until everything is here; what could not be read is tried again. */
  async function all(): Promise<void> {
    if (whole) return;
    arriving = arriving.catch(() => update());
    await arriving;
  }

  return {
    get items() {
      return items;
    },
    get whole() {
      return whole;
    },
    /** @param told called whenever items have come or changed */
    onChange(told: () => void): void {
      onNew = told;
    },
    /** Returns as soon as goods can be sold. */
    async load(): Promise<void> {
      whole = false;
      const begun = begin();
      arriving = begun.then(({ rest }) => rest);
      // Whoever needs the rest waits for it, and hears what is wrong.
      arriving.catch(() => {});
      await begun;
    },
    all,
    /** Reads what has changed since; what is still on its way is waited for, not asked for twice. */
    async refresh(): Promise<void> {
      await all();
      await update();
    },
    /** What was sold while nothing was heard. */
    async readStock(): Promise<void> {
      await all();
      items.setStock(await source.stock());
    },
    /** The items of some numbers; those that are no longer sold are left out. */
    async find(ids: readonly number[]): Promise<Item[]> {
      if (!whole && ids.some((id) => !items.find(id))) await all().catch(() => {});
      return ids.flatMap((id) => items.find(id) ?? []);
    },
    /** The item with exactly this number or code. */
    async recognise(code: string): Promise<Item | undefined> {
      const item = items.recognise(code);
      if (item || whole) return item;
      await all().catch(() => {});
      return items.recognise(code);
    },
    /** Items that fit the words; the rest is waited for where none does yet. */
    async search(text: string, most: number): Promise<Item[]> {
      const found = items.search(text, most);
      if (found.length > 0 || whole) return found;
      await all().catch(() => {});
      return items.search(text, most);
    },
  };
}
