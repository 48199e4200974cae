import { multiplyDivide, sum, type Money } from '../money.ts';
import type { PriceRecord } from '../pricing/price.ts';
import { spread } from '../spread.ts';
import type { TaxAmount } from '../pricing/tax.ts';
import type { Quantity } from '../quantity.ts';

/** What becomes of goods that come back. */
export const CONDITIONS = {
  'to-stock': 'Back to stock',
  damaged: 'Damaged',
  'to-supplier': 'To the supplier',
} as const;
export type Condition = keyof typeof CONDITIONS;

/** Reasons that are ready; any other may be typed. */
export const RETURN_REASONS = ['Does not fit', 'Not wanted', 'Faulty', 'Wrong item'] as const;

/**
 * How a refund is worked out: what was paid for the unit, or what was paid for all less what the kept goods cost under
 * the offers of the day. With `ask` a person chooses.
 */
export const RETURN_WAYS = ['share', 're-price', 'ask'] as const;
export type ReturnWay = (typeof RETURN_WAYS)[number];

/** Taxes of a line, or a part of them. */
export type LineTaxes = readonly TaxAmount[];

/** A line of a finished sale, with what came back of it already. */
export interface SoldLine {
  position: number;
  quantity: Quantity;
  regular: Money;
  net: Money;
  records: readonly PriceRecord[];
  taxes: LineTaxes;
  /** Came back before; amounts above zero. */
  back: { quantity: Quantity; net: Money; taxes: readonly { rateId: number; tax: Money }[] };
}

/** So much of a line comes back now. */
export interface ReturnedPart {
  position: number;
  quantity: Quantity;
}

/** What a part costs the shop, as a line of a basket has it: all amounts below zero. */
export interface Refund {
  position: number;
  quantity: Quantity;
  regular: Money;
  net: Money;
  records: PriceRecord[];
  taxes: TaxAmount[];
}

/** Thrown where more would come back than was sold. */
export class ReturnError extends Error {}

const KEPT_WHY = 'Offers without the returned goods';
const REST_WHY = 'Rest of the sale';

/**
 * What is refunded for parts of a sale.
 *
 * Every unit is worth its share of what was paid for its line, rounded so that the shares of a line add up to it
 * whatever the order in which they come back. What the whole sale was paid with is never exceeded, and when nothing
 * is kept any more, everything that is left of it is refunded.
 * @param sale all lines of the sale that can come back
 * @param keptNet what the kept goods cost under the offers of the day, for re-pricing; nothing for the share
 * @throws ReturnError where a part is not there any more
 */
export function refundsFor(
  sale: readonly SoldLine[],
  parts: readonly ReturnedPart[],
  keptNet?: Money,
): Refund[] {
  const shares = parts.map((part) => shareOf(lineOf(sale, part), part));
  const left = sum(sale.map(({ net, back }) => net - back.net));
  const share = 0 - sum(shares.map(({ net }) => net));
  const nothingKept = keepsNothing(sale, parts);
  // What was held back of earlier returns may come now; otherwise a unit is worth no more than what was paid for it.
  const heldBack = sum(
    sale.map(({ quantity, net, back }) => multiplyDivide(net, back.quantity, quantity) - back.net),
  );
  const wanted = nothingKept
    ? left
    : Math.min(
        left,
        keptNet === undefined ? share : Math.min(share + Math.max(0, heldBack), Math.max(0, left - keptNet)),
      );
  correct(shares, share - wanted, nothingKept ? REST_WHY : KEPT_WHY);
  settleTaxes(sale, shares, nothingKept);
  return shares;
}

/**
 * What is left of each line when these parts have gone, in the order of the lines; lines of which nothing is left are
 * not named.
 */
export function keptParts(sale: readonly SoldLine[], parts: readonly ReturnedPart[]): ReturnedPart[] {
  return sale.flatMap(({ position, quantity, back }) => {
    const gone = parts.find((part) => part.position === position)?.quantity ?? 0;
    const kept = quantity - back.quantity - gone;
    return kept > 0 ? [{ position, quantity: kept }] : [];
  });
}

const keepsNothing = (sale: readonly SoldLine[], parts: readonly ReturnedPart[]): boolean =>
  keptParts(sale, parts).length === 0;

function lineOf(sale: readonly SoldLine[], { position, quantity }: ReturnedPart): SoldLine {
  const line = sale.find((one) => one.position === position);
  if (!line || quantity <= 0 || quantity > line.quantity - line.back.quantity) {
    throw new ReturnError('More would come back than was sold.');
  }
  return line;
}

/** The part of an amount that a stretch of units has: rounded at both ends, so that stretches add up. */
const stretch = (amount: Money, { quantity, back }: SoldLine, part: Quantity): Money =>
  multiplyDivide(amount, back.quantity + part, quantity) - multiplyDivide(amount, back.quantity, quantity);

