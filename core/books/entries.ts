import type { Opening } from '../drawer/opening.ts';
import { sum, type Money } from '../money.ts';
import type { PricedBasket } from '../pricing/price.ts';
import type { Quantity } from '../quantity.ts';
import type { TaxAmount } from '../pricing/tax.ts';
import { TENDER_KINDS, type TenderKind } from '../payment/tenderKinds.ts';
import type { CashMoveKind } from '../drawer/cashMove.ts';
import type { Account, LedgerEventKind } from './accounts.ts';

/** One side of an event: debit above zero, credit below zero. */
export interface LedgerEntry {
  account: Account;
  /** Which till (`till:2`), tax rate (`rate:1`) …; empty where the account is one for the shop. */
  subject: string;
  amount: Money;
}

/**
 * Between which accounts an amount moves of which only the database knows, in the lock that it is found in: what
 * points are worth by now, and what was paid, or goes back, where an order was placed. Below zero it moves back.
 */
export const TRANSFERS = {
  points: { debit: 'points-cost', credit: 'points-payable' },
  'channel-payment': { debit: 'channel-clearing', credit: 'customer-deposits' },
  'partner-order': { debit: 'partner-clearing', credit: 'customer-deposits' },
} as const satisfies Partial<Record<LedgerEventKind, { debit: Account; credit: Account }>>;

/** Thrown when the entries of an event do not add up to zero. */
export class UnbalancedError extends Error {}

/** Drops entries of nothing and makes sure that the rest add up to zero. @throws UnbalancedError */
export function balanced(entries: readonly LedgerEntry[]): LedgerEntry[] {
  const total = sum(entries.map(({ amount }) => amount));
  if (total !== 0) throw new UnbalancedError(`the entries are ${total} off balance`);
  return entries.filter(({ amount }) => amount !== 0);
}

/** How a finished sale was paid, as the books see it. */
export interface PostedTender {
  kind: TenderKind;
  /** What it pays of the sale, with what it gives to a fund. */
  amount: Money;
  /** What was handed over; more than the amount comes back as change in the shop's own cash. */
  handed: Money;
  tip: Money;
  /** What is left on a certificate that is used once: nobody is owed it any more. */
  lapses?: Money | undefined;
  /** The terminal, the kind of stored value or the customer whose credit it is. */
  subject: string;
}

export interface PostedSale {
  tillId: number;
  total: Money;
  taxes: readonly TaxAmount[];
  tenders: readonly PostedTender[];
  /** Gift cards and certificates that were sold: kind and amount, contained in the total. */
  valueSold: readonly { kind: string; amount: Money }[];
  /** Money onto house accounts above zero, paid out of them below, by whose account it is; contained in the total. */
  onAccounts: readonly { customerId: number; amount: Money }[];
  /** Deposits of promises: paid above zero, used or given back below; contained in the total. */
  deposits: readonly { promiseId: string; amount: Money }[];
  donation: { fundId: number; amount: Money } | null;
  /** What cash was rounded by: above zero, more was paid. */
  cashRounding: Money;
  /** What was refunded for goods that came back, without tax; contained in the total with its sign. */
  returned: Money;
  /** Reductions of what was sold, per kind; below zero they reduce. */
  reductions: readonly { kind: string; amount: Money }[];
}

