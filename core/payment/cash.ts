import type { Money } from '../money.ts';
import type { Currency } from './currency.ts';

/** What goes back to the customer: cash given minus what was due. Below zero while it does not suffice. */
export function change(given: Money, due: Money): Money {
  return given - due;
}

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
  const above = [...steps].map((step) => Math.ceil(due / step) * step).filter((amount) => amount > due);
  return [due, ...[...new Set(above)].sort((a, b) => a - b)].slice(0, most);
}
