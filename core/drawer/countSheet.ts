import { sum, type Money } from '../money.ts';
import type { Currency } from '../payment/currency.ts';

/** How many pieces of each denomination: the key is the denomination's value in minor units. */
export type Pieces = Record<string, number>;

/** What the pieces are worth together. */
export function worth(pieces: Pieces): Money {
  return sum(Object.entries(pieces).map(([value, count]) => Number(value) * count));
}

/** What was counted: piece by piece, or as one total where the shop allows it. */
export interface Count {
  pieces: Pieces;
  /** The whole amount, where nobody counted pieces. */
  total?: Money | null | undefined;
}

export const countedOf = ({ pieces, total }: Count): Money => total ?? worth(pieces);

/** `from` without `taken`, piece by piece; denominations with nothing left are dropped. */
export function without(from: Pieces, taken: Pieces): Pieces {
  const left: Pieces = {};
  for (const [value, count] of Object.entries(from)) {
    const rest = count - (taken[value] ?? 0);
    if (rest !== 0) left[value] = rest;
  }
  return left;
}

/**
 * The values on the sheet that are not pieces of the currency, or whose count is not a whole number from 0 to
 * 100,000.
 */
export function wrongPieces(pieces: Pieces, { pieces: known }: Currency): string[] {
  const values = new Set(known.map(({ value }) => String(value)));
  return Object.entries(pieces)
    .filter(
      ([value, count]) => !values.has(value) || !Number.isInteger(count) || count < 0 || count > 100_000,
    )
    .map(([value]) => value);
}
