import type { Money } from '../money.ts';
import type { TaxAmount } from './tax.ts';

/** Why a line costs what it costs: one step of the order of a price. Amounts below zero reduce. */
export interface PriceRecord {
  kind: 'group-price' | 'label-price' | 'typed-price' | 'discount' | 'offer' | 'reward' | 'points' | 'return';
  amount: Money;
  /** Words for the why-line, e.g. the reason that was given. */
  why: string;
  /** The typed discount it comes from. */
  discountId?: string | undefined;
  /** The offer it comes from. */
  offerId?: number | undefined;
}

/** Figures of a line that were decided elsewhere. */
export interface FixedFigures {
  unitPrice: Money;
  regular: Money;
  net: Money;
  records: PriceRecord[];
  taxes: TaxAmount[];
}
