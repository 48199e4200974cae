import type { CardRow, SettlementRow, TerminalRow } from '../../contract/cardPayments.ts';
import { iso } from '../clock.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** What the list of card payments is narrowed down by; empty is all. */
export interface CardFilter {
  from: string;
  to: string;
  /** Last four digits, approval code or reference. */
  find: string;
  state: string;
  kind: string;
}

const FROM = `from payment_tender
  join payment using (basket_id) join till on till.id = payment.till_id
  join terminal on terminal.id = payment_tender.terminal_id
  left join tender on tender.payment_tender_id = payment_tender.id
  left join sale on sale.id = tender.sale_id
  left join settlement_entry as entry on entry.tender_id = payment_tender.id
  left join settlement on settlement.id = entry.settlement_id
  cross join shop
  where ($1 = '' or (payment_tender.at at time zone shop.timezone)::date >= $1::date)
    and ($2 = '' or (payment_tender.at at time zone shop.timezone)::date <= $2::date)
    and ($3 = '' or payment_tender.last_four = $3 or payment_tender.approval = $3
      or payment_tender.id::text like $3 || '%')
    and ($4 = '' or payment_tender.state = $4) and ($5 = '' or payment_tender.card_kind = $5)`;

const values = ({ from, to, find, state, kind }: CardFilter) => [from, to, find, state, kind];

export async function listCards(
  sql: Reader,
  filter: CardFilter,
  most: number,
  skip: number,
): Promise<CardRow[]> {
  const rows = await sql.query<CardRow>(
    `select payment_tender.id, payment_tender.at, till.number as till, terminal.name as terminal,
        payment_tender.state, payment_tender.amount, payment_tender.tip,
            payment_tender.round_up as "roundUp", coalesce(brand, '') as brand, coalesce(last_four, '') as "lastFour",
            coalesce(card_kind, '') as "cardKind", coalesce(payment_tender.entry, '') as entry, coalesce(approval,
              '') as approval,
            payment_tender.words, sale.id as "saleId", receipt_number(till.number, sale.number) as sale,
            settlement.batch as settled
     ${FROM} order by payment_tender.at desc, payment_tender.id limit ${Math.trunc(most)} offset ${Math.trunc(skip)}`,
    values(filter),
  );
  return rows.map((row) => ({ ...row, at: iso(row.at) }));
}

/** How many card payments are found, and what was approved of them. */
export async function sumCards(sql: Reader, filter: CardFilter): Promise<{ count: number; total: number }> {
  const figures = await sql.query<{ count: number; total: number }>(
    `select count(*)::integer as count,
       coalesce(sum(payment_tender.amount + payment_tender.tip + payment_tender.round_up)
       filter (where payment_tender.state = 'approved'), 0)::bigint as total ${FROM}`,
    values(filter),
  );
  return one(figures);
}

/** The shop's terminals, with what has not been settled. */
export async function listTerminals(sql: Reader): Promise<TerminalRow[]> {
  return sql.query<TerminalRow>(
    `select id, serial, name, active,
            coalesce((select json_agg(till_id order by till_id) from till_terminal
              where terminal_id = terminal.id), '[]'::json) as "tillIds",
            coalesce((select sum(amount + tip + round_up) from payment_tender
              where terminal_id = terminal.id and state = 'approved'
                and not exists (select 1 from settlement_entry where tender_id = payment_tender.id)),
                0)::bigint as unsettled
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

/** What the bank has paid out, newest first. */
export async function settlements(sql: Reader): Promise<SettlementRow[]> {
  const rows = await sql.query<SettlementRow>(
    `select settlement.id, terminal.name as terminal, batch, at, gross, fees, count,
            (select count(*) from settlement_entry where settlement_id = settlement.id
              and tender_id is null)::integer as unknown
     from settlement join terminal on terminal.id = terminal_id order by settlement.id desc limit 200`,
  );
  return rows.map((row) => ({ ...row, at: iso(row.at) }));
}
