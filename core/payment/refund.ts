import { sum, type Money } from '../money.ts';
import type { Step } from '../staff/approval.ts';

/** A part of a refund that somebody wants to give. */
export interface WantedRefund {
  id: string;
  to: 'tender' | 'cash' | 'store-credit' | 'account';
  /** The payment that it goes back along. */
  along: string | null;
  amount: Money;
}

/** A payment of an earlier sale. */
export interface RefundablePayment {
  key: string;
  name: string;
  /** What it took less everything that went back along it or is going back just now, in whichever basket. */
  left: Money;
  /** Its device or card takes money back. */
  open: boolean;
}

/** What a refund is judged by, read while the payment of its basket and the sales it comes from are locked. */
export interface RefundFacts {
  /** What is still to be given back. */
  amount: Money;
  /** Of it, what has no receipt and becomes store credit only, or goes onto an account. */
  creditOnly: Money;
  /** What goes in cash without an approval. */
  mostCash: Money;
  payments: readonly RefundablePayment[];
  hasCustomer: boolean;
  /** Whether that customer has a house account, or buys on one. */
  hasAccount: boolean;
}

/** Why the parts of a refund cannot be given. */
export type RefundProblem =
  | { kind: 'same-id' }
  | { kind: 'too-much'; amount: Money }
  | { kind: 'not-along'; name: string }
  | { kind: 'too-much-along'; name: string; left: Money }
  | { kind: 'no-customer' | 'no-account' }
  | { kind: 'credit-only'; amount: Money };

/** Judges all parts together: several along one payment count as one. @returns `null` where they can be given */
export function refundProblem(facts: RefundFacts, parts: readonly WantedRefund[]): RefundProblem | null {
  if (new Set(parts.map(({ id }) => id)).size < parts.length) return { kind: 'same-id' };
  const all = sum(parts.map(({ amount }) => amount));
  if (all > facts.amount) return { kind: 'too-much', amount: facts.amount };
  const along = new Map<string, Money>();
  for (const { to, along: key, amount } of parts) {
    if (to === 'tender') along.set(key ?? '', (along.get(key ?? '') ?? 0) + amount);
  }
  for (const [key, amount] of along) {
    const payment = facts.payments.find((one) => one.key === key);
    if (!payment?.open) return { kind: 'not-along', name: payment?.name ?? 'This payment' };
    if (amount > payment.left) return { kind: 'too-much-along', name: payment.name, left: payment.left };
  }
  const credit = paidTo(parts, 'store-credit');
  if (credit > 0 && !facts.hasCustomer) return { kind: 'no-customer' };
  const charged = paidTo(parts, 'account');
  if (charged > 0 && !facts.hasAccount) return { kind: 'no-account' };
  if (all - credit - charged > facts.amount - facts.creditOnly)
    return { kind: 'credit-only', amount: facts.creditOnly };
  return null;
}

/** What goes one way. */
export const paidTo = (parts: readonly WantedRefund[], to: WantedRefund['to']): Money =>
  sum(parts.filter((part) => part.to === to).map(({ amount }) => amount));

/** Paying a refund in cash as a step that may have to be approved. */
export const cashRefundStep = (amount: Money): Step => ({
  subject: 'cash-refund',
  from: null,
  to: null,
  unit: 'money',
  amount,
});
