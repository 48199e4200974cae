import { multiplyDivide, type Money } from '../money.ts';
import { WHOLE } from '../rate.ts';
import type { TenderKind } from './tenderKinds.ts';

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

/** The first means of a kind; of those that belong to the shop there is one. @throws Error where there is none */
export function typeOf(types: readonly TenderType[], kind: TenderKind): TenderType {
  const type = types.find((one) => one.kind === kind);
  if (!type) throw new Error(`the shop has no means of payment of the kind ${kind}`);
  return type;
}

/**
 * What foreign cash is worth in the shop's own minor units, rounded half away from zero.
 * @param amount minor units of the foreign currency
 * @param digits decimals of the shop's currency
 */
export function worthOf(amount: Money, foreign: NonNullable<TenderType['foreign']>, digits: number): Money {
  const own = 10 ** digits;
  return multiplyDivide(amount, foreign.rate * own, WHOLE * 10 ** foreign.digits);
}
