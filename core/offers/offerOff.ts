import { formatMoney, type Money } from '../money.ts';
import { formatRate, rateOf, WHOLE } from '../rate.ts';
import type { OfferNames } from './goodsWords.ts';
import type { OfferOff } from './offer.ts';

/** A part, an amount, or what it costs instead. */
type UnitOff = OfferOff | { kind: 'price'; price: Money };

/** What a unit that is for itself is reduced by. */
export function offEach(price: Money, off: UnitOff): Money {
  switch (off.kind) {
    case 'percent':
      return rateOf(price, off.rate);
    case 'amount':
      return Math.min(off.amount, price);
    case 'price':
      return Math.max(0, price - off.price);
  }
}

/** `10 % off`, `5.00 off`, `for 5.00`. */
export function offWords(off: UnitOff, { digits }: Pick<OfferNames, 'digits'>): string {
  if (off.kind === 'percent') return off.rate === WHOLE ? 'free' : `${formatRate(off.rate)} off`;
  return off.kind === 'amount'
    ? `${formatMoney(off.amount, digits)} off`
    : `for ${formatMoney(off.price, digits)}`;
}
