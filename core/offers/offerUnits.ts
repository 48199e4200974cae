import type { Money } from '../money.ts';
import { ONE, type Quantity } from '../quantity.ts';
import { groupsOf, type Offer, type OfferGoods } from './offer.ts';

/** What an offer looks at when it asks whether it means some goods. */
export interface OfferedGoods {
  itemId: number;
  /** The family that the item is a variant of. */
  familyId?: number | undefined;
  category: string;
}

/** A line of the basket as far as it is priced when offers come to it. */
export interface OfferLine {
  id: string;
  goods: OfferedGoods;
  quantity: Quantity;
  /** Sold in whole units. What is cut or weighed is one unit and is not counted. */
  counted: boolean;
  /** At list price. */
  regular: Money;
  /** What it costs so far. */
  net: Money;
  /** Takes part in no offer. */
  closed: boolean;
}

/** Units of a line that cost the same, counted. */
export interface OfferUnit {
  /** Sorts equal prices the same way on every till. */
  key: string;
  /** So many of them. */
  count: number;
  /** Which line it is of. */
  line: number;
  goods: OfferedGoods;
  counted: boolean;
  /** What it costs before offers. */
  price: Money;
  list: Money;
}

/**
 * The units of lines that may take part in offers, dearest first; those of a line that cost the same are counted, not
 * laid out. What comes back and what costs nothing takes no part.
 */
export function unitsOf(lines: readonly OfferLine[]): OfferUnit[] {
  const units: OfferUnit[] = [];
  lines.forEach(({ id, goods, quantity, counted, regular, net, closed }, line) => {
    if (closed || quantity <= 0 || net <= 0) return;
    const whole = counted ? quantity / ONE : 1;
    // The odd cents of what the line costs go to its first units.
    const edges = [...new Set([0, net % whole, regular % whole, whole])].sort((a, b) => a - b);
    edges.slice(1).forEach((to, place) => {
      const at = edges[place] ?? 0;
      const price = part(net, whole, at);
      if (price <= 0) return;
      const key = `${String(goods.itemId).padStart(9, '0')} ${id} ${String(at).padStart(5, '0')}`;
      units.push({ key, line, goods, counted, price, list: part(regular, whole, at), count: to - at });
    });
  });
  return units.sort(byRank);
}

/** How many units there are, counting each. */
export const howMany = (units: readonly { count: number }[]): number =>
  units.reduce((all, { count }) => all + count, 0);

/** Counted units, each for itself. */
export const laidOut = (units: readonly OfferUnit[]): OfferUnit[] =>
  units
    .flatMap((unit) =>
      unit.count === 1
        ? [unit]
        : Array.from({ length: unit.count }, (_, at) => ({
            ...unit,
            key: `${unit.key} ${String(at).padStart(5, '0')}`,
            count: 1,
          })),
    )
    .sort(byRank);

/** The share of one of `count` equal parts; the odd cents go to the first ones. */
const part = (amount: Money, count: number, at: number): Money => {
  const rest = amount % count;
  return (amount - rest) / count + (at < rest ? 1 : 0);
};

/** Dearest first, then the pinned order. */
export const byRank = (a: OfferUnit, b: OfferUnit): number =>
  b.price - a.price || (a.key < b.key ? -1 : a.key > b.key ? 1 : 0);

/** Whether an offer means some goods. */
export function means(
  { itemIds, categories }: OfferGoods,
  { itemId, familyId, category }: OfferedGoods,
): boolean {
  if (itemIds.length === 0 && categories.length === 0) return true;
  return (
    itemIds.includes(itemId) ||
    (familyId !== undefined && itemIds.includes(familyId)) ||
    categories.includes(category)
  );
}

/** Finds the offers that mean some goods. */
export interface OfferIndex {
  offers: readonly Offer[];
  /** Offers and which of their groups mean the goods. */
  find(goods: OfferedGoods): ReadonlyMap<Offer, readonly number[]>;
}

/** Indexes offers by item and category once, so that a basket asks only those that touch it. */
export function indexOffers(offers: readonly Offer[]): OfferIndex {
  const byItem = new Map<number, [Offer, number][]>();
  const byCategory = new Map<string, [Offer, number][]>();
  const always: [Offer, number][] = [];
  const known = new Map<string, ReadonlyMap<Offer, readonly number[]>>();
  for (const offer of offers) {
    groupsOf(offer.rule).forEach(({ goods: { itemIds, categories } }, group) => {
      for (const id of itemIds) byItem.set(id, [...(byItem.get(id) ?? []), [offer, group]]);
      for (const one of categories) byCategory.set(one, [...(byCategory.get(one) ?? []), [offer, group]]);
      if (itemIds.length === 0 && categories.length === 0) always.push([offer, group]);
    });
  }
  return {
    offers,
    find({ itemId, familyId, category }) {
      const key = `${itemId} ${familyId ?? ''} ${category}`;
      const before = known.get(key);
      if (before) return before;
      const found = new Map<Offer, number[]>();
      const hits = [
        ...always,
        ...(byItem.get(itemId) ?? []),
        ...(familyId === undefined ? [] : (byItem.get(familyId) ?? [])),
        ...(byCategory.get(category) ?? []),
      ];
      for (const [offer, group] of hits) {
        const groups = found.get(offer);
        if (!groups) found.set(offer, [group]);
        else if (!groups.includes(group)) groups.push(group);
      }
      known.set(key, found);
      return found;
    },
  };
}
