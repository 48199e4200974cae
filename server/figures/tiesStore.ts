import type { Period } from '../../core/figures/period.ts';
import type { Account } from '../../core/books/accounts.ts';
import { piecesOf } from '../books/piecesStore.ts';
import { one, type Parameter, type Reader } from '../db/database.ts';

/** An amount of some days, from `$1` to `$2`: read a piece of them at a time, and added up. */
async function addedUp(
  sql: Reader,
  days: Period,
  statement: string,
  more: readonly Parameter[] = [],
): Promise<number> {
  let all = 0;
  for (const { from, to } of await piecesOf(sql, days)) {
    all += one(await sql.search<{ amount: number }>(statement, [from, to, ...more])).amount;
  }
  return all;
}

/** What the books say of the sales of some days, and of what was undone of them. */
export const bookedOnSales = (sql: Reader, accounts: readonly Account[], days: Period): Promise<number> =>
  addedUp(
    sql,
    days,
    `select coalesce(sum(amount), 0)::bigint as amount from sale join ledger_event as event on event.sale_id = sale.id
     join ledger_entry on event_id = event.id
     where business_date between $1 and $2 and event.kind in ('sale', 'void') and account = any ($3::text[])`,
    [accounts],
  );

/** What the books say that goods of standing sales cost when they were sold. */
export const costOnSales = (sql: Reader, days: Period): Promise<number> =>
  addedUp(
    sql,
    days,
    `select coalesce(sum(amount), 0)::bigint as amount from standing_sale as sale
     join ledger_event as event on event.sale_id = sale.id join ledger_entry on event_id = event.id
     where business_date between $1 and $2 and event.kind = 'sale' and account = 'cost-of-goods'`,
  );

/** What the books say of accounts until a moment, or since another one. */
export async function bookedUntil(
  sql: Reader,
  accounts: readonly Account[],
  {
    until,
    since = null,
    kinds = null,
  }: { until: string | null; since?: string | null; kinds?: readonly string[] | null },
): Promise<number> {
  return one(
    await sql.query<{ amount: number }>(
      `select coalesce(sum(amount), 0)::bigint as amount from ledger_entry
        join ledger_event as event on event.id = event_id
       where account = any ($1::text[]) and ($2::timestamptz is null or event.at < $2)
         and ($3::timestamptz is null or event.at >= $3)
         and ($4::text[] is null or event.kind = any ($4))`,
      [accounts, until, since, kinds],
    ),
  ).amount;
}

/** What the journal says was paid on some days: totals with donations and what cash was rounded by. */
export async function paidInJournal(sql: Reader, { from, to }: Period): Promise<number> {
  return one(
    await sql.query<{ amount: number }>(
      `select coalesce(sum(total + donation + cash_rounding), 0)::bigint as amount from standing_sale
       where business_date between $1 and $2`,
      [from, to],
    ),
  ).amount;
}

/** Totals of the sales of shifts that began in some days and are closed, by the journal and by their reports. */
export async function closedShifts(
  sql: Reader,
  { since, until }: { since: string; until: string },
): Promise<{ journal: number; reports: number }> {
  return one(
    await sql.query<{ journal: number; reports: number }>(
      `select coalesce(sum((closing->'sales'->>'total')::bigint), 0)::bigint as reports,
         coalesce(sum((select sum(total) from standing_sale as sale where sale.shift_id = shift.id)),
           0)::bigint as journal
       from shift where state = 'closed' and opened_at >= $1 and opened_at < $2`,
      [since, until],
    ),
  );
}
