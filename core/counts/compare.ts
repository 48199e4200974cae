import type { Quantity } from '../quantity.ts';

/** How an item was counted, from the first entry to the last; quantities in thousandths. */
export interface CountedItem {
  counted: Quantity;
  /** What the books said at the last entry. */
  level: Quantity;
  /** What came and what left between the first entry and the last. */
  came: Quantity;
  left: Quantity;
}

/**
 * How much more or less there is than the books say. With one entry it is what was counted less what the books said
 * then. Of what moved between two entries nobody knows on which side of the counting hand it lay: whatever the count
 * can be for a shop whose books are right makes no difference, beyond that the least that explains it does. A right
 * count of a selling shop is therefore never off.
 */
export function differenceOf({ counted, level, came, left }: CountedItem): Quantity {
  const [least, most] = [level - came, level + left];
  if (counted < least) return counted - least;
  return counted > most ? counted - most : 0;
}

/** A count's number as it is written. */
export const countNumber = (number: number): string => `Z-${String(number).padStart(4, '0')}`;
