/** The thread that holds the catalogue: it searches, recognises codes and prices baskets. */
import { expose } from 'comlink';
import type { Catalogue, CatalogueRow } from '../../../contract/goods.ts';
import type { CustomerPanel } from '../../../contract/people.ts';
import type { TillFacts } from '../../../contract/setup.ts';
import type { Basket } from '../../../core/counter/basket.ts';
import { pointsLeft, situationOf } from '../../../core/counter/offering.ts';
import { linesToPrice } from '../../../core/counter/toPrice.ts';
import { labelAmount, labelQuantity, readEmbeddedCode } from '../../../core/goods/embeddedCode.ts';
import { kindOf, type Item } from '../../../core/goods/item.ts';
import { offerConflicts, type OfferConflict } from '../../../core/offers/offerConflicts.ts';
import { offerExamples, type ExampleItem, type OfferExample } from '../../../core/offers/offerExamples.ts';
import type { Nudge } from '../../../core/nudges/nudge.ts';
import { findNudges } from '../../../core/nudges/nudges.ts';
import type { Offer, OfferGoods, OfferSituation } from '../../../core/offers/offer.ts';
import { indexOffers, means, type OfferedGoods } from '../../../core/offers/offerUnits.ts';
import { priceBasket, type PricedBasket } from '../../../core/pricing/price.ts';
import { ratesOn } from '../../../core/pricing/taxRates.ts';
import type { Quantity } from '../../../core/quantity.ts';
import { hasOtherScripts, writeOtherScripts } from '../../../core/words.ts';
import { Unreachable } from '../../net/problem.ts';
import { houseNow, setHouseClock } from '../../shop/houseClock.ts';
import { shopDay, shopTimeOfDay } from '../../shop/shopDay.ts';
import { keepCatalogue, recallCatalogue } from './keptCatalogue.ts';
import { tillCatalogue } from './tillCatalogue.ts';

let facts: TillFacts | undefined;
let customer: CustomerPanel | undefined;
let index = indexOffers([]);
/** So often something was asked that makes earlier suggestions useless. */
let asked = 0;
/** An offer that is being tried, on top of those that apply. */
let practised: Offer | null = null;
let examples = new WeakMap<OfferGoods, Item | undefined>();

/** What is not there by then does not come. A hundred thousand items take a while on a slow line. */
const LONGEST_MS = 5 * 60_000;
/** So long a basket waits at most to know its customer. */
const CUSTOMER_MS = 5000;

async function fetchJson<T>(path: string, longest = LONGEST_MS): Promise<T> {
  const lost = () => {
    throw new Unreachable(false);
  };
  const answer = await fetch(`/api${path}`, {
    credentials: 'same-origin',
    signal: AbortSignal.timeout(longest),
  }).catch(lost);
  if (!answer.ok) lost();
  return (await answer.json().catch(lost)) as T;
}

/** Goods in other scripts are found by plain letters as well; the table for that comes where there are any. */
async function withLettersFor(rows: readonly CatalogueRow[]): Promise<void> {
  if (rows.some(([, number, name, category]) => [number, name, category].some(hasOtherScripts)))
    writeOtherScripts((await import('any-ascii')).default);
}

/** Reads rows of the catalogue, with what their letters need. */
async function fetchRows<T>(path: string, rowsOf: (answer: T) => readonly CatalogueRow[]): Promise<T> {
  const answer = await fetchJson<T>(path);
  await withLettersFor(rowsOf(answer));
  return answer;
}

const placeId = () => facts?.till.placeId ?? 0;
const catalogue = tillCatalogue({
  first: () => fetchRows<CatalogueRow[]>('/counter/first-items', (rows) => rows),
  since: (origin, revision) =>
    fetchRows<Catalogue>(`/goods/catalogue?since=${revision}&origin=${origin}`, ({ items }) => items),
  stock: () => fetchJson('/goods/stock'),
  async recall() {
    const kept = await recallCatalogue(placeId());
    await withLettersFor(kept?.items ?? []);
    return kept;
  },
  keep: (copy) => keepCatalogue(placeId(), copy),
  pause: () => new Promise((go) => setTimeout(go)),
});
catalogue.onChange(() => {
  customer = undefined;
  examples = new WeakMap();
});

