import type { PaperRow } from '../journal/paper.ts';
import type { ReceiptHead } from '../journal/receipt.ts';
import type { Money } from '../money.ts';
import { formatQuantity, ONE, type Quantity } from '../quantity.ts';

/** What the papers of all promises say; days and times as the shop writes them. */
export interface PromiseOnPaper {
  shop: ReceiptHead;
  number: string;
  when: string;
  by: string;
  customer: string;
  digits: number;
  currency: string;
  total: Money;
  note: string;
}

/** Goods as papers name them. */
export interface GoodsOnPaper {
  name: string;
  quantity: Quantity;
  unit: string;
  net: Money;
  serial: string | null;
}

/** So many of something: `2 ×`, `1.5 m`. */
export const unitsOnPaper = (quantity: Quantity, unit: string): string =>
  `${formatQuantity(quantity)}${unit === 'each' ? ' ×' : ` ${unit}`}`;

/** The head of a paper: the shop, what it is and whose. @param whose words before the customer's name */
export function headRows(
  { shop, when, by, customer }: PromiseOnPaper,
  title: string,
  whose: string,
): PaperRow[] {
  return [
    ...shopRows(shop, title),
    { kind: 'pair', left: by, right: when },
    { kind: 'pair', left: whose, right: customer },
    { kind: 'rule' },
  ];
}

/** The shop, and what the paper is. */
export const shopRows = (shop: ReceiptHead, title: string): PaperRow[] => [
  { kind: 'title', text: shop.name },
  ...shop.words.map((words): PaperRow => ({ kind: 'centre', text: words })),
  { kind: 'gap' },
  { kind: 'title', text: title },
];

/** Goods with what they cost, and their serial number under them. @param right what stands to the right */
export const goodsRows = (
  { name, quantity, unit, serial }: GoodsOnPaper,
  right: string,
  indent = false,
): PaperRow[] => [
  {
    kind: 'pair',
    left: quantity === ONE ? name : `${unitsOnPaper(quantity, unit)} ${name}`,
    right,
    ...(indent && { indent }),
  },
  ...serialRows(serial),
];

export const serialRows = (serial: string | null): PaperRow[] =>
  serial ? [{ kind: 'pair', left: `No. ${serial}`, right: '', indent: true }] : [];

/** A line of words, where there are any. */
export const wordRows = (words: string): PaperRow[] => (words ? [{ kind: 'text', text: words }] : []);
