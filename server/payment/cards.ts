import { stringify } from 'csv-stringify/sync';
import type { CardPage, CardRow, SettlementRow, TerminalRow } from '../../contract/payment.ts';
import type { Person } from '../../contract/staff.ts';
import { settlementEntries } from '../../core/ledger/entries.ts';
import { formatMoney, sum } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { TerminalUnreachable, type SettlementBatch } from '../../devices/terminal/driver.ts';
import { iso } from '../clock.ts';
import { one, type Reader } from '../db/database.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { postEvent } from '../ledger/store.ts';
import { readShop } from '../setup/store.ts';

const PAGE = 100;

/** What the list of card payments is narrowed down by; empty is all. */
export interface CardFilter {
  from: string;
  to: string;
  /** Last four digits, approval code or reference. */
  find: string;
  state: string;
  kind: string;
}

const FROM = `from payment_tender as held
  join payment using (basket_id) join till on till.id = payment.till_id
  join terminal on terminal.id = held.terminal_id
  left join tender on tender.payment_tender_id = held.id
  left join sale on sale.id = tender.sale_id
  left join settlement_entry as entry on entry.tender_id = held.id
  left join settlement on settlement.id = entry.settlement_id
  cross join shop
  where ($1 = '' or (held.at at time zone shop.timezone)::date >= $1::date)
    and ($2 = '' or (held.at at time zone shop.timezone)::date <= $2::date)
    and ($3 = '' or held.last_four = $3 or held.approval = $3 or held.id::text like $3 || '%')
    and ($4 = '' or held.state = $4) and ($5 = '' or held.card_kind = $5)`;

const values = ({ from, to, find, state, kind }: CardFilter) => [from, to, find, state, kind];

async function listCards(sql: Reader, filter: CardFilter, most: number, skip: number): Promise<CardRow[]> {
  const rows = await sql.query<CardRow>(
    `select held.id, held.at, till.number as till, terminal.name as terminal, held.state, held.amount, held.tip,
            held.round_up as "roundUp", coalesce(brand, '') as brand, coalesce(last_four, '') as "lastFour",
            coalesce(card_kind, '') as "cardKind", coalesce(held.entry, '') as entry, coalesce(approval, '') as approval,
            held.words, sale.id as "saleId", till.number || '-' || lpad(sale.number::text, 4, '0') as sale,
            settlement.batch as settled
     ${FROM} order by held.at desc, held.id limit ${Math.trunc(most)} offset ${Math.trunc(skip)}`,
    values(filter),
  );
  return rows.map((row) => ({ ...row, at: iso(row.at) }));
}

/** Card payments, newest first. @param page from 0 */
export async function cardPage(sql: Reader, filter: CardFilter, page: number): Promise<CardPage> {
  const figures = await sql.query<{ count: number; total: number }>(
    `select count(*)::integer as count, coalesce(sum(held.amount + held.tip + held.round_up)
       filter (where held.state = 'approved'), 0)::bigint as total ${FROM}`,
    values(filter),
  );
  return { rows: await listCards(sql, filter, PAGE, page * PAGE), ...one(figures) };
}

export async function cardCsv(sql: Reader, filter: CardFilter): Promise<string> {
  const { digits } = currencyOf((await readShop(sql)).currency);
  const money = (amount: number) => formatMoney(amount, digits).replaceAll(',', '');
  const rows = await listCards(sql, filter, 1_000_000, 0);
  return stringify(
    rows.map((row) => [
      row.at,
      row.till,
      row.terminal,
      row.state,
      money(row.amount),
      money(row.tip),
      money(row.roundUp),
      row.brand,
      row.lastFour,
      row.cardKind,
      row.entry,
      row.approval,
      row.id,
      row.sale ?? '',
      row.settled ?? '',
    ]),
    {
      header: true,
      columns: [
        'at',
        'till',
        'terminal',
        'state',
        'amount',
        'tip',
        'round-up',
        'brand',
        'last four',
        'kind',
        'entry',
        'approval',
        'reference',
        'receipt',
        'settlement',
      ],
    },
  );
}

