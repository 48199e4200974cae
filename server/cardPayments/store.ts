import {
  SETTLEMENTS_PAGE,
  type CardRow,
  type SettlementRow,
  type TerminalRow,
} from '../../contract/cardPayments.ts';
import { iso } from '../clock.ts';
import { asking } from '../db/asked.ts';
import { one, type Parameter, type Reader, type Writer } from '../db/database.ts';

/** What the list of card payments is narrowed down by; empty is all. */
export interface CardFilter {
  from: string;
  to: string;
  /** Last four digits, approval code or reference. */
  find: string;
  state: string;
  kind: string;
}

/** The first and the last of the references that begin with some letters; nothing where none can. */
function referencesFrom(text: string): [first: string, last: string] | null {
  const digits = text.replaceAll('-', '').toLowerCase();
  return /^[\da-f]{4,32}$/.test(digits) ? [digits.padEnd(32, '0'), digits.padEnd(32, 'f')] : null;
}

/** What is asked of a card payment, as a condition on `payment_tender`, and what it is asked with. */
function conditions({ from, to, find, state, kind }: CardFilter): { where: string; given: Parameter[] } {
  const { given, ask } = asking();
  const begins = (day: string) => `(${day})::timestamp at time zone (select timezone from shop)`;
  const parts = ['terminal_id is not null'];
  if (from) parts.push(`at >= ${begins(`${ask(from)}::date`)}`);
  if (to) parts.push(`at < ${begins(`${ask(to)}::date + 1`)}`);
  if (find) {
    const word = ask(find);
    const references = referencesFrom(find);
    const among = references && `id between ${ask(references[0])}::uuid and ${ask(references[1])}::uuid`;
    parts.push(`(last_four = ${word} or approval = ${word}${among ? ` or ${among}` : ''})`);
  }
  if (state) parts.push(`state = ${ask(state)}`);
  if (kind) parts.push(`card_kind = ${ask(kind)}`);
  return { where: parts.join(' and '), given };
}

/** What a card payment came to: below zero where it went back to the card. */
const SIGN = 'case when refund then -1 else 1 end';

export async function listCards(
  sql: Reader,
  filter: CardFilter,
  most: number,
  skip: number,
): Promise<CardRow[]> {
  const { where, given } = conditions(filter);
  const rows = await sql.search<CardRow>(
    `select asked.id, asked.at, till.number as till, terminal.name as terminal, asked.state,
       (${SIGN} * asked.amount)::bigint as amount, asked.tip, asked.round_up as "roundUp",
       coalesce(brand, '') as brand, coalesce(last_four, '') as "lastFour", coalesce(card_kind, '') as "cardKind",
       coalesce(asked.entry, '') as entry, coalesce(approval, '') as approval, asked.words, sale.id as "saleId",
       receipt_number(till.number, sale.number) as sale, settlement.batch as settled
     from (select * from payment_tender where ${where} order by at desc, id
       limit ${Math.trunc(most)} offset ${Math.trunc(skip)}) as asked
     join payment using (basket_id) join till on till.id = payment.till_id
     join terminal on terminal.id = asked.terminal_id
     left join tender on tender.payment_tender_id = asked.id
     left join sale on sale.id = tender.sale_id
     left join settlement_entry as entry on entry.tender_id = asked.id
     left join settlement on settlement.id = entry.settlement_id
     order by asked.at desc, asked.id`,
    given,
  );
  return rows.map((row) => ({ ...row, at: iso(row.at) }));
}

/** How many card payments are found, and what was approved of them, less what went back. */
export async function sumCards(sql: Reader, filter: CardFilter): Promise<{ count: number; total: number }> {
  const { where, given } = conditions(filter);
  return one(
    await sql.search<{ count: number; total: number }>(
      `select count(*)::integer as count,
         coalesce(sum(${SIGN} * (amount + tip + round_up)) filter (where state = 'approved'), 0)::bigint as total
       from payment_tender where ${where}`,
      given,
    ),
  );
}

/** The shop's terminals, with what the bank owes for them: what the books say has not been settled. */
export async function listTerminals(sql: Reader): Promise<TerminalRow[]> {
  return sql.query<TerminalRow>(
    `select id, serial, name, active,
       coalesce((select json_agg(till_id order by till_id) from till_terminal
         where terminal_id = terminal.id), '[]'::json) as "tillIds",
       coalesce((select balance from account_balance
         where account = 'card-clearing' and subject = 'terminal:' || terminal.id), 0)::bigint as unsettled
     from terminal order by name`,
  );
}

/** The number of the last batch that is in the books, or nothing. */
export async function lastBatch(sql: Reader, terminalId: number): Promise<string> {
  const [row] = await sql.query<{ batch: string }>(
    'select batch from settlement where terminal_id = $1 order by id desc limit 1',
    [terminalId],
  );
  return row?.batch ?? '';
}

/** One payment in a batch of the bank's. */
export interface BookedEntry {
  reference: string;
  amount: number;
  fee: number;
}

/** Stores a batch with its payments. @returns whether it is a new one */
export async function addSettlement(
  sql: Writer,
  batch: { terminalId: number; number: string; at: string; gross: number; fees: number; staffId: number },
  entries: readonly BookedEntry[],
): Promise<boolean> {
  const { terminalId, number, at, gross, fees, staffId } = batch;
  const [fresh] = await sql.query<{ id: number }>(
    `insert into settlement (terminal_id, batch, at, gross, fees, count, staff_id)
     values ($1, $2, $3, $4, $5, $6, $7) on conflict (terminal_id, batch) do nothing returning id`,
    [terminalId, number, at, gross, fees, entries.length, staffId],
  );
  if (!fresh) return false;
  await sql.query(
    `insert into settlement_entry (settlement_id, reference, tender_id, amount, fee)
     select $1, entry.reference, payment_tender.id, entry.amount, entry.fee
     from jsonb_to_recordset($2::jsonb) as entry (reference uuid, amount bigint, fee bigint)
     left join payment_tender on payment_tender.id = entry.reference`,
    [fresh.id, JSON.stringify(entries)],
  );
  return true;
}

/** What the bank has paid out, newest first. @param before the last one that was told; 0 for the newest */
export async function settlements(sql: Reader, before: number): Promise<SettlementRow[]> {
  const rows = await sql.query<SettlementRow>(
    `select settlement.id, terminal.name as terminal, batch, at, gross, fees, count,
            (select count(*) from settlement_entry where settlement_id = settlement.id
              and tender_id is null)::integer as unknown
     from settlement join terminal on terminal.id = terminal_id
     where $1 = 0 or settlement.id < $1 order by settlement.id desc limit ${SETTLEMENTS_PAGE}`,
    [before],
  );
  return rows.map((row) => ({ ...row, at: iso(row.at) }));
}
