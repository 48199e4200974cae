/** The thread that holds the catalogue: it searches, recognises codes and prices baskets. */
import { expose } from 'comlink';
import type { Catalogue as CatalogueAnswer, CatalogueRow } from '../../../contract/goods.ts';
import type { CustomerPanel } from '../../../contract/people.ts';
import type { TillFacts } from '../../../contract/setup.ts';
import type { Basket } from '../../../core/counter/basket.ts';
import { linesToPrice, type GroupPrice } from '../../../core/counter/toPrice.ts';
import { createCatalogue } from '../../../core/goods/catalogue.ts';
import { labelAmount, labelQuantity, readEmbeddedCode } from '../../../core/goods/embeddedCode.ts';
import type { Item } from '../../../core/goods/item.ts';
import { priceBasket, type PricedBasket } from '../../../core/offers/price.ts';
import { ratesOn } from '../../../core/offers/taxRates.ts';
import type { Quantity } from '../../../core/quantity.ts';
import { houseNow, setHouseClock } from '../../setup/houseClock.ts';
import { shopDay } from '../../setup/shopDay.ts';

let catalogue = createCatalogue([]);
let facts: TillFacts | undefined;
let revision = 0;
let customer: { id: number; groupPrices: GroupPrice[] } | undefined;

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

async function fetchJson<T>(path: string): Promise<T> {
  const answer = await fetch(`/api${path}`, { credentials: 'same-origin' });
  if (!answer.ok) throw new Error(`${path} could not be read.`);
  return (await answer.json()) as T;
}

const fetchSince = (since: number) => fetchJson<CatalogueAnswer>(`/goods/catalogue?since=${since}`);

/** Prices for the groups that the basket's customer belongs to; none while the server cannot be asked. */
async function groupPricesFor(id: number | undefined): Promise<GroupPrice[]> {
  if (id === undefined) return [];
  if (customer?.id !== id) {
    const panel = await fetchJson<CustomerPanel>(`/people/customers/${id}`).catch(() => undefined);
    if (!panel) return [];
    customer = { id, groupPrices: panel.groupPrices };
  }
  return customer.groupPrices;
}

/** A priced basket with the stock of its items at this place; `null` for what is not kept in stock. */
export interface PricedWithStock {
  priced: PricedBasket;
  stock: Record<number, Quantity | null>;
}

/** What a code means: an item, and what the label says where a price or weight stands in it. */
export interface Recognised {
  item: Item;
  label?: { code: string; amount: number };
  quantity?: Quantity;
}

const catalogueThread = {
  /** Reads the catalogue for a till. @returns how many items there are */
  async load(tillFacts: TillFacts): Promise<number> {
    this.setFacts(tillFacts);
    const answer = await fetchSince(0);
    catalogue = createCatalogue(answer.items.map(toItem));
    revision = answer.revision;
    return catalogue.size;
  },
  /** Takes in what the shop has changed about itself: rates, layouts of codes. */
  setFacts(tillFacts: TillFacts): void {
    setHouseClock(tillFacts);
    facts = tillFacts;
  },
  /** Reads what has changed since. */
  async refresh(): Promise<void> {
    const answer = await fetchSince(revision);
    catalogue.apply(answer.items.map(toItem), answer.removed);
    revision = answer.revision;
    customer = undefined;
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
  /** The variants of a family, in the order in which they were listed. */
  variants(familyId: number): Item[] {
    return catalogue.variants(familyId);
  },
  recognise(code: string): Recognised | null {
    const item = catalogue.recognise(code);
    if (item) return { item };
    const layouts = facts?.shop.codeLayouts ?? [];
    const read = readEmbeddedCode(code.trim(), layouts);
    const labelled = read && catalogue.recognise(read.itemCode);
    const amount = labelled ? labelAmount(code.trim(), labelled, layouts) : null;
    if (!read || !labelled || amount === null) return null;
    return {
      item: labelled,
      label: { code: code.trim(), amount },
      quantity: labelQuantity(read, labelled),
    };
  },
  async price(basket: Basket): Promise<PricedWithStock> {
    const groupPrices = await groupPricesFor(basket.customer?.id);
    if (!facts) throw new Error('the till is not ready');
    const { shop, taxRates } = facts;
    const rates = ratesOn(taxRates, shopDay(houseNow(), shop.timezone));
    const priced = priceBasket(linesToPrice(basket, { rates, groupPrices }), shop, basket.discounts);
    const stock = Object.fromEntries(
      basket.lines.map(({ itemId }) => [itemId, catalogue.find(itemId)?.stock ?? null]),
    );
    return { priced, stock };
  },
};

export type CatalogueThread = typeof catalogueThread;

expose(catalogueThread);
