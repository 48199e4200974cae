import type { Money } from '../money.ts';
import type { TaxAmount } from './tax.ts';

/** What makes a line cost something else than its regular price, in words. */
export const REDUCTION_WORDS = {
  'group-price': 'Prices of groups',
  'label-price': 'Prices on labels',
  'typed-price': 'Typed prices',
  discount: 'Discounts',
  offer: 'Offers',
  reward: 'Rewards',
  points: 'Points',
  return: 'Returns',
} as const;

/** Why a line costs what it costs: one step of the order of a price. Amounts below zero reduce. */
export interface PriceRecord {
  kind: keyof typeof REDUCTION_WORDS;
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