/** The shop's terminals, with what has not been settled. */
export async function listTerminals(sql: Reader): Promise<TerminalRow[]> {
  return sql.query<TerminalRow>(
    `select id, serial, name, active,
            coalesce((select json_agg(till_id order by till_id) from till_terminal where terminal_id = terminal.id), '[]'::json) as "tillIds",
            coalesce((select sum(amount + tip + round_up) from payment_tender
              where terminal_id = terminal.id and state = 'approved'
                and not exists (select 1 from settlement_entry where tender_id = payment_tender.id)), 0)::bigint as unsettled
     from terminal order by name`,
  );
}

/**
 * Ends the day of a terminal: what the bank pays out is taken into the books, payment by payment.
 * @throws Problem 503 when the terminal cannot be reached
 */
export async function settle(
  house: House,
  person: Person,
  terminalId: number,
): Promise<{ count: number; gross: number; fees: number }> {
  const { database, terminal: driver } = house;
  const terminal = (await database.ask(listTerminals)).find(({ id }) => id === terminalId);
  if (!terminal) throw new Problem(404, 'no-terminal', 'There is no such terminal.');
  const last = await database.ask((sql) => lastBatch(sql, terminalId));
  const batches = await driver.settle(terminal.serial, last).catch((error: unknown) => {
    if (error instanceof TerminalUnreachable) throw new Problem(503, 'unreachable', error.message);
    throw error;
  });
  const paid = { count: 0, gross: 0, fees: 0 };
  for (const batch of batches) {
    const { count, gross, fees } = await bookBatch(house, person, terminalId, batch);
    paid.count += count;
    paid.gross += gross;
    paid.fees += fees;
  }
  return paid;
}

async function lastBatch(sql: Reader, terminalId: number): Promise<string> {
  const [row] = await sql.query<{ batch: string }>(
    'select batch from settlement where terminal_id = $1 order by id desc limit 1',
    [terminalId],
  );
  return row?.batch ?? '';
}

async function bookBatch(
  { database, clock }: House,
  { staffId }: Person,
  terminalId: number,
  batch: SettlementBatch,
): Promise<{ count: number; gross: number; fees: number }> {
  const entries = batch.entries.map(({ reference, amount, tip, roundUp, refund, fee }) => ({
    reference,
    amount: (amount + tip + roundUp) * (refund ? -1 : 1),
    fee,
  }));
  const gross = sum(entries.map(({ amount }) => amount));
  const fees = sum(entries.map(({ fee }) => fee));
  await database.write(async (sql) => {
    const [fresh] = await sql.query<{ id: number }>(
      `insert into settlement (terminal_id, batch, at, gross, fees, count, staff_id)
       values ($1, $2, $3, $4, $5, $6, $7) on conflict (terminal_id, batch) do nothing returning id`,
      [terminalId, batch.number, batch.at, gross, fees, entries.length, staffId],
    );
    // Two people who settle at once book it once.
    if (!fresh) return;
    await sql.query(
      `insert into settlement_entry (settlement_id, reference, tender_id, amount, fee)
       select $1, entry.reference, held.id, entry.amount, entry.fee
       from jsonb_to_recordset($2::jsonb) as entry (reference uuid, amount bigint, fee bigint)
       left join payment_tender as held on held.id = entry.reference`,
      [fresh.id, JSON.stringify(entries)],
    );
    await postEvent(sql, {
      kind: 'settlement',
      at: clock.now(),
      staffId,
      entries: settlementEntries({ terminalId, gross, fees }),
    });
  });
  return { count: entries.length, gross, fees };
}

export async function settlements(sql: Reader): Promise<SettlementRow[]> {
  const rows = await sql.query<SettlementRow>(
    `select settlement.id, terminal.name as terminal, batch, at, gross, fees, count,
            (select count(*) from settlement_entry where settlement_id = settlement.id and tender_id is null)::integer as unknown
     from settlement join terminal on terminal.id = terminal_id order by settlement.id desc limit 200`,
  );
  return rows.map((row) => ({ ...row, at: iso(row.at) }));
}
