import type { Reader, Writer } from '../db/database.ts';
import { NOT_GOODS } from './recordStore.ts';

/** Ids of items that have one of these numbers or codes. */
export async function itemsNamed(sql: Reader, words: readonly string[]): Promise<number[]> {
  const rows = await sql.query<{ id: number }>(
    `select id from item where number = any (select upper(word) from unnest($1::text[]) as word)
     union select item_id from item_code where code = any ($1::text[])`,
    [words],
  );
  return rows.map(({ id }) => id);
}

/** Of these codes those that are cards of customers, in capitals. */
export async function cardsAmong(sql: Reader, words: readonly string[]): Promise<string[]> {
  const rows = await sql.query<{ code: string }>(
    `select upper(code) as code from customer_card
     where upper(code) = any (select upper(word) from unnest($1::text[]) as word)`,
    [words],
  );
  return rows.map(({ code }) => code);
}

/** Lets the database count how many items there are, as it does by itself only now and then. */
export async function countGoodsAgain(sql: Writer): Promise<void> {
  for (const table of ['item', 'item_code', 'item_tag', 'category']) await sql.query(`analyze ${table}`);
}

/** Numbers of the items by which the shop rings up money. */
export async function moneyNumbers(sql: Reader): Promise<string[]> {
  const rows = await sql.query<{ number: string }>(
    `select upper(number) as number from item where id in (${NOT_GOODS})`,
  );
  return rows.map(({ number }) => number);
}
