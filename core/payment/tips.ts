import { multiplyDivide, type Money } from '../money.ts';
import { WHOLE, type Rate } from '../rate.ts';

/** What a terminal suggests as tips: parts of the amount, rounded half away from zero. */
export function tipChoices(amount: Money, rates: readonly Rate[]): { rate: Rate; amount: Money }[] {
  return rates.map((rate) => ({ rate, amount: multiplyDivide(amount, rate, WHOLE) }));
}
