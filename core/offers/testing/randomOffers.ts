/** Made-up offers and baskets for tests and benchmarks; the same for the same seed. */
import type { CombinationReward, Offer, OfferGoods, OfferOff, OfferRule, OpenOffer } from '../offer.ts';
import { indexOffers, type OfferIndex, type OfferLine } from '../offerUnits.ts';

/** Numbers from 0 to below 1 (mulberry32). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

/** How wild the offers are. */
export interface OfferStyle {
  /** How many different goods there are; the fewer, the more offers touch one another. */
  items: number;
  kinds: readonly OfferRule['kind'][];
  /** Part of the offers that combine. */
  combining: number;
  /** Part of the offers that may apply only so often. */
  limited: number;
}

export const EVERY_KIND: readonly OfferRule['kind'][] = ['each', 'together', 'together', 'quantity', 'spend'];

const CATEGORY_SIZE = 4;
const categoryOf = (item: number) => `c${Math.floor(item / CATEGORY_SIZE)}`;

/** Prices of goods, as shops make them: many alike, some odd. */
export const priceOfItem = (item: number): number =>
  [350, 350, 499, 750, 1290, 1290, 1999, 2400, 2505, 3990, 333, 101][item % 12] ?? 500;

export function randomOffers(random: () => number, count: number, style: OfferStyle): Offer[] {
  return Array.from({ length: count }, (_, at) => randomOffer(random, at + 1, style));
}

function randomOffer(random: () => number, id: number, style: OfferStyle): Offer {
  const below = (end: number) => Math.floor(random() * end);
  const pick = <T>(list: readonly T[]): T => list[below(list.length)] as T;
  const goods = (): OfferGoods => {
    const kind = random();
    if (kind < 0.06) return { itemIds: [], categories: [] };
    if (kind < 0.5) return { itemIds: [], categories: [categoryOf(below(style.items))] };
    return { itemIds: Array.from({ length: 1 + below(4) }, () => 1 + below(style.items)), categories: [] };
  };
  const rate = () => pick([50_000, 100_000, 125_000, 200_000, 333_333, 500_000]);
  const off = (): OfferOff =>
    random() < 0.6 ? { kind: 'percent', rate: rate() } : { kind: 'amount', amount: 50 + below(400) };

  function rule(): OfferRule {
    const kind = pick(style.kinds);
    switch (kind) {
      case 'each':
        return {
          kind,
          goods: goods(),
          off: random() < 0.2 ? { kind: 'price', price: 100 + below(900) } : off(),
        };
      case 'together': {
        const groups = Array.from({ length: 1 + below(3) }, () => ({ goods: goods(), count: 1 + below(3) }));
        const size = groups.reduce((whole, group) => whole + group.count, 0);
        return { kind, groups, reward: reward(groups.length, size) };
      }
      case 'quantity': {
        const from = 2 + below(5);
        return {
          kind,
          goods: goods(),
          tiers: [
            { from, rate: 80_000 },
            ...(random() < 0.5 ? [{ from: from + 2 + below(4), rate: 150_000 }] : []),
          ],
        };
      }
      case 'spend': {
        const from = 500 * (1 + below(10));
        const percent = random() < 0.4;
        const tier = (part: number) =>
          percent
            ? ({ kind: 'percent', rate: part * 60_000 } as const)
            : ({ kind: 'amount', amount: Math.floor((from * part) / 10) } as const);
        return {
          kind,
          goods: goods(),
          tiers: [{ from, off: tier(1) }, ...(random() < 0.3 ? [{ from: 2 * from, off: tier(3) }] : [])],
        };
      }
    }
  }

  function reward(groups: number, size: number): CombinationReward {
    const kind = pick(['cheapest', 'percent', 'amount', 'price'] as const);
    if (kind === 'cheapest')
      return { kind, count: 1 + below(Math.max(1, size - 1)), rate: pick([1_000_000, 500_000]) };
    if (kind === 'percent') return { kind, rates: Array.from({ length: groups }, () => pick([0, rate()])) };
    return kind === 'amount'
      ? { kind, amount: 100 + below(600) }
      : { kind, price: size * (200 + below(700)) };
  }

  return {
    id,
    name: `Offer ${id}`,
    rule: rule(),
    combines: random() < style.combining,
    conditions: {
      from: null,
      to: null,
      weekdays: [],
      hours: null,
      placeIds: [],
      groups: [],
      minimum: random() < 0.1 ? below(4000) : 0,
    },
    limits: { perSale: random() < style.limited ? 1 + below(3) : null, perCustomer: null, total: null },
    needs: 'nothing',
    points: 0,
  };
}

/** A basket of so many units in all, some of them on one line. */
export function randomBasket(random: () => number, units: number, items: number): OfferLine[] {
  const counts = new Map<number, number>();
  for (let at = 0; at < units; at++) {
    const item = Math.floor(random() * items);
    counts.set(item, (counts.get(item) ?? 0) + 1);
  }
  return [...counts].map(([item, count], at): OfferLine => {
    const regular = priceOfItem(item) * count;
    return {
      id: `line ${String(at).padStart(4, '0')}`,
      goods: { itemId: item + 1, category: categoryOf(item) },
      quantity: count * 1000,
      counted: item % 17 !== 16,
      regular,
      net: random() < 0.05 ? Math.floor(regular * 0.8) : regular,
      closed: false,
    };
  });
}

/** A basket and the offers that are open to it. */
export interface OfferCase {
  lines: OfferLine[];
  open: OpenOffer[];
  index: OfferIndex;
}

/** No unit costs less. */
const LEAST_PRICE = 80;

export function caseOf(offers: Offer[], lines: OfferLine[]): OfferCase {
  const open = offers.map((offer) => ({ offer, limit: offer.limits.perSale ?? Number.POSITIVE_INFINITY }));
  return { lines, open, index: indexOffers(offers) };
}

/** A case small enough for the exact program; amounts stay below what any combination costs, as the program asks. */
export function exactCase(seed: number): OfferCase {
  const random = randomFrom(seed);
  const hostile = seed % 4 === 3;
  const style = { items: hostile ? 4 : 12, kinds: EVERY_KIND, combining: 0, limited: 0.3 };
  const offers = randomOffers(random, 2 + Math.floor(random() * (hostile ? 6 : 10)), style).map(
    (offer): Offer => {
      const { rule } = offer;
      if (rule.kind !== 'together' || rule.reward.kind !== 'amount') return offer;
      const size = rule.groups.reduce((total, { count }) => total + count, 0);
      return {
        ...offer,
        rule: {
          ...rule,
          reward: { kind: 'amount', amount: Math.min(rule.reward.amount, size * LEAST_PRICE) },
        },
      };
    },
  );
  return caseOf(offers, randomBasket(random, 2 + Math.floor(random() * (hostile ? 9 : 12)), style.items));
}