/** A finished sale: what came in against sales, tax, and what is owed for gift cards, tips and donations. */
export function saleEntries(sale: PostedSale): LedgerEntry[] {
  const { tillId, total, taxes, tenders, valueSold, onAccounts, deposits, donation, cashRounding } = sale;
  const { returned, reductions } = sale;
  const tax = sum(taxes.map((amount) => amount.tax));
  const tips = sum(tenders.map(({ tip }) => tip));
  // What the shop owes for it is no sale.
  const sold = sum([...valueSold, ...onAccounts, ...deposits].map(({ amount }) => amount));
  const reduced = sum(reductions.map(({ amount }) => amount));
  return balanced([
    ...tenders.flatMap((tender) => tenderEntries(tender, tillId)),
    { account: 'sales', subject: '', amount: 0 - (total - tax - sold + returned - reduced) },
    { account: 'returns', subject: '', amount: returned },
    ...reductions.map(({ kind, amount }): LedgerEntry => ({
      account: 'discounts',
      subject: kind,
      amount: 0 - amount,
    })),
    ...taxes.map(({ rateId, tax: amount }): LedgerEntry => ({
      account: 'tax-payable',
      subject: `rate:${rateId}`,
      amount: 0 - amount,
    })),
    ...valueSold.map(({ kind, amount }): LedgerEntry => ({
      account: 'stored-value',
      subject: kind,
      amount: 0 - amount,
    })),
    ...onAccounts.map(({ customerId, amount }): LedgerEntry => ({
      account: 'receivable',
      subject: `customer:${customerId}`,
      amount: 0 - amount,
    })),
    ...deposits.map(({ promiseId, amount }): LedgerEntry => ({
      account: 'customer-deposits',
      subject: `promise:${promiseId}`,
      amount: 0 - amount,
    })),
    { account: 'tips-payable', subject: '', amount: 0 - tips },
    {
      account: 'donations-payable',
      subject: donation ? `fund:${donation.fundId}` : '',
      amount: 0 - (donation?.amount ?? 0),
    },
    { account: 'cash-rounding', subject: '', amount: 0 - cashRounding },
  ]);
}

/** What the books tell apart of a priced basket: refunds without tax, and reductions of what was sold by kind. */
export function soldAndReturned(
  lines: readonly { quantity: Quantity; storedValue?: object | undefined }[],
  priced: Pick<PricedBasket, 'lines' | 'taxMode'>,
): Pick<PostedSale, 'returned' | 'reductions'> {
  let returned = 0;
  const byKind = new Map<string, Money>();
  lines.forEach(({ quantity, storedValue }, at) => {
    const figures = priced.lines[at];
    if (!figures || storedValue) return;
    const { net, records, taxes } = figures;
    if (quantity < 0) {
      returned -= net - (priced.taxMode === 'inside' ? sum(taxes.map(({ tax }) => tax)) : 0);
      return;
    }
    for (const { kind, amount } of records) byKind.set(kind, (byKind.get(kind) ?? 0) + amount);
  });
  return { returned, reductions: [...byKind].map(([kind, amount]) => ({ kind, amount })) };
}

function tenderEntries(tender: PostedTender, tillId: number): LedgerEntry[] {
  const { kind, amount, handed, tip, lapses = 0, subject } = tender;
  const till = `till:${tillId}`;
  if (kind === 'cash') return [{ account: 'cash', subject: till, amount }];
  if (kind === 'foreign-cash') {
    return [
      { account: 'foreign-cash', subject: till, amount: handed },
      { account: 'cash', subject: till, amount: amount - handed },
    ];
  }
  const credit = kind === 'stored-value' && subject.startsWith('customer:');
  const account = credit ? 'store-credit' : TENDER_KINDS[kind].account;
  return [
    { account, subject, amount: amount + tip + lapses },
    { account: 'lapsed-value', subject: '', amount: 0 - lapses },
  ];
}

/** Gift cards and certificates that come from before these books, or were bought outside of them. */
export function storedValueEntries(value: {
  kind: string;
  amount: Money;
  against: Extract<Account, 'opening-balance' | 'lapsed-value'>;
}): LedgerEntry[] {
  return balanced([
    { account: 'stored-value', subject: value.kind, amount: 0 - value.amount },
    { account: value.against, subject: '', amount: value.amount },
  ]);
}

/** Money that came for a house account otherwise than at a till, and what of it is written off or was owed before. */
export function accountEntries(item: {
  customerId: number;
  /** Above zero, more is owed. */
  amount: Money;
  against: Extract<Account, 'bank-in-transit' | 'write-offs' | 'opening-balance'>;
}): LedgerEntry[] {
  return balanced([
    { account: 'receivable', subject: `customer:${item.customerId}`, amount: item.amount },
    { account: item.against, subject: '', amount: 0 - item.amount },
  ]);
}

