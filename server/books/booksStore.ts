import type { BooksQuery, DaySummary, LedgerEventView } from '../../contract/books.ts';
import { accountWords, type Account } from '../../core/books/accounts.ts';
import { promiseNumber, type PromiseKind } from '../../core/promises/promiseNumber.ts';
import type { BookedEvent } from '../../core/books/accountingJournal.ts';
import { one, type Reader } from '../db/database.ts';

type Entry = BookedEvent['entries'][number];
type Days = Pick<BooksQuery, 'from' | 'to'>;

/** The condition for days of the shop's calendar, on `event`; parameters 1 to 3 are from, to and the time zone. */
const ON_DAYS = `($1::date is null or event.at >= ($1::date)::timestamp at time zone $3)
  and ($2::date is null or event.at < ($2::date + 1)::timestamp at time zone $3)`;

/** What an event is about: the receipt, the reason, or the shift. */
const ABOUT = `coalesce(' ' || receipt_number(till.number, sale.number), '')
  || coalesce(', ' || cash_move.reason, '')
  || case when sale.id is null and event.shift_id is not null and cash_move.id is null
       then ', till ' || own.number || ', shift ' || shift.number else '' end`;

/** What moved: nothing where a shift began with nothing. */
const ENTRIES = `coalesce((select json_agg(json_build_object('account', account, 'subject', subject, 'amount', amount)
  order by position) from ledger_entry where event_id = event.id), '[]'::json)`;

const EVENTS = `from ledger_event as event
  left join sale on sale.id = event.sale_id left join till on till.id = sale.till_id
  left join cash_move on cash_move.id = event.cash_move_id
  left join shift on shift.id = event.shift_id left join till as own on own.id = shift.till_id
  left join staff on staff.id = event.staff_id`;

/** Movements of every account in some days, and its balance at their end. */
export function balances(
  sql: Reader,
  { from, to }: Days,
  timezone: string,
): Promise<{ account: Account; subject: string; debit: number; credit: number; balance: number }[]> {
  return sql.query(
    `select account, subject,
            coalesce(sum(amount) filter (where amount > 0 and ${ON_DAYS}), 0)::bigint as debit,
            coalesce(-sum(amount) filter (where amount < 0 and ${ON_DAYS}), 0)::bigint as credit,
            sum(amount)::bigint as balance
     from ledger_entry join ledger_event as event on event.id = event_id
     where $2::date is null or event.at < ($2::date + 1)::timestamp at time zone $3
     group by account, subject order by account, subject`,
    [from, to, timezone],
  );
}

/** Few days are found in another way than the newest events of all. */
const searching = (sql: Reader, { from, to, account }: BooksQuery) =>
  from === null && to === null && account === null ? sql.query : sql.search;

/** An event as it is kept. */
interface KeptEvent extends Omit<LedgerEventView, 'words' | 'entries'> {
  about: string;
  entries: Entry[];
}

/** Events, newest first. */
export function ledgerEvents(
  sql: Reader,
  query: BooksQuery,
  timezone: string,
  most: number,
  skip: number,
): Promise<KeptEvent[]> {
  const { from, to, account, subject } = query;
  return searching(sql, query)(
    `select event.id, event.kind, event.at, ${ABOUT} as about, coalesce(staff.name, '') as by,
      event.sale_id as "saleId", event.shift_id as "shiftId",
            ${ENTRIES} as entries
     ${EVENTS}
     where ${ON_DAYS} and ${OF_ACCOUNT}
     order by event.at desc, event.id desc limit ${Math.trunc(most)} offset ${Math.trunc(skip)}`,
    [from, to, timezone, account, subject],
  );
}

const OF_ACCOUNT = `($4::text is null or exists (select 1 from ledger_entry as mine where mine.event_id = event.id
  and mine.account = $4 and ($5::text is null or mine.subject = $5)))`;

export async function countEvents(sql: Reader, query: BooksQuery, timezone: string): Promise<number> {
  const { from, to, account, subject } = query;
  return one(
    await searching(sql, query)<{ count: number }>(
      `select count(*)::integer as count from ledger_event as event where ${ON_DAYS} and ${OF_ACCOUNT}`,
      [from, to, timezone, account, subject],
    ),
  ).count;
}

/** Events by their number, a stretch at a time, for exports of any size. */
export function eventsAfter(
  sql: Reader,
  { from, to }: Days,
  timezone: string,
  after: number,
  most: number,
): Promise<BookedEvent[]> {
  return sql.query(
    `select event.id, to_char(event.at at time zone $3, 'YYYY-MM-DD') as day, event.kind || ${ABOUT} as words,
            ${ENTRIES} as entries
     ${EVENTS}
     where event.id > $4 and ${ON_DAYS} order by event.id limit ${Math.trunc(most)}`,
    [from, to, timezone, after],
  );
}

