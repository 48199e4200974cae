import { formatMoney, type Money } from '../money.ts';
import { formatRate } from '../rate.ts';
import type { Paper, PaperRow } from '../journal/paper.ts';
import type { PriceRecord } from '../pricing/price.ts';
import type { TaxAmount } from '../pricing/tax.ts';
import type { TenderKind } from '../payment/tenderKinds.ts';
import { currencyOf, type Currency } from '../payment/currency.ts';
import type { CashMovements } from './expectedCash.ts';
import type { Pieces } from './countSheet.ts';

/** What was taken off prices during a shift, by kind, reason and person. */
export interface ShiftReduction {
  kind: PriceRecord['kind'];
  reason: string;
  person: string;
  /** On how many lines. */
  count: number;
  amount: Money;
}

/** What each kind of reduction is called. */
const REDUCTIONS: Readonly<Record<PriceRecord['kind'], string>> = {
  'group-price': 'Group prices',
  'label-price': 'Prices on labels',
  'typed-price': 'Typed prices',
  discount: 'Discounts',
  offer: 'Offers',
  reward: 'Rewards for points',
  points: 'Paid with points',
  return: 'Held back of refunds',
};

/** What one means of payment brought in during a shift. */
export interface ShiftTender {
  typeId: number;
  name: string;
  kind: TenderKind;
  /** Whether it is counted when the drawer is closed. */
  counted: boolean;
  count: number;
  amount: Money;
  tips: Money;
  /** Of foreign cash: what was taken, in its own minor units. */
  foreignAmount: Money | null;
  currency: string | null;
}

/** What should be there of a means of payment when it is counted: foreign cash in its own minor units. */
export const toCount = ({ amount, foreignAmount }: ShiftTender): Money => foreignAmount ?? amount;

/** What was counted of another means of payment than cash, and what should have been there. */
export interface TenderCount {
  name: string;
  currency: string | null;
  expected: Money;
  counted: Money;
}

/** A closed shift with everything that its report says. */
export interface ShiftReportData {
  shop: string;
  place: string;
  till: string;
  shiftNumber: number;
  opened: string;
  openedBy: string;
  closed: string;
  closedBy: string;
  currency: Currency;
  salesCount: number;
  /** First and last receipt number, if anything was sold. */
  receipts: { first: string; last: string } | null;
  salesTotal: Money;
  /** How often the drawer was opened without a sale. */
  openings: number;
  /** What was counted at the opening beyond what was left and came from the safe. */
  openingVariance: Money;
  reductions: readonly ShiftReduction[];
  paidWith: readonly ShiftTender[];
  donations: readonly { fund: string; amount: Money }[];
  counts: readonly TenderCount[];
  taxes: readonly TaxAmount[];
  movements: CashMovements;
  expected: Money;
  counted: Money;
  variance: Money;
  pieces: Pieces;
  kept: Pieces;
  keptAmount: Money;
  bag: Pieces;
  banked: Money;
  bagNumber: string;
  note: string;
  signature: { name: string; path: string };
  witness: { name: string; path: string } | null;
  /** Deposits for goods that wait: contained in what was taken; what was used reduces it. */
  deposits: { paid: Money; used: Money; back: Money };
  /** House accounts: what was charged to them, and what was paid onto them and out of them. */
  accounts: { charged: Money; paid: Money; out: Money };
  undone: { returns: number; refunded: Money; voids: number; voided: Money };
}

/** Words for a variance: `18.00 short`, `0.20 over`, `no difference`. */
export function varianceWords(variance: Money, digits = 2): string {
  if (variance === 0) return 'no difference';
  return `${formatMoney(Math.abs(variance), digits)} ${variance < 0 ? 'short' : 'over'}`;
}

/** Pieces in words, largest first: `2 × 100.00, 1 × 50.00`. */
export function piecesWords(pieces: Pieces, { pieces: known, digits }: Currency): string {
  const parts = known
    .filter(({ value }) => (pieces[value] ?? 0) > 0)
    .map(({ value }) => `${pieces[value]} × ${formatMoney(value, digits)}`);
  return parts.join(', ') || 'nothing';
}