/** What the bank has paid out for a terminal, and what it kept. */
export function settlementEntries(paid: { terminalId: number; gross: Money; fees: Money }): LedgerEntry[] {
  return balanced([
    { account: 'bank-in-transit', subject: '', amount: paid.gross - paid.fees },
    { account: 'card-fees', subject: '', amount: paid.fees },
    { account: 'card-clearing', subject: `terminal:${paid.terminalId}`, amount: 0 - paid.gross },
  ]);
}

/** What a partner has delivered: its part is owed to it. */
export function partnerPartEntries(delivered: { partnerId: number; part: Money }): LedgerEntry[] {
  return balanced([
    { account: 'partner-parts', subject: '', amount: delivered.part },
    { account: 'partner-clearing', subject: `partner:${delivered.partnerId}`, amount: 0 - delivered.part },
  ]);
}

/** What a partner was paid of what was owed to it; below zero, what it has paid. */
export function partnerSettlementEntries(paid: { partnerId: number; amount: Money }): LedgerEntry[] {
  return balanced([
    { account: 'partner-clearing', subject: `partner:${paid.partnerId}`, amount: paid.amount },
    { account: 'bank-in-transit', subject: '', amount: 0 - paid.amount },
  ]);
}

/** What a channel has paid out of what customers paid there, and what it kept. */
export function channelSettlementEntries(paid: {
  channelId: number;
  gross: Money;
  fees: Money;
}): LedgerEntry[] {
  return balanced([
    { account: 'bank-in-transit', subject: '', amount: paid.gross - paid.fees },
    { account: 'channel-fees', subject: '', amount: paid.fees },
    { account: 'channel-clearing', subject: `channel:${paid.channelId}`, amount: 0 - paid.gross },
  ]);
}

/** Opening a drawer: the counted float differs from what was left in it by what came from the safe. */
export function openingEntries(shift: { tillId: number } & Opening): LedgerEntry[] {
  const till = `till:${shift.tillId}`;
  return balanced([
    { account: 'cash', subject: till, amount: shift.fromSafe + shift.variance },
    { account: 'safe', subject: '', amount: 0 - shift.fromSafe },
    { account: 'over-short', subject: till, amount: 0 - shift.variance },
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

/** A payment that was recorded as another means than it was: its amount moves between their accounts. */
export function correctionEntries(correction: {
  tillId: number;
  from: { kind: TenderKind; subject: string };
  to: { kind: TenderKind; subject: string };
  amount: Money;
}): LedgerEntry[] {
  const { tillId, amount } = correction;
  const accountOf = ({ kind, subject }: { kind: TenderKind; subject: string }) => ({
    account: TENDER_KINDS[kind].account,
    subject: TENDER_KINDS[kind].by === 'till' ? `till:${tillId}` : subject,
  });
  return balanced([
    { ...accountOf(correction.from), amount: 0 - amount },
    { ...accountOf(correction.to), amount },
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

/** What a difference was, noted later: what was short went out as petty cash, what was over came in. */
export function explainedEntries(explained: { tillId: number; amount: Money }): LedgerEntry[] {
  return balanced([
    { account: 'over-short', subject: `till:${explained.tillId}`, amount: explained.amount },
    { account: 'petty-cash', subject: '', amount: 0 - explained.amount },
  ]);
}

/** A supplier's invoice for goods that came: from now on that is owed. */
export function invoiceEntries(invoice: { supplierId: number; total: Money }): LedgerEntry[] {
  const subject = `supplier:${invoice.supplierId}`;
  return balanced([
    { account: 'goods-received', subject, amount: invoice.total },
    { account: 'suppliers', subject, amount: 0 - invoice.total },
  ]);
}
