import type { BankLine } from '../../core/people/bankLines.ts';
import { NAMED } from './accountStore.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

export interface StoredLine extends BankLine {
  id: number;
  state: 'open' | 'booked' | 'dropped';
  name: string | null;
}

/** Adds lines that are not there yet; of those that are alike in one list, each is one. @returns how many */
export async function addLines(
  sql: Writer,
  lines: readonly BankLine[],
  { staffId, at }: { staffId: number; at: Date },
): Promise<number> {
  return one(
    await sql.query<{ added: number }>(
      `with line as (
         select day, amount, payer, words, row_number() over (partition by day, amount, payer, words) as nth
         from jsonb_to_recordset($1) as line (day date, amount bigint, payer text, words text)
       ), fresh as (
         insert into bank_line (day, amount, payer, words, nth, added_at, added_by)
         select day, amount, payer, words, nth, $2, $3 from line on conflict do nothing returning id
       ) select count(*)::integer as added from fresh`,
      [JSON.stringify(lines), at.toISOString(), staffId],
    ),
  ).added;
}

const LINE = `line.id, line.day::text as day, line.amount, line.payer, line.words, line.state,
  (select ${NAMED} from account_item as item join account on account.id = item.account_id
   join customer on customer.id = account.customer_id where item.id = line.item_id) as name from bank_line as line`;
const BOOKED_SHOWN = 30;
const OPEN_SHOWN = 500;

/** Lines that are open, oldest first, then those that were booked last. */
export function readLines(sql: Reader): Promise<StoredLine[]> {
  return sql.query<StoredLine>(
    `(select ${LINE} where state = 'open' order by day, line.id limit ${OPEN_SHOWN})
     union all (select ${LINE} where state = 'booked' order by line.item_id desc limit ${BOOKED_SHOWN})`,
  );
}

export async function lockLine(sql: Writer, id: number): Promise<StoredLine | undefined> {
  await sql.query('select 1 from bank_line where id = $1 for update', [id]);
  const [line] = await sql.query<StoredLine>(`select ${LINE} where line.id = $1`, [id]);
  return line;
}

export async function bookedLine(sql: Writer, id: number, itemId: number): Promise<void> {
  await sql.query("update bank_line set state = 'booked', item_id = $2 where id = $1", [id, itemId]);
}

export async function droppedLine(sql: Writer, id: number): Promise<void> {
  await sql.query("update bank_line set state = 'dropped' where id = $1", [id]);
}

/** Open charges of an account whose receipts stand in some words. */
export async function chargesNamed(sql: Reader, accountId: number, words: string): Promise<number[]> {
  const rows = await sql.query<{ id: number }>(
    `select item.id from account_item as item join sale on sale.id = item.sale_id join till on till.id = sale.till_id
     where item.account_id = $1 and item.remaining > 0
       and position(receipt_number(till.number, sale.number) in $2) > 0`,
    [accountId, words],
  );
  return rows.map(({ id }) => id);
}