/** The basket's customer; nothing is known of them while the server cannot be asked. */
async function customerOf({ customer: wanted }: Basket): Promise<CustomerPanel | undefined> {
  if (wanted === undefined) return undefined;
  if (customer?.id !== wanted.id)
    customer = await fetchJson<CustomerPanel>(`/people/customers/${wanted.id}`, CUSTOMER_MS).catch(
      () => undefined,
    );
  return customer;
}

const goodsOf = (itemId: number): OfferedGoods | undefined => {
  const item = catalogue.items.find(itemId);
  return item && { itemId, familyId: item.more?.familyId, category: item.category };
};

/** What offers look at besides the lines. */
function situationFor(
  basket: Basket,
  till: TillFacts,
  panel: CustomerPanel | undefined,
  now = houseNow(),
): OfferSituation {
  return situationOf(basket, index.offers, {
    day: shopDay(now, till.shop.timezone),
    time: shopTimeOfDay(now, till.shop.timezone),
    placeId: till.till.placeId,
    used: till.offerCounts,
    customer: panel ?? null,
    points: till.points,
  });
}

/** Takes in the offers that apply, and the one that is tried. */
function takeOffers(): void {
  const offers = facts?.offers ?? [];
  index = indexOffers(
    practised
      ? [...offers.filter(({ id }) => id !== practised?.id), { ...practised, needs: 'nothing' }]
      : offers,
  );
}

