import { counted } from '../locale.ts';
import { sum } from '../money.ts';
import { formatQuantity, ONE, type Quantity } from '../quantity.ts';

/** What is known of an item at a place when somebody asks what to order; quantities in thousandths. */
export interface StockFacts {
  /** On hand less what is set aside. */
  available: Quantity;
  /** Ordered and not received yet. */
  onOrder: Quantity;
  /** Below `point`, it is ordered up to `target`; null where nobody set it. */
  reorder: { point: Quantity; target: Quantity } | null;
  /** Sold in so many days on which some was there. */
  sold: { quantity: Quantity; days: number };
  /** How it comes from its supplier: in packs of so many, at least so many. */
  pack: Quantity;
  least: Quantity;
}

/** What moved of an item on a day, counted from the first that is looked at, and what was sold of it. */
export interface DayMoved {
  day: number;
  moved: Quantity;
  sold: Quantity;
}

/**
 * What was sold of an item, and on how many days some was there at the end: what could not be sold says nothing about
 * how it sells.
 * @param level on hand now
 * @param moved each day on which some moved
 * @param days the number of the last day, which is not over
 */
export function soldOf(level: Quantity, moved: readonly DayMoved[], days: number): StockFacts['sold'] {
  const byDay = new Map(moved.map((one) => [one.day, one.moved]));
  let [left, there] = [level, 0];
  for (let day = days; day >= 0; day--) {
    if (left > 0) there += 1;
    left -= byDay.get(day) ?? 0;
  }
  return { quantity: sum(moved.map(({ sold }) => sold)), days: there };
}

export interface Suggestion {
  quantity: Quantity;
  /** Why so much, in words. */
  reason: string;
}

/**
 * What to order: up to its target where less than its point is to be had, or else enough for days of cover; in whole
 * packs and not less than the supplier sends. Nothing where there is enough.
 * @param cover for how many days it shall last where nobody set a point; zero for none of those
 */
export function suggest(facts: StockFacts, cover: number): Suggestion | null {
  const { available, onOrder, reorder, sold } = facts;
  const have = available + onOrder;
  const ordered = onOrder > 0 ? `, ${formatQuantity(onOrder)} on order` : '';
  const there = `${formatQuantity(available)} available${ordered}`;
  if (reorder) {
    if (have >= reorder.point) return null;
    const quantity = inPacks(reorder.target - have, facts);
    return {
      quantity,
      reason: `${there}; below ${formatQuantity(reorder.point)}, up to ${formatQuantity(reorder.target)}${packWords(facts)}`,
    };
  }
  if (cover <= 0 || sold.days <= 0 || sold.quantity <= 0) return null;
  const needed = Math.ceil((sold.quantity * cover) / sold.days / ONE) * ONE;
  if (have >= needed) return null;
  return {
    quantity: inPacks(needed - have, facts),
    reason: `${there}; ${formatQuantity(sold.quantity)} sold in ${counted(sold.days, 'day')}, for ${counted(cover, 'day')} ${formatQuantity(needed)}${packWords(facts)}`,
  };
}

const packWords = ({ pack }: StockFacts): string =>
  pack > ONE ? `, in packs of ${formatQuantity(pack)}` : '';

/** At least so much, in whole packs and not less than is sent at all. */
function inPacks(wanted: Quantity, { pack, least }: Pick<StockFacts, 'pack' | 'least'>): Quantity {
  return Math.ceil(Math.max(wanted, least) / pack) * pack;
}
