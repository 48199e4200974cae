import type { LedgerEventKind } from '../../core/books/accounts.ts';
import type { LedgerEntry } from '../../core/books/entries.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

export interface LedgerEvent {
  kind: LedgerEventKind;
  at: Date;
  /** Through whom; nobody where it came from outside. */
  staffId?: number;
  tillId?: number;
  shiftId?: number;
  cashMoveId?: string;
  correctionId?: string;
  entries: readonly LedgerEntry[];
}

/** Opens an event whose entries follow from what it does. */
export async function openEvent(sql: Writer, event: Omit<LedgerEvent, 'entries'>): Promise<number> {
  return one(await sql.query<{ id: number }>('select open_event($1) as id', [JSON.stringify(event)])).id;
}

/** Posts the first entries of an event; they add up to zero. */
export async function postEntries(
  sql: Writer,
  event: number,
  entries: readonly LedgerEntry[],
): Promise<void> {
  await sql.query('select post_entries($1, $2)', [event, JSON.stringify(entries)]);
}

/** Posts what the moves of an event cost. */
export async function postCosts(sql: Writer, event: number): Promise<void> {
  await sql.query('select post_costs($1)', [event]);
}

/** Posts an event with its balanced entries. */
export async function postEvent(sql: Writer, event: LedgerEvent): Promise<void> {
  await sql.query('select post_event($1)', [JSON.stringify(event)]);
}

/** The balance of an account that is kept up to date; zero when nothing was ever posted. */
export async function balanceOf(sql: Reader, account: string, subject: string): Promise<number> {
  const rows = await sql.query<{ balance: number }>(
    `select coalesce((select balance from account_balance where account = $1 and subject = $2), 0)::bigint as balance`,
    [account, subject],
  );
  return one(rows).balance;
}
