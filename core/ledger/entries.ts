import { sum, type Money } from '../money.ts';
import type { TaxAmount } from '../offers/tax.ts';
import type { CashMoveKind } from '../drawer/cashMove.ts';
import type { Account } from './accounts.ts';

/** One side of an event: debit above zero, credit below zero. */
export interface LedgerEntry {
  account: Account;
  /** Which till (`till:2`), tax rate (`rate:1`) …; empty where the account is one for the shop. */
  subject: string;
  amount: Money;
}

/** Thrown when the entries of an event do not add up to zero. */
export class UnbalancedError extends Error {}

/** Drops entries of nothing and makes sure that the rest add up to zero. @throws UnbalancedError */
export function balanced(entries: readonly LedgerEntry[]): LedgerEntry[] {
  const total = sum(entries.map(({ amount }) => amount));
  if (total !== 0) throw new UnbalancedError(`the entries are ${total} off balance`);
  return entries.filter(({ amount }) => amount !== 0);
}

/** A finished cash sale: what came into the drawer against sales and tax. */
export function saleEntries(sale: {
  tillId: number;
  total: Money;
  taxes: readonly TaxAmount[];
}): LedgerEntry[] {
  const tax = sum(sale.taxes.map((amount) => amount.tax));
  return balanced([
    { account: 'cash', subject: `till:${sale.tillId}`, amount: sale.total },
    { account: 'sales', subject: '', amount: tax - sale.total },
    ...sale.taxes.map(({ rateId, tax: amount }): LedgerEntry => ({
      account: 'tax-payable',
      subject: `rate:${rateId}`,
      amount: 0 - amount,
    })),
  ]);
}

/** Opening a drawer: the counted float differs from what was left in it by what came from the safe. */
export function openingEntries(shift: { tillId: number; counted: Money; left: Money }): LedgerEntry[] {
  const added = shift.counted - shift.left;
  return balanced([
    { account: 'cash', subject: `till:${shift.tillId}`, amount: added },
    { account: 'safe', subject: '', amount: 0 - added },
  ]);
}

/** Cash that moves without a sale: in from outside, out to somebody, or down into the safe. */
export function cashMoveEntries(move: { tillId: number; kind: CashMoveKind; amount: Money }): LedgerEntry[] {
  const into = move.kind === 'in' ? move.amount : 0 - move.amount;
  return balanced([
    { account: 'cash', subject: `till:${move.tillId}`, amount: into },
    { account: move.kind === 'drop' ? 'safe' : 'petty-cash', subject: '', amount: 0 - into },
  ]);
}

/** Closing a drawer: the variance is booked, and what is banked leaves the drawer. */
export function closingEntries(shift: { tillId: number; variance: Money; banked: Money }): LedgerEntry[] {
  const till = `till:${shift.tillId}`;
  return balanced([
    { account: 'cash', subject: till, amount: shift.variance },
    { account: 'over-short', subject: till, amount: 0 - shift.variance },
    { account: 'cash', subject: till, amount: 0 - shift.banked },
    { account: 'bank-in-transit', subject: '', amount: shift.banked },
  ]);
}
