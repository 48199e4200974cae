import type { Money } from '../money.ts';
import type { Currency } from './currency.ts';

/** What goes back to the customer: cash given minus what was due. Below zero while it does not suffice. */
export function change(given: Money, due: Money): Money {
  return given - due;
}

/**
 * The amounts a person is likely to hand over: the exact amount first, then the due rounded up to each
 * note of the currency and to the whole unit, ascending and distinct.
 * @param due what is to be paid, above zero
 * @param most how many amounts at most, the exact one included
 */
export function likelyAmounts(due: Money, { pieces, digits }: Currency, most = 5): Money[] {
  if (due <= 0) return [];
  const steps = new Set(pieces.filter(({ kind }) => kind === 'note').map(({ value }) => value));
  steps.add(10 ** digits);
  const above = [...steps].map((step) => Math.ceil(due / step) * step).filter((amount) => amount > due);
  return [due, ...[...new Set(above)].sort((a, b) => a - b)].slice(0, most);
}