/** The report that is printed and signed when a shift ends. */
export function shiftReport(shift: ShiftReportData): Paper {
  const { currency, movements } = shift;
  const money = (amount: Money) => formatMoney(amount, currency.digits);
  const byPieces = shift.counted === 0 || Object.keys(shift.pieces).length > 0;
  const pair = (left: string, amount: Money, strong = false): PaperRow => ({
    kind: 'pair',
    left,
    right: money(amount),
    strong,
  });
  const tax = shift.taxes.reduce((total, amount) => total + amount.tax, 0);
  const rows: PaperRow[] = [
    { kind: 'title', text: shift.shop },
    { kind: 'centre', text: `Shift report ${shift.shiftNumber}` },
    { kind: 'gap' },
    { kind: 'pair', left: shift.place, right: shift.till },
    { kind: 'pair', left: `Opened by ${shift.openedBy}`, right: shift.opened },
    { kind: 'pair', left: `Closed by ${shift.closedBy}`, right: shift.closed },
    { kind: 'rule' },
    { kind: 'pair', left: 'Sales', right: String(shift.salesCount) },
    {
      kind: 'pair',
      left: 'Receipts',
      right: shift.receipts ? `${shift.receipts.first} to ${shift.receipts.last}` : 'none',
    },
    pair('Taken', shift.salesTotal),
    pair('of which tax', tax),
    ...shift.taxes.map((amount): PaperRow => ({
      kind: 'pair',
      left: `${amount.name} ${formatRate(amount.rate)} on ${money(amount.base)}`,
      right: money(amount.tax),
      indent: true,
    })),
    ...(shift.deposits.paid === 0 ? [] : [pair('of which deposits', shift.deposits.paid)]),
    ...(shift.deposits.used === 0 ? [] : [pair('Deposits used for goods', 0 - shift.deposits.used)]),
    ...(shift.deposits.back === 0 ? [] : [pair('Deposits given back', 0 - shift.deposits.back)]),
    ...(shift.accounts.paid === 0 ? [] : [pair('Paid onto house accounts', shift.accounts.paid)]),
    ...(shift.accounts.out === 0 ? [] : [pair('Paid out of house accounts', 0 - shift.accounts.out)]),
    { kind: 'pair', left: 'Opened without a sale', right: String(shift.openings) },
    ...(shift.openingVariance === 0 ? [] : [pair('Difference at opening', shift.openingVariance)]),
    ...(shift.undone.returns === 0
      ? []
      : [pair(`${shift.undone.returns} with returns`, 0 - shift.undone.refunded)]),
    ...(shift.undone.voids === 0 ? [] : [pair(`${shift.undone.voids} voided`, shift.undone.voided)]),
    ...reductionRows(shift.reductions, money),
    ...tenderRows(shift, money),
    ...shift.counts.map((count) => countRow(count, currency)),
    { kind: 'rule' },
    pair('Float', movements.float),
    pair('Cash taken', movements.cashTaken),
    pair('Change given', 0 - movements.changeGiven),
    ...(movements.refunds === 0 ? [] : [pair('Refunds in cash', 0 - movements.refunds)]),
    ...(movements.cashIn === 0 ? [] : [pair('Cash in', movements.cashIn)]),
    ...(movements.cashOut === 0 ? [] : [pair('Cash out', 0 - movements.cashOut)]),
    ...(movements.drops === 0 ? [] : [pair('Safe drops', 0 - movements.drops)]),
    pair('Expected in the drawer', shift.expected, true),
    pair('Counted', shift.counted, true),
    { kind: 'pair', left: 'Difference', right: varianceWords(shift.variance, currency.digits), strong: true },
    { kind: 'rule' },
    { kind: 'text', text: byPieces ? 'Counted by pieces' : 'Counted as one total' },
    ...currency.pieces
      .filter(({ value }) => (shift.pieces[value] ?? 0) > 0)
      .map(({ value }): PaperRow => {
        const count = shift.pieces[value] ?? 0;
        return {
          kind: 'pair',
          left: `${count} × ${money(value)}`,
          right: money(count * value),
          indent: true,
        };
      }),
    pair('Stays in the drawer', shift.keptAmount, true),
    ...(byPieces ? [{ kind: 'text' as const, text: piecesWords(shift.kept, currency) }] : []),
    pair(shift.bagNumber ? `Into bank bag ${shift.bagNumber}` : 'To the bank', shift.banked, true),
    ...(byPieces ? [{ kind: 'text' as const, text: piecesWords(shift.bag, currency) }] : []),
  ];
  if (shift.note) rows.push({ kind: 'rule' }, { kind: 'text', text: `Note: ${shift.note}` });
  rows.push({ kind: 'signature', path: shift.signature.path, label: `Signed: ${shift.signature.name}` });
  if (shift.witness) {
    rows.push({ kind: 'signature', path: shift.witness.path, label: `Witness: ${shift.witness.name}` });
  }
  return { title: `Shift report ${shift.shiftNumber}`, rows };
}

function countRow({ name, currency: foreign, expected, counted }: TenderCount, own: Currency): PaperRow {
  const { digits } = foreign ? currencyOf(foreign) : own;
  return {
    kind: 'pair',
    left: `${name} counted, ${varianceWords(counted - expected, digits)}`,
    right: `${formatMoney(counted, digits)}${foreign ? ` ${foreign}` : ''}`,
  };
}

/** What was paid with what; tips and donations apart, since they are not the shop's. */
function tenderRows(
  { paidWith, donations }: Pick<ShiftReportData, 'paidWith' | 'donations'>,
  money: (amount: Money) => string,
): PaperRow[] {
  const tips = paidWith.reduce((all, tender) => all + tender.tips, 0);
  if (paidWith.every(({ kind }) => kind === 'cash') && donations.length === 0) return [];
  return [
    { kind: 'rule' },
    { kind: 'text', text: 'Paid with' },
    ...paidWith.map(({ name, count, amount, currency, foreignAmount }): PaperRow => {
      const digits = currency ? currencyOf(currency).digits : 2;
      const counted =
        currency && foreignAmount !== null ? ` (${formatMoney(foreignAmount, digits)} ${currency})` : '';
      const left = `${name}${counted}, ${count === 1 ? 'one payment' : `${count} payments`}`;
      return { kind: 'pair', left, right: money(amount), indent: true };
    }),
    ...(tips === 0 ? [] : [{ kind: 'pair' as const, left: 'Tips, to be handed on', right: money(tips) }]),
    ...donations.map(({ fund, amount }): PaperRow => ({
      kind: 'pair',
      left: `Donations for ${fund}`,
      right: money(amount),
    })),
  ];
}

/** Reductions by kind with their sum, then by reason and person. */
function reductionRows(reductions: readonly ShiftReduction[], money: (amount: Money) => string): PaperRow[] {
  const kinds = [...new Set(reductions.map(({ kind }) => kind))];
  return kinds.flatMap((kind): PaperRow[] => {
    const ofKind = reductions.filter((one) => one.kind === kind);
    const total = ofKind.reduce((whole, { amount }) => whole + amount, 0);
    return [
      { kind: 'pair', left: REDUCTIONS[kind], right: money(total) },
      ...ofKind.map(({ reason, person, count, amount }): PaperRow => ({
        kind: 'pair',
        left: `${count} × ${reason}, ${person}`,
        right: money(amount),
        indent: true,
      })),
    ];
  });
}
