import type { Money } from '../money.ts';
import type { Currency } from './currency.ts';

/** What goes back to the customer: cash given minus what was due. Below zero while it does not suffice. */
export function change(given: Money, due: Money): Money {
  return given - due;
}

/** What the smallest coin in use can be, where smaller ones are out of use. */
export const CASH_COINS: readonly Money[] = [5, 10, 50, 100];

const SMALL_NOTE = 5;

/**
 * The amounts a person is likely to hand over: the exact amount first, then the due rounded up to each
 * note of the currency and to the whole unit, ascending and distinct.
 * Small notes count as whole units: nobody rounds up to an even number.
 * @param due what is to be paid, above zero
 * @param most how many amounts at most, the exact one included
 */
export function likelyAmounts(due: Money, { pieces, digits }: Currency, most = 6): Money[] {
  if (due <= 0) return [];
  const unit = 10 ** digits;
  const steps = new Set(pieces.filter(({ value }) => value >= SMALL_NOTE * unit).map(({ value }) => value));
  steps.add(unit);
  const rounded = [...steps].map((step) => Math.ceil(due / step) * step).filter((amount) => amount > due);
  const likely = [due, ...[...new Set(rounded)].sort((a, b) => a - b)];
  if (likely.length <= most) return likely;
  // The next notes of a larger kind are what people have: the last place is for the largest step in reach.
  const first = likely.slice(0, most - 1);
  const above = likely.slice(most - 1);
  const last = above.find((amount) => amount % (100 * unit) === 0) ?? above[0] ?? due;
  return [...first, last];
}

/**
 * What cash has to be rounded by where the small coins are out of use: to the nearest multiple of the smallest piece,
 * halves up. The rest is a line of its own.
 * @param step the smallest amount that can be paid in cash; 0 or 1 rounds nothing
 * @returns what is added to the amount, below zero when it is rounded down
 */
export function cashRounding(amount: Money, step: Money): Money {
  if (step <= 1) return 0;
  const over = amount % step;
  return over * 2 >= step ? step - over : 0 - over;
}
