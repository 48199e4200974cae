import type { Money } from '../money.ts';
import type { Step } from '../staff/approval.ts';

/** What may become of a finished sale: it is voided, one of its payments is corrected, or goods come back from it. */

/** What is known of a sale, read while its till, its payment and the sale itself are locked. */
export interface SaleFacts {
  voided: 'begun' | 'done' | null;
  shiftOpen: boolean;
  /** The till that asks is the one that rang it up. */
  ownTill: boolean;
  tillNumber: number;
  /** Later returns that took goods back from it and stand. */
  returns: number;
  /** Money is being given back for goods of it just now. */
  refunding: boolean;
  /** Payments of it that were corrected. */
  corrections: number;
}

/** Voiding a sale as a step that may have to be approved. */
export const voidStep = (total: Money): Step => ({
  subject: 'sale',
  from: null,
  to: null,
  unit: 'money',
  amount: Math.abs(total),
});

/** Why a sale cannot be voided here and now, in words; `null` where it can, or where its void goes on. */
export function voidProblem(sale: SaleFacts): string | null {
  if (sale.voided === 'done') return 'It was voided already.';
  if (sale.voided === 'begun') return null;
  if (!sale.shiftOpen) return 'Its shift is closed: take the goods back as a return.';
  if (!sale.ownTill) return `It was rung up on till ${sale.tillNumber}: void it there.`;
  if (sale.refunding) return 'Money is being given back for it just now.';
  if (sale.returns > 0) return 'Goods of it came back already: void that return first.';
  if (sale.corrections > 0) return 'A payment of it was corrected: take the goods back as a return.';
  return null;
}

/** A payment that somebody wants to have been another means. */
export interface CorrectionFacts {
  kind: string;
  to: 'cash' | 'card';
  /** The means that it is recorded as was corrected before. */
  corrected: boolean;
  /** Money went back along this payment. */
  refunded: boolean;
}

/** Why a payment of a sale cannot be corrected, in words; `null` where it can. */
export function correctionProblem(
  sale: Pick<SaleFacts, 'voided' | 'shiftOpen'>,
  { kind, to, corrected, refunded }: CorrectionFacts,
): string | null {
  if (!sale.shiftOpen) return 'The shift of this sale is closed.';
  if (sale.voided !== null) return 'This sale was voided.';
  if (corrected) return 'This payment was corrected already.';
  if (refunded) return 'Money went back along this payment already.';
  const from = kind === 'cash' ? 'cash' : 'card';
  if ((kind !== 'cash' && kind !== 'noted-card') || from === to)
    return 'Only cash and cards on other terminals can be taken for each other.';
  return null;
}

/** Why nothing can come back from a sale, in words; `null` where something can. */
export function returnProblem({ voided }: Pick<SaleFacts, 'voided'>): string | null {
  return voided === null ? null : 'It was voided: nothing comes back from it.';
}