function shareOf(line: SoldLine, { position, quantity }: ReturnedPart): Refund {
  const part = (amount: Money) => 0 - stretch(amount, line, quantity);
  const regular = part(line.regular);
  const net = part(line.net);
  const records = line.records.map((record) => ({ ...record, amount: part(record.amount) }));
  // Each record is rounded by itself; the last one takes what is lacking.
  const last = records.at(-1);
  if (last) last.amount += net - regular - sum(records.map(({ amount }) => amount));
  return {
    position,
    quantity: 0 - quantity,
    regular,
    net,
    records: records.filter(({ amount }) => amount !== 0),
    taxes: line.taxes.map((tax) => ({ ...tax, base: part(tax.base), tax: part(tax.tax) })),
  };
}

/** Takes an amount off the refunds (above zero) or adds it, in proportion to them; taxes follow. */
function correct(refunds: Refund[], amount: Money, why: string): void {
  if (amount === 0 || refunds.length === 0) return;
  const parts = spread(
    amount,
    refunds.map(({ net }) => Math.max(0, 0 - net)),
  );
  refunds.forEach((refund, at) => {
    const more = parts[at] ?? 0;
    if (more === 0) return;
    const before = refund.net;
    refund.net += more;
    refund.records.push({ kind: 'return', amount: more, why });
    if (before === 0) return;
    refund.taxes = refund.taxes.map((tax) => ({
      ...tax,
      base: multiplyDivide(tax.base, refund.net, before),
      tax: multiplyDivide(tax.tax, refund.net, before),
    }));
  });
}

/** No more tax of a rate comes back than was paid; with the last goods, all that is left of it. */
function settleTaxes(sale: readonly SoldLine[], refunds: Refund[], nothingKept: boolean): void {
  for (const { rateId, tax: paid, ...rate } of paidTaxes(sale)) {
    const given = sum(
      sale.flatMap(({ back }) => back.taxes.filter((one) => one.rateId === rateId).map(({ tax }) => tax)),
    );
    const mine = refunds.flatMap(({ taxes }) => taxes.filter((one) => one.rateId === rateId));
    const wanted = 0 - sum(mine.map(({ tax }) => tax));
    const over = nothingKept ? wanted - (paid - given) : Math.max(0, wanted - (paid - given));
    if (over === 0) continue;
    const last = mine.at(-1);
    if (last) last.tax += over;
    else refunds.at(-1)?.taxes.push({ ...rate, rateId, base: 0, tax: over });
  }
}

function paidTaxes(sale: readonly SoldLine[]): TaxAmount[] {
  const byRate = new Map<number, TaxAmount>();
  for (const tax of sale.flatMap(({ taxes }) => taxes)) {
    const known = byRate.get(tax.rateId);
    if (known) known.tax += tax.tax;
    else byRate.set(tax.rateId, { ...tax });
  }
  return [...byRate.values()];
}

/** Which way the offers of a sale ask for: a person chooses as soon as one of them leaves it to people. */
export function wayOf(ways: readonly ReturnWay[]): ReturnWay {
  if (ways.includes('ask')) return 'ask';
  return ways.includes('re-price') ? 're-price' : 'share';
}

/** A payment of the sale along which money may go back. */
export interface PaidTender {
  /** Which payment it is. */
  id: string;
  kind: 'cash' | 'card' | 'stored-value' | 'account' | 'other';
  name: string;
  /** What it paid less what went back along it. */
  left: Money;
  /** Whether the device or card still takes money back. */
  open: boolean;
}

/** Where a refund goes: along a payment, or in cash or as store credit. */
export interface RefundPart {
  to: 'tender' | 'cash' | 'store-credit';
  tenderId: string | null;
  name: string;
  amount: Money;
}

/**
 * Plans a refund: back along the payments, the newest electronic one first, to at most what each paid; what is left
 * over in cash, or as store credit where the shop gives no cash for it.
 * @param paid in the order in which they were taken
 * @param rules how the shop gives back what was not paid electronically, and what may become store credit only, because
 * nobody knows how it was paid
 */
export function planRefund(
  amount: Money,
  paid: readonly PaidTender[],
  { rest = 'cash', creditOnly = 0 }: { rest?: 'cash' | 'store-credit'; creditOnly?: Money } = {},
): RefundPart[] {
  const parts: RefundPart[] = [];
  const credit = Math.min(amount, creditOnly);
  let left = amount - credit;
  for (const { id, kind, name, left: most, open } of paid.toReversed()) {
    if (kind === 'cash' || kind === 'other' || !open || left === 0) continue;
    const part = Math.min(left, most);
    if (part <= 0) continue;
    parts.push({ to: 'tender', tenderId: id, name, amount: part });
    left -= part;
  }
  const asCredit = credit + (rest === 'store-credit' ? left : 0);
  if (rest === 'cash' && left > 0) parts.push({ to: 'cash', tenderId: null, name: 'Cash', amount: left });
  if (asCredit > 0)
    parts.push({ to: 'store-credit', tenderId: null, name: 'Store credit', amount: asCredit });
  return parts;
}
