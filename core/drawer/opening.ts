import type { Money } from '../money.ts';

/** How a drawer is opened. */
export interface Opening {
  counted: Money;
  /** What the last shift left in it. */
  left: Money;
  /** What was brought from the safe; below zero: put into it. */
  fromSafe: Money;
  /** What is counted more (or less) than there should be. */
  variance: Money;
}

/**
 * What an opening count means. Where nothing was left, everything came from the safe; else only what is said to.
 * @param said what was brought from the safe, where somebody said it
 */
export function openingOf(counted: Money, left: Money, said?: Money): Opening {
  const fromSafe = said ?? (left === 0 ? counted : 0);
  return { counted, left, fromSafe, variance: counted - left - fromSafe };
}
