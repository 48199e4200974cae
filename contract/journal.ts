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
}

export interface JournalPage {
  /** The shop's calendar day, `YYYY-MM-DD`. */
  date: string;
  rows: JournalRow[];
  /** All sales of that day that fit, not only those on this page. */
  count: number;
  total: number;
}

/** A sale with its receipt as it was printed. */
export interface JournalSale extends JournalRow {
  paper: Paper;
  /** Where the receipt is: still waiting for the printer, or printed at. */
  printedAt: string | null;
  /** What went out by mail or text, or is to. */
  sent: { kind: 'mail' | 'text'; recipient: string; state: string; trouble: string }[];
  tenders: { name: string; amount: number; handed: number; tip: number }[];
  /** Where the customer of the sale can be written to, and how they like receipts. */
  customer: { name: string; mail: string; phone: string; by: string } | null;
}