/** The cheapest item that some goods name: what is suggested where none of them is in the basket. */
function example(goods: OfferGoods): Item | undefined {
  if (examples.has(goods)) return examples.get(goods);
  let found: Item | undefined;
  for (const item of catalogue.items.items()) {
    const { id, category, price, decimals, more } = item;
    if (!price || decimals > 0 || kindOf({ more }) !== 'goods' || (found && price >= (found.price ?? 0)))
      continue;
    if (means(goods, { itemId: id, familyId: more?.familyId, category })) found = item;
  }
  examples.set(goods, found);
  return found;
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
  /** Reads the catalogue for a till; the first goods can be sold once it answers. */
  async load(tillFacts: TillFacts): Promise<void> {
    this.setFacts(tillFacts);
    await catalogue.load();
  },
  /** Takes in what the shop has changed about itself: rates, layouts of codes. */
  setFacts(tillFacts: TillFacts): void {
    setHouseClock(tillFacts);
    facts = tillFacts;
    takeOffers();
    customer = undefined;
  },
  /** Reads what has changed since. */
  refresh: () => catalogue.refresh(),
  /** Reads what was not heard while the server could not be reached. */
  async catchUp(): Promise<void> {
    await catalogue.refresh();
    await catalogue.readStock();
  },
  setStock(levels: [itemId: number, quantity: Quantity][]): void {
    catalogue.items.setStock(levels);
  },
  search: (text: string, most: number) => catalogue.search(text, most),
  find: (ids: number[]) => catalogue.find(ids),
  /** The variants of a family, in the order in which they were listed. */
  async variants(familyId: number): Promise<Item[]> {
    await catalogue.all();
    return catalogue.items.variants(familyId);
  },
  async recognise(code: string): Promise<Recognised | null> {
    const item = await catalogue.recognise(code);
    if (item) return { item };
    const layouts = facts?.shop.codeLayouts ?? [];
    const read = readEmbeddedCode(code.trim(), layouts);
    const labelled = read && (await catalogue.recognise(read.itemCode));
    const amount = labelled ? labelAmount(code.trim(), labelled, layouts) : null;
    if (!read || !labelled || amount === null) return null;
    return {
      item: labelled,
      label: { code: code.trim(), amount },
      quantity: labelQuantity(read, labelled),
    };
  },
  /** The categories that goods are in, by name. */
  async categories(): Promise<string[]> {
    await catalogue.all();
    return [...new Set([...catalogue.items.items()].map(({ category }) => category))].sort((a, b) =>
      a.localeCompare(b),
    );
  },
  /** Baskets that show what an offer does. */
  async examples(offer: Offer): Promise<OfferExample[]> {
    await catalogue.all();
    return offerExamples(offer, (goods, most) => {
      const items: ExampleItem[] = [];
      const prices = new Set<number>();
      for (const { id, name, category, price, decimals, more } of catalogue.items.items()) {
        if (!price || decimals > 0 || kindOf({ more }) !== 'goods') continue;
        const one = { itemId: id, familyId: more?.familyId, category, name, price };
        // Different prices say more.
        if (!means(goods, one) || prices.has(price)) continue;
        prices.add(price);
        items.push(one);
        if (items.length === most) break;
      }
      return items;
    });
  },
  /** Other offers that mean the same goods. */
  async conflicts(offer: Offer): Promise<OfferConflict[]> {
    await catalogue.all();
    const goods = [...catalogue.items.items()]
      .filter((item) => kindOf(item) === 'goods')
      .map(({ id, name, category, more }) => ({ itemId: id, familyId: more?.familyId, category, name }));
    return offerConflicts(offer, facts?.offers ?? [], goods);
  },
  /** Tries an offer that is not live, or no more. */
  practise(offer: Offer | null): void {
    practised = offer;
    takeOffers();
  },
  /** What may be said to the customer about offers; nothing where something more urgent came between. */
  async nudges(basket: Basket): Promise<Nudge[]> {
    const turn = ++asked;
    const panel = await customerOf(basket);
    if (!facts || !catalogue.whole || index.offers.length === 0) return [];
    const { shop } = facts;
    const { rates, groupPrices } = priceFacts(facts, panel);
    const steps = findNudges(
      { lines: linesFor(basket, facts, panel), rules: shop, discounts: basket.discounts ?? [] },
      index,
      situationFor(basket, facts, panel),
      {
        names: {
          item: (id) => catalogue.items.find(id)?.name ?? '',
          place: () => facts?.till.place ?? '',
          digits: facts.currency.digits,
          points: facts.points.word,
        },
        example: (goods) => {
          const item = example(goods);
          const found = item && goodsOf(item.id);
          const [groupPrice] = groupPrices
            .filter(({ itemId }) => itemId === item?.id)
            .sort((one, other) => one.price - other.price);
          return (
            found && {
              ...found,
              price: item.price ?? 0,
              groupPrice: groupPrice && { unitPrice: groupPrice.price, group: groupPrice.group },
              rates: basket.exemption ? [] : (rates[item.taxCategoryId] ?? []),
            }
          );
        },
        points: pointsLeft(basket, index.offers, panel?.points ?? 0),
        asksForGroups: basket.customer === undefined,
      },
    );
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      // A scan that came meanwhile is priced first.
      await new Promise((go) => setTimeout(go));
      if (turn !== asked) return [];
    }
  },
  /** @param since when its payment began, where money is held for it: prices of that moment stand */
  async price(basket: Basket, since?: string): Promise<PricedWithStock> {
    asked += 1;
    return catalogueThread.look(basket, since);
  },
  /** What a basket comes to that is only looked at: nothing is asked of the one that is rung up. */
  async look(basket: Basket, since?: string): Promise<PricedWithStock> {
    const panel = await customerOf(basket);
    // Offers are given by what the catalogue says of the goods.
    await catalogue.find(basket.lines.map(({ itemId }) => itemId));
    if (!facts) throw new Error('the till is not ready');
    const now = since === undefined ? houseNow() : new Date(since);
    const priced = priceBasket(linesFor(basket, facts, panel, now), facts.shop, basket.discounts, {
      index,
      situation: situationFor(basket, facts, panel, now),
    });
    const stock = Object.fromEntries(
      basket.lines.map(({ itemId }) => [itemId, catalogue.items.find(itemId)?.stock ?? null]),
    );
    return { priced, stock };
  },
};

/** What prices depend on besides the basket. */
const priceFacts = ({ shop, taxRates }: TillFacts, panel: CustomerPanel | undefined, now = houseNow()) => ({
  rates: ratesOn(taxRates, shopDay(now, shop.timezone)),
  groupPrices: panel?.groupPrices ?? [],
});

const linesFor = (basket: Basket, till: TillFacts, panel: CustomerPanel | undefined, now = houseNow()) =>
  linesToPrice(basket, { ...priceFacts(till, panel, now), goodsOf });

export type CatalogueThread = typeof catalogueThread;

expose(catalogueThread);
