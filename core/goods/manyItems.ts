import { multiplyDivide, type Money } from '../money.ts';
import { WHOLE, type Rate } from '../rate.ts';
import { MOST_ITEM_TAGS, type ItemRecord } from './itemRecord.ts';

/** What the last two digits of a price may be made, in a currency with two. */
export const ENDINGS = [0, 50, 90, 95, 99] as const;
export type Ending = (typeof ENDINGS)[number];

/** How prices of many items change: by an amount or a part, up or down, or to an amount; then to an ending. */
export interface PriceChange {
  by: 'amount' | 'percent' | 'to';
  amount: Money;
  rate: Rate;
  ending: Ending | null;
  /** The first day on which the new price counts; empty for at once. */
  from: string;
}

/** What is changed of many items at once; what is not named stays. */
export interface ManyChange {
  category: string | null;
  taxCategoryId: number | null;
  addTags: readonly string[];
  dropTags: readonly string[];
  active: boolean | null;
  price: PriceChange | null;
}

/** So many items are changed at once. */
export const MOST_AT_ONCE = 5_000;

/**
 * The nearest price with an ending, the higher one of two; never below zero. @param digits of the currency: only two
 * have endings
 */
export function withEnding(price: Money, ending: Ending | null, digits: number): Money {
  if (ending === null || digits !== 2 || price <= 0) return price;
  const below = Math.floor((price - ending) / 100) * 100 + ending;
  if (below < 0) return ending;
  return price - below < below + 100 - price ? below : below + 100;
}

/** A price after a change. @returns `null` where it would fall below zero */
export function changedPrice(price: Money, change: PriceChange, digits: number): Money | null {
  const next =
    change.by === 'to'
      ? change.amount
      : change.by === 'amount'
        ? price + change.amount
        : price + multiplyDivide(price, change.rate, WHOLE);
  return next < 0 ? null : withEnding(next, change.ending, digits);
}

/** An item after a change of many, with the price that it gets, at once or from a day on; or why it cannot have it. */
export function changedItem(
  record: ItemRecord,
  change: ManyChange,
  digits: number,
): { record: ItemRecord; price: Money | null } | string {
  const tags = [
    ...new Set([...record.tags.filter((tag) => !change.dropTags.includes(tag)), ...change.addTags]),
  ].toSorted();
  if (tags.length > MOST_ITEM_TAGS) return `It would have more than ${MOST_ITEM_TAGS} tags.`;
  let price: Money | null = null;
  if (change.price) {
    if (record.price === null) return 'It has no price of its own.';
    price = changedPrice(record.price, change.price, digits);
    if (price === null) return 'Its price would fall below zero.';
  }
  return {
    record: {
      ...record,
      tags,
      category: change.category ?? record.category,
      taxCategoryId: change.taxCategoryId ?? record.taxCategoryId,
      active: change.active ?? record.active,
      price: price !== null && change.price?.from === '' ? price : record.price,
    },
    price,
  };
}
