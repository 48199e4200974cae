import type { Money } from '../money.ts';

/** What totals can be rounded up to a multiple of. */
export const ROUND_UP_STEPS: readonly Money[] = [100, 500, 1000];

/** What rounds a total up to the next multiple of a step; zero where it is one already. @param step above zero */
export function roundUpAmount(total: Money, step: Money): Money {
  return total <= 0 ? 0 : (step - (total % step)) % step;
}