/** What subjects of accounts are called, as far as they are something that has a name. */
async function subjectNames(sql: Reader, subjects: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const idsOf = (kind: string) =>
    subjects.filter((one) => one.startsWith(`${kind}:`)).map((one) => one.slice(kind.length + 1));
  const rows = await sql.query<
    { subject: string } & ({ words: string; kind: null } | { kind: PromiseKind; number: number })
  >(
    `select subject, words, null as kind, null::integer as number from (
       select 'till:' || id as subject, 'Till ' || number as words from till
       union all select 'rate:' || id, name from tax_rate
       union all select 'terminal:' || id, name from terminal
       union all select 'tender:' || id, name from tender_type
       union all select 'fund:' || id, name from fund
       union all select 'place:' || id, name from place
       union all select 'channel:' || id, name from channel
       union all select 'partner:' || id, name from partner
       union all select 'supplier:' || id, name from supplier
       union all select 'customer:' || id, name from customer where id = any ($1::integer[])) as named
     union all select 'promise:' || id, null, kind, number from promise where id = any ($2::uuid[])`,
    [idsOf('customer').map(Number), idsOf('promise')],
  );
  return new Map(
    rows.map((row) => [row.subject, row.kind === null ? row.words : promiseNumber(row.kind, row.number)]),
  );
}

/** How accounts are called to people, and what they are about. @param entries all that is to be said */
export async function wordsFor(
  sql: Reader,
  entries: readonly Pick<Entry, 'subject'>[],
): Promise<(entry: Pick<Entry, 'account' | 'subject'>) => string> {
  const names = await subjectNames(sql, [...new Set(entries.map(({ subject }) => subject))]);
  return ({ account, subject }) => accountWords(account, subject, names);
}

/** What a day of the shop came to; voided sales come to nothing. One question to the database. */
export async function daySummary(sql: Reader, day: string): Promise<DaySummary> {
  const { summary } = one(
    await sql.query<{ summary: DaySummary }>(
      `with today as materialized (
         select id, till_id, kind, tax, total,
           exists (select 1 from sale_void where sale_id = sale.id and state = 'done') as voided
         from sale where business_date = $1
       ), standing as materialized (select * from today where not voided)
       select json_build_object('day', $1::text,
         'sales', (select count(*) from standing where kind <> 'return'),
         'returns', (select count(*) from standing where kind <> 'sale'),
         'voids', (select count(*) from today where voided),
         'units', lines.units, 'gross', lines.gross, 'reductions', lines.reductions, 'refunded', lines.refunded,
         'deposits', lines.deposits, 'onAccounts', lines.on_accounts,
         'tax', (select coalesce(sum(tax), 0) from standing), 'total', (select coalesce(sum(total), 0) from standing),
         'taxes', coalesce((select json_agg(part) from (
           select sale_tax.name, sale_tax.rate, sum(sale_tax.base) as base, sum(sale_tax.tax) as tax
           from standing join sale_tax on sale_tax.sale_id = standing.id group by 1, 2 order by 1, 2) as part),
           '[]'::json), 'tenders', coalesce((select json_agg(part) from (
           select coalesce(type.name, 'Cash') as name, sum(paid.count) as count, sum(paid.amount) as amount,
             sum(paid.tips) as tips
           from (select type_id, count(*) as count, sum(tender.amount) as amount, sum(tender.tip) as tips
                 from standing join tender on tender.sale_id = standing.id group by 1) as paid
             left join tender_type as type on type.id = paid.type_id
           group by 1 order by 3 desc) as part), '[]'::json),
         'tills', coalesce((select json_agg(part) from (
           select till.number as till, sales, at_till.total
           from (select till_id, count(*) as sales, sum(total) as total from standing group by 1) as at_till
             join till on till.id = at_till.till_id order by 1) as part), '[]'::json)) as summary
       from (select coalesce(sum(line.quantity) filter (where line.quantity > 0 and not deposit
         and line.account_id is null), 0)::bigint as units,
                    coalesce(sum(line.regular) filter (where line.quantity > 0 and not deposit
                      and line.account_id is null), 0)::bigint as gross,
                    coalesce(sum(line.net) filter (where deposit), 0)::bigint as deposits,
                    coalesce(sum(line.net) filter (where line.account_id is not null), 0)::bigint as on_accounts,
                    coalesce(sum(line.net - line.regular) filter (where line.quantity > 0), 0)::bigint as reductions,
                    coalesce(-sum(line.net) filter (where line.quantity < 0), 0)::bigint as refunded
             from standing join sale_line as line on line.sale_id = standing.id
             cross join lateral (select coalesce(promise_part in ('deposit', 'used', 'back'),
               false) as deposit) as part) as lines`,
      [day],
    ),
  );
  return summary;
}
