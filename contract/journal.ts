import { object, string, whole, day, type InferType } from './yup.ts';
import type { PointsOfSale } from '../core/people/loyalty.ts';
import type { ReceiptWay } from '../core/people/record.ts';
import type { Condition } from '../core/journal/returns.ts';
import type { Account, LedgerEventKind } from '../core/books/accounts.ts';
import type { PriceRecord } from '../core/pricing/price.ts';
import type { Paper } from '../core/journal/paper.ts';

export interface JournalRow {
  id: string;
  number: string;
  finishedAt: string;
  cashier: string;
  till: number;
  units: number;
  lines: number;
  firstLine: string;
  total: number;
  kind: 'sale' | 'return' | 'exchange';
  /** Voided, or being voided while its card payments are taken back. */
  voided: 'begun' | 'done' | null;
  customer: string | null;
}

const dayOrNull = () => day().nullable().default(null);
const choice = () => whole().nullable().default(null);

/** What the journal is asked for: what was typed, what was chosen, and where the page before ended. */
export const journalQuerySchema = object({
  find: string().trim().max(80).default(''),
  from: dayOrNull(),
  to: dayOrNull(),
  tillId: choice(),
  staffId: choice(),
  typeId: choice(),
  customerId: choice(),
  kind: string()
    .oneOf(['sale', 'return', 'exchange', 'void'] as const)
    .nullable()
    .default(null),
  next: string()
    .matches(/^[\dT:.Z-]+\|\d+\|[\da-f-]{36}$/)
    .nullable()
    .default(null),
});
export type JournalQuery = InferType<typeof journalQuerySchema>;

export interface JournalPage {
  rows: JournalRow[];
  /** Where the next page begins; nothing where this is the last one. */
  next: string | null;
  /** All that fit, up to a limit; only with the first page. Voided sales come to nothing. */
  counted: { count: number; more: boolean; total: number } | null;
}

/** A line of a sale as its page shows it. */
export interface SalePageLine {
  position: number;
  itemId: number;
  number: string;
  name: string;
  unit: string;
  quantity: number;
  unitPrice: number;
  regular: number;
  net: number;
  records: PriceRecord[];
  serial: string | null;
  note: string;
  /** So much of it came back. */
  cameBack: number;
  returnSale: string | null;
  reason: string | null;
  condition: Condition | null;
}

export interface LedgerLine {
  event: LedgerEventKind;
  account: Account;
  subject: string;
  /** What the account is, and what its subject means. */
  words: string;
  amount: number;
}

/** What came after a sale. */
export interface SaleAfterwards {
  returns: { id: string; number: string; at: string; by: string; amount: number; voided: boolean }[];
  /** Sales that it took goods back from. */
  origins: { id: string; number: string }[];
  void: { state: 'begun' | 'done'; reason: string; at: string; by: string } | null;
  corrections: { from: string; to: string; amount: number; reason: string; at: string; by: string }[];
  papers: { kind: 'receipt' | 'copy' | 'gift-receipt' | 'void-slip'; at: string; till: number }[];
  /** What was written about it afterwards. */
  notes: { note: string; at: string; by: string }[];
}

/** A sale with its receipt as it was printed. */
export interface JournalSale extends JournalRow {
  paper: Paper;
  pageLines: SalePageLine[];
  entries: LedgerLine[];
  afterwards: SaleAfterwards;
  /** Why it cannot be voided here and now; empty where it can. */
  noVoid: string;
  /** What was written on it when it was rung up. */
  note: string;
  /** Whether anything can still come back from it. */
  returnable: boolean;
  /** Where the receipt is: still waiting for the printer, or printed at. */
  printedAt: string | null;
  /** What went out by mail or text, or is to. */
  sent: { kind: 'mail' | 'text'; recipient: string; state: string; trouble: string; at: string }[];
  tenders: { name: string; amount: number; handed: number; tip: number }[];
  /** What was rounded up and given; in what was paid. */
  donation: number;
  /** What it did to somebody's points, and whether its points can still be given to somebody. */
  points: PointsOfSale | null;
  mayJoin: boolean;
  /** Who its customer is now, where they can be written to, and how they like receipts. */
  receiptCustomer: { id: number; name: string; mail: string; phone: string; by: ReceiptWay } | null;
}

/** Writes something about a sale after it. */
export const saleNoteSchema = object({
  note: string().trim().required('Write the note first.').max(500, 'A note has at most 500 characters.'),
});

/** Cancels a sale of the shift as if it had not been. */
export const voidSaleSchema = object({
  reason: string().trim().required('Say why: it is recorded.').max(120, 'At most 120 characters.'),
  countersign: string().uuid(),
});
export type VoidSale = InferType<typeof voidSaleSchema>;

/** Where a void stands: begun while card payments are being taken back. */
export interface VoidView {
  state: 'begun' | 'done' | null;
}

/** What the journal can be narrowed to. */
export interface JournalChoices {
  tills: { id: number; name: string }[];
  staff: { id: number; name: string }[];
}
