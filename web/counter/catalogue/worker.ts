/** The thread that holds the catalogue: it searches, recognises codes and prices baskets. */
import { expose } from 'comlink';
import type { Catalogue as CatalogueAnswer, CatalogueRow } from '../../../contract/goods.ts';
import type { TillFacts } from '../../../contract/setup.ts';
import type { Basket } from '../../../core/counter/basket.ts';
import { createCatalogue } from '../../../core/goods/catalogue.ts';
import type { Item } from '../../../core/goods/item.ts';
import { priceBasket, type PricedBasket } from '../../../core/offers/price.ts';
import type { Quantity } from '../../../core/quantity.ts';

let catalogue = createCatalogue([]);
let facts: TillFacts | undefined;
let revision = 0;

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
]: CatalogueRow): Item {
  return { id, number, name, category, price, unit, decimals, taxCategoryId, stock, codes };
}

async function fetchSince(since: number): Promise<CatalogueAnswer> {
  const answer = await fetch(`/api/goods/catalogue?since=${since}`, { credentials: 'same-origin' });
  if (!answer.ok) throw new Error('The catalogue could not be read.');
  return (await answer.json()) as CatalogueAnswer;
}

/** A priced basket with the stock of its items at this place; `null` for what is not kept in stock. */
export interface PricedWithStock {
  priced: PricedBasket;
  stock: Record<number, Quantity | null>;
}

const catalogueThread = {
  /** Reads the catalogue for a till. @returns how many items there are */
  async load(tillFacts: TillFacts): Promise<number> {
    facts = tillFacts;
    const answer = await fetchSince(0);
    catalogue = createCatalogue(answer.items.map(toItem));
    revision = answer.revision;
    return catalogue.size;
  },
  /** Reads what has changed since. */
  async refresh(): Promise<void> {
    const answer = await fetchSince(revision);
    catalogue.apply(answer.items.map(toItem), answer.removed);
    revision = answer.revision;
  },
  setStock(levels: [itemId: number, quantity: Quantity][]): void {
    catalogue.setStock(levels);
  },
  search(text: string, most: number): Item[] {
    return catalogue.search(text, most);
  },
  /** The items of some numbers; those that are no longer sold are left out. */
  find(ids: number[]): Item[] {
    return ids.flatMap((id) => catalogue.find(id) ?? []);
  },
  recognise(code: string): Item | null {
    return catalogue.recognise(code) ?? null;
  },
  price({ lines, exemption }: Basket): PricedWithStock {
    if (!facts) throw new Error('the till is not ready');
    const { shop, taxRates } = facts;
    const priced = priceBasket(
      lines.map((line) => ({ ...line, rates: exemption ? [] : (taxRates[line.taxCategoryId] ?? []) })),
      shop,
    );
    const stock = Object.fromEntries(
      lines.map(({ itemId }) => [itemId, catalogue.find(itemId)?.stock ?? null]),
    );
    return { priced, stock };
  },
};

export type CatalogueThread = typeof catalogueThread;

expose(catalogueThread);
