import { multiplyDivide, type Money } from '../money.ts';
import { WHOLE } from '../rate.ts';

/** How money comes in: what the till asks for, and where the money is afterwards. */
export const TENDER_KINDS = {
  cash: 'Cash',
  card: 'Card, on a terminal of the till',
  'stored-value': 'Gift card, certificate or store credit',
  account: 'House account of the customer',
  'noted-card': 'Card, on a terminal that is not attached',
  cheque: 'Cheque',
  transfer: 'Bank transfer',
  'foreign-cash': 'Cash in another currency',
  voucher: 'Voucher',
} as const;

export type TenderKind = keyof typeof TENDER_KINDS;

/** There is one means of each of these kinds: they belong to the shop as it comes. */
export const ONLY_ONCE: readonly TenderKind[] = ['cash', 'card', 'stored-value', 'account'];

/** A means of payment as the shop has set it up. */
export interface TenderType {
  id: number;
  name: string;
  kind: TenderKind;
  active: boolean;
  /** What must be typed, e.g. `Cheque number`; empty where nothing is. */
  reference: string;
  /** Whether it is counted when the drawer is closed. */
  counted: boolean;
  opensDrawer: boolean;
  /** Of foreign cash: its ISO 4217 code, digits, and what one unit is worth, in millionths of one of the shop's. */
  foreign: { currency: string; digits: number; rate: number } | null;
}

/** Only cash gives change, also cash of another currency: in the shop's own. */
export const givesChange = ({ kind }: Pick<TenderType, 'kind'>): boolean =>
  kind === 'cash' || kind === 'foreign-cash';

/**
 * What foreign cash is worth in the shop's own minor units, rounded half away from zero.
 * @param amount minor units of the foreign currency
 * @param digits decimals of the shop's currency
 */
export function worthOf(amount: Money, foreign: NonNullable<TenderType['foreign']>, digits: number): Money {
  const own = 10 ** digits;
  return multiplyDivide(amount, foreign.rate * own, WHOLE * 10 ** foreign.digits);
}
