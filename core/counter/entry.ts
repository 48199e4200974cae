import { MOST, parseQuantity, type Quantity } from '../quantity.ts';

/** What somebody typed or scanned into the entry field: a quantity in front, if any, and the rest. */
export interface Entry {
  quantity?: Quantity;
  text: string;
}

/**
 * Reads `3*REE-BC25` as quantity 3 of `REE-BC25` and `-1*REE-BC25` as one that comes back; anything without a
 * quantity and `*` in front is all text.
 */
export function parseEntry(typed: string): Entry {
  const star = /^\s*([-\u2212]?[\d.,]+)\s*\*\s*(.*)$/.exec(typed);
  const quantity = star?.[1] === undefined ? null : parseQuantity(star[1]);
  if (!star || quantity === null || quantity === 0 || Math.abs(quantity) > MOST)
    return { text: typed.trim() };
  return { quantity, text: (star[2] ?? '').trim() };
}
