import { multiplyDivide, type Money } from '../money.ts';
import { WHOLE, type Rate } from '../rate.ts';

/** What rounds a total up to the next multiple of a step; zero where it is one already. @param step above zero */
export function roundUpAmount(total: Money, step: Money): Money {
  return total <= 0 ? 0 : (step - (total % step)) % step;
}

/** What a terminal suggests as tips: parts of the amount, rounded half away from zero. */
export function tipChoices(amount: Money, rates: readonly Rate[]): { rate: Rate; amount: Money }[] {
  return rates.map((rate) => ({ rate, amount: multiplyDivide(amount, rate, WHOLE) }));
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
