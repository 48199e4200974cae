import { formatDay } from '../locale.ts';
import { formatMoneyIn, type Money } from '../money.ts';
import type { PriceRecord } from '../pricing/price.ts';
import type { TaxAmount, TaxMode } from '../pricing/tax.ts';
import { formatQuantity, ONE, type Quantity } from '../quantity.ts';
import { formatRate } from '../rate.ts';
import type { Paper, PaperRow } from './paper.ts';

export interface ReceiptLine {
  number: string;
  name: string;
  unit: string;
  quantity: Quantity;
  unitPrice: Money;
  regular: Money;
  net: Money;
  records: readonly PriceRecord[];
  note: string;
  gift: boolean;
  serial: string | null;
  /** Of a gift card that is sold, the last four of its number. */
  card?: string | null;
  /** Of goods that came back: from which sale, and why. */
  from?: string | null;
}

/** The words of a receipt that a shop can choose itself, as they come. */
export const RECEIPT_TERMS = {
  receipt: 'Receipt',
  giftReceipt: 'Gift receipt',
  copy: 'COPY',
  customer: 'Customer',
  items: 'Items',
  reductions: 'Reductions',
  beforeTax: 'Before tax',
  total: 'Total',
  change: 'Change',
  tip: 'Tip',
  donation: 'Given to',
  cashRounding: 'Cash rounding',
} as const;

export type ReceiptTerm = keyof typeof RECEIPT_TERMS;
export type ReceiptTerms = Partial<Record<ReceiptTerm, string | undefined>>;

/** What stands on every paper of the shop for customers. */
export interface ReceiptHead {
  name: string;
  words: readonly string[];
  thanks: string;
  /** A picture as a data URL, or nothing. */
  logo: string;
  terms: ReceiptTerms;
  /** How amounts are written. */
  locale: string;
}

/** A payment on a receipt. */
export interface ReceiptTender {
  name: string;
  /** What was handed over, where there is change. */
  amount: Money;
  tip: Money;
  /** What else is printed of it, e.g. how a card was read and the approval code. */
  facts: string;
  /** The signature of the card's holder as the path of a picture, or nothing. */
  signature: string;
}

/** A finished sale with everything that its receipt says. */
export interface ReceiptData {
  shop: ReceiptHead;
  place: string;
  till: string;
  /** Receipt number, e.g. `2-0418`. */
  number: string;
  /** Date and time as the shop writes them. */
  when: string;
  cashier: string;
  /** Who it was sold to, if they are known. */
  customer: string | null;
  digits: number;
  currency: string;
  lines: readonly ReceiptLine[];
  regular: Money;
  reductions: Money;
  taxes: readonly TaxAmount[];
  taxMode: TaxMode;
  total: Money;
  note: string;
  exemption: { reason: string; certificate: string } | null;
  tenders: readonly ReceiptTender[];
  donation: { fund: string; amount: Money } | null;
  cashRounding: Money;
  change: Money;
  /** Of goods that wait: what was paid for them so far, what is left, and what is due next. */
  promises?: readonly { number: string; paid: Money; left: Money; next: string }[];
  /** What it did to house accounts: what was owed before, and now. */
  accounts?: readonly { name: string; before: Money; after: Money }[];
  /** What it did to the customer's points, in words: what it is, and how many. */
  points?: readonly (readonly [what: string, points: string])[];
}

