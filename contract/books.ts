import { object, string, whole, day, type InferType } from './yup.ts';
import type { Account, AccountClass, LedgerEventKind } from '../core/books/accounts.ts';

const dayOrNull = () => day().nullable().default(null);

/** Which part of the books is looked at. */
export const booksQuerySchema = object({
  from: dayOrNull(),
  to: dayOrNull(),
  account: string().max(40).nullable().default(null),
  subject: string().max(80).nullable().default(null),
  page: whole().min(0).default(0),
});
export type BooksQuery = InferType<typeof booksQuerySchema>;

/** An account with what moved in it, and where it stands at the end. */
export interface BalanceRow {
  account: Account;
  subject: string;
  class: AccountClass;
  /** What the account is, and what its subject means. */
  words: string;
  debit: number;
  credit: number;
  balance: number;
}

export interface TrialBalance {
  rows: BalanceRow[];
  debit: number;
  credit: number;
}

/** An event of the books. */
export interface LedgerEventView {
  id: number;
  kind: LedgerEventKind;
  at: string;
  words: string;
  by: string;
  saleId: string | null;
  shiftId: number | null;
  /** `words` say what the account is, and what its subject means. */
  entries: { account: Account; subject: string; words: string; amount: number }[];
}

/** So many entries are on a page. */
export const LEDGER_PAGE = 50;

export interface LedgerPage {
  events: LedgerEventView[];
  count: number;
}

/** What a day of the shop came to. */
export interface DaySummary {
  day: string;
  sales: number;
  returns: number;
  voids: number;
  units: number;
  /** Before reductions, reductions, refunds of goods, tax, and what customers paid in all. */
  gross: number;
  reductions: number;
  refunded: number;
  /** Deposits for goods that wait: paid, less what was used and given back. */
  deposits: number;
  /** Money that was paid onto house accounts, less what was paid out of them. */
  onAccounts: number;
  tax: number;
  total: number;
  taxes: { name: string; rate: number; base: number; tax: number }[];
  tenders: { name: string; count: number; amount: number; tips: number }[];
  tills: { till: number; sales: number; total: number }[];
}
