import { formatMoney, type Money } from '../money.ts';
import type { PriceRecord } from '../offers/price.ts';
import type { TaxAmount, TaxMode } from '../offers/tax.ts';
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
}

/** A finished sale with everything that its receipt says. */
export interface ReceiptData {
  shop: { name: string; words: readonly string[]; thanks: string };
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
  tenders: readonly { name: string; amount: Money }[];
  change: Money;
}

/** The receipt of a sale. @param copy marks a reprint */
export function receipt(sale: ReceiptData, { copy = false } = {}): Paper {
  const money = (amount: Money) => formatMoney(amount, sale.digits);
  const rows: PaperRow[] = [{ kind: 'title', text: sale.shop.name }];
  for (const text of sale.shop.words) rows.push({ kind: 'centre', text });
  rows.push({ kind: 'gap' });
  if (copy) rows.push({ kind: 'title', text: 'COPY' });
  rows.push(
    { kind: 'pair', left: `Receipt ${sale.number}`, right: sale.when },
    { kind: 'pair', left: `${sale.place}, ${sale.till}`, right: sale.cashier },
    ...(sale.customer ? [{ kind: 'pair' as const, left: 'Customer', right: sale.customer }] : []),
    { kind: 'rule' },
    ...sale.lines.flatMap((line) => lineRows(line, money)),
    { kind: 'rule' },
  );
  if (sale.reductions !== 0) {
    rows.push(
      { kind: 'pair', left: 'Items', right: money(sale.regular) },
      {
        kind: 'pair',
        left: sale.reductions < 0 ? 'Reductions' : 'Price changes',
        right: money(sale.reductions),
      },
    );
  }
  if (sale.taxMode === 'on-top') {
    rows.push({ kind: 'pair', left: 'Before tax', right: money(sale.regular + sale.reductions) });
    rows.push(...sale.taxes.map((tax) => taxRow(tax, 'on', money)));
  }
  if (sale.exemption) {
    const { reason, certificate } = sale.exemption;
    rows.push({
      kind: 'text',
      text: `Without tax: ${reason}${certificate && `, certificate ${certificate}`}`,
    });
  }
  rows.push({ kind: 'pair', left: `Total ${sale.currency}`, right: money(sale.total), strong: true });
  for (const tender of sale.tenders)
    rows.push({ kind: 'pair', left: tender.name, right: money(tender.amount) });
  if (sale.change !== 0) rows.push({ kind: 'pair', left: 'Change', right: money(sale.change) });
  if (sale.taxMode === 'inside') {
    rows.push({ kind: 'rule' }, ...sale.taxes.map((tax) => taxRow(tax, 'contained, on', money)));
  }
  if (sale.note) rows.push({ kind: 'rule' }, { kind: 'text', text: sale.note });
  rows.push({ kind: 'gap' }, { kind: 'barcode', text: sale.number });
  if (sale.shop.thanks) rows.push({ kind: 'centre', text: sale.shop.thanks });
  return { title: `Receipt ${sale.number}`, rows };
}

/** The receipt that goes with a present: the marked lines, without any price. */
export function giftReceipt(sale: ReceiptData): Paper {
  const rows: PaperRow[] = [{ kind: 'title', text: sale.shop.name }];
  for (const text of sale.shop.words) rows.push({ kind: 'centre', text });
  rows.push(
    { kind: 'gap' },
    { kind: 'title', text: 'Gift receipt' },
    { kind: 'pair', left: `Receipt ${sale.number}`, right: sale.when },
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

function lineRows(line: ReceiptLine, money: (amount: Money) => string): PaperRow[] {
  const rows: PaperRow[] = [{ kind: 'pair', left: line.name, right: money(line.regular) }];
  const unit = line.unit === 'each' ? '' : ` ${line.unit}`;
  if (line.quantity !== ONE || unit) {
    const price = `${formatQuantity(line.quantity)}${unit} at ${money(line.unitPrice)}`;
    rows.push({ kind: 'pair', left: price, right: '', indent: true });
  }
  for (const { why, amount } of line.records) {
    rows.push({ kind: 'pair', left: why, right: money(amount), indent: true });
  }
  if (line.serial) rows.push({ kind: 'pair', left: `No. ${line.serial}`, right: '', indent: true });
  if (line.note) rows.push({ kind: 'pair', left: line.note, right: '', indent: true });
  return rows;
}

function taxRow(tax: TaxAmount, word: string, money: (amount: Money) => string): PaperRow {
  const left = `${tax.name} ${formatRate(tax.rate)} ${word} ${money(tax.base)}`;
  return { kind: 'pair', left, right: money(tax.tax) };
}