/** The receipt of a sale. @param copy marks a reprint */
export function receipt(sale: ReceiptData, { copy = false } = {}): Paper {
  const money = (amount: Money) => formatMoneyIn(sale.shop.locale, amount, sale.digits);
  const term = termsOf(sale.shop);
  const rows = headRows(sale.shop);
  if (copy) rows.push({ kind: 'title', text: term('copy') });
  rows.push(
    { kind: 'pair', left: `${term('receipt')} ${sale.number}`, right: sale.when },
    { kind: 'pair', left: `${sale.place}, ${sale.till}`, right: sale.cashier },
    ...(sale.customer ? [{ kind: 'pair' as const, left: term('customer'), right: sale.customer }] : []),
    { kind: 'rule' },
    ...sale.lines.flatMap((line) => lineRows(line, money)),
    { kind: 'rule' },
  );
  if (sale.reductions !== 0) {
    rows.push(
      { kind: 'pair', left: term('items'), right: money(sale.regular) },
      {
        kind: 'pair',
        left: sale.reductions < 0 ? term('reductions') : 'Price changes',
        right: money(sale.reductions),
      },
    );
  }
  if (sale.taxMode === 'on-top') {
    rows.push({ kind: 'pair', left: term('beforeTax'), right: money(sale.regular + sale.reductions) });
    rows.push(...sale.taxes.map((tax) => taxRow(tax, 'on', money)));
  }
  if (sale.exemption) {
    const { reason, certificate } = sale.exemption;
    rows.push({
      kind: 'text',
      text: `Without tax: ${reason}${certificate && `, certificate ${certificate}`}`,
    });
  }
  rows.push({
    kind: 'pair',
    left: `${term('total')} ${sale.currency}`,
    right: money(sale.total),
    strong: true,
  });
  if (sale.donation) {
    const left = `${term('donation')} ${sale.donation.fund}`;
    rows.push({ kind: 'pair', left, right: money(sale.donation.amount) });
  }
  if (sale.cashRounding !== 0) {
    rows.push({ kind: 'pair', left: term('cashRounding'), right: money(sale.cashRounding) });
  }
  for (const tender of sale.tenders) rows.push(...tenderRows(tender, term('tip'), money));
  if (sale.change !== 0) rows.push({ kind: 'pair', left: term('change'), right: money(sale.change) });
  if (sale.taxMode === 'inside') {
    rows.push({ kind: 'rule' }, ...sale.taxes.map((tax) => taxRow(tax, 'contained, on', money)));
  }
  for (const { number, paid, left, next } of sale.promises ?? []) {
    rows.push(
      { kind: 'rule' },
      { kind: 'pair', left: `${number}: paid so far`, right: money(paid) },
      { kind: 'pair', left: 'Left to pay', right: money(left) },
    );
    if (next) rows.push({ kind: 'text', text: next });
  }
  for (const { name, before, after } of sale.accounts ?? []) {
    rows.push(
      { kind: 'rule' },
      { kind: 'pair', left: 'House account', right: name },
      { kind: 'pair', left: 'Owed before', right: money(before) },
      { kind: 'pair', left: after >= before ? 'Charged' : 'Paid', right: money(after - before) },
      { kind: 'pair', left: after < 0 ? 'In your favour' : 'Owed now', right: money(Math.abs(after)) },
    );
  }
  const points = sale.points ?? [];
  if (points.length > 0) rows.push({ kind: 'rule' });
  rows.push(...points.map(([left, right]): PaperRow => ({ kind: 'pair', left, right })));
  if (sale.note) rows.push({ kind: 'rule' }, { kind: 'text', text: sale.note });
  rows.push({ kind: 'gap' }, { kind: 'barcode', text: sale.number });
  if (sale.shop.thanks) rows.push({ kind: 'centre', text: sale.shop.thanks });
  return { title: `Receipt ${sale.number}`, rows };
}

type Term = (name: ReceiptTerm) => string;

const termsOf =
  ({ terms }: ReceiptHead): Term =>
  (name) =>
    terms[name]?.trim() || RECEIPT_TERMS[name];

/** What stands on top of every paper for customers. */
export function headRows({ name, words, logo }: ReceiptHead): PaperRow[] {
  const rows: PaperRow[] = logo ? [{ kind: 'logo', source: logo, alt: name }] : [];
  rows.push({ kind: 'title', text: name }, ...words.map((text): PaperRow => ({ kind: 'centre', text })));
  return [...rows, { kind: 'gap' }];
}

function tenderRows(tender: ReceiptTender, tip: string, money: (amount: Money) => string): PaperRow[] {
  const rows: PaperRow[] = [{ kind: 'pair', left: tender.name, right: money(tender.amount) }];
  if (tender.facts) rows.push({ kind: 'pair', left: tender.facts, right: '', indent: true });
  if (tender.tip > 0) rows.push({ kind: 'pair', left: tip, right: money(tender.tip), indent: true });
  if (tender.signature) rows.push({ kind: 'signature', path: tender.signature, label: tender.name });
  return rows;
}

/** The receipt that goes with a present: the marked lines, without any price. */
export function giftReceipt(sale: ReceiptData): Paper {
  const term = termsOf(sale.shop);
  const rows = headRows(sale.shop);
  rows.push(
    { kind: 'title', text: term('giftReceipt') },
    { kind: 'pair', left: `${term('receipt')} ${sale.number}`, right: sale.when },
    { kind: 'rule' },
  );
  for (const { name, quantity, unit, gift } of sale.lines) {
    if (!gift) continue;
    const units = unit === 'each' ? '' : ` ${unit}`;
    rows.push({ kind: 'pair', left: name, right: `${formatQuantity(quantity)}${units}` });
  }
  rows.push({ kind: 'rule' }, { kind: 'barcode', text: sale.number });
  if (sale.shop.thanks) rows.push({ kind: 'centre', text: sale.shop.thanks });
  return { title: `Gift receipt ${sale.number}`, rows };
}

/** The paper that goes with a gift card: its number as a barcode, and what was put on it. */
export function giftCardPaper(card: {
  shop: ReceiptHead;
  name: string;
  number: string;
  amount: Money;
  currency: string;
  digits: number;
  expires: string | null;
}): Paper {
  const rows = headRows(card.shop);
  const amount = `${formatMoneyIn(card.shop.locale, card.amount, card.digits)} ${card.currency}`;
  rows.push(
    { kind: 'title', text: card.name },
    { kind: 'title', text: amount },
    { kind: 'barcode', text: card.number },
    {
      kind: 'centre',
      text: card.expires
        ? `Can be used until ${formatDay(card.expires, card.shop.locale)}.`
        : 'Does not expire.',
    },
  );
  if (card.shop.thanks) rows.push({ kind: 'gap' }, { kind: 'centre', text: card.shop.thanks });
  return { title: `${card.name} ${card.number}`, rows };
}

function lineRows(line: ReceiptLine, money: (amount: Money) => string): PaperRow[] {
  const rows: PaperRow[] = [{ kind: 'pair', left: line.name, right: money(line.regular) }];
  const unit = line.unit === 'each' ? '' : ` ${line.unit}`;
  if (line.quantity !== ONE || unit) {
    const price = `${formatQuantity(line.quantity)}${unit} at ${money(line.unitPrice)}`;
    rows.push({ kind: 'pair', left: price, right: '', indent: true });
  }
  if (line.from) rows.push({ kind: 'pair', left: line.from, right: '', indent: true });
  for (const { why, amount } of line.records) {
    rows.push({ kind: 'pair', left: why, right: money(amount), indent: true });
  }
  if (line.serial) rows.push({ kind: 'pair', left: `No. ${line.serial}`, right: '', indent: true });
  if (line.card) rows.push({ kind: 'pair', left: `No. ·· ${line.card}`, right: '', indent: true });
  if (line.note) rows.push({ kind: 'pair', left: line.note, right: '', indent: true });
  return rows;
}

function taxRow(tax: TaxAmount, word: string, money: (amount: Money) => string): PaperRow {
  const left = `${tax.name} ${formatRate(tax.rate)} ${word} ${money(tax.base)}`;
  return { kind: 'pair', left, right: money(tax.tax) };
}
