import type { Writer } from '../db/database.ts';

/** A price of an item that counts from a day on. */
export interface PriceToCome {
  id: number;
  from: string;
  price: number;
}

/** Keeps prices that are to come; one for the same day takes the place of what was there. */
export async function putPricesToCome(
  sql: Writer,
  prices: readonly PriceToCome[],
  { staffId, at }: { staffId: number; at: Date },
): Promise<void> {
  await sql.query(
    `insert into item_price_to_come (item_id, from_day, price, staff_id, noted_at)
     select id, "from", price, $2, $3
     from jsonb_to_recordset($1::jsonb) as coming (id integer, "from" date, price bigint)
     on conflict (item_id, from_day) do update
       set price = excluded.price, staff_id = excluded.staff_id, noted_at = excluded.noted_at`,
    [JSON.stringify(prices), staffId, at.toISOString()],
  );
}

/** @returns the price that was to come, if there was one */
export async function dropPriceToCome(sql: Writer, id: number, from: string): Promise<number | undefined> {
  const [row] = await sql.query<{ price: number }>(
    'delete from item_price_to_come where item_id = $1 and from_day = $2 returning price',
    [id, from],
  );
  return row?.price;
}

/** Takes prices whose day has come into their items: of several of one item, the last. @returns what changed */
export async function takePricesIn(
  sql: Writer,
  today: string,
): Promise<{ id: number; was: number | null; became: number }[]> {
  return sql.query<{ id: number; was: number | null; became: number }>(
    `with due as (
       delete from item_price_to_come where from_day <= $1 returning item_id, from_day, price
     ), last as (
       select distinct on (item_id) item_id, price from due order by item_id, from_day desc
     ), before as (
       select item.id, item.price, last.price as became from item join last on last.item_id = item.id
       order by item.id for no key update of item
     ), taken as (
       update item set price = before.became, version = version + 1 from before
       where item.id = before.id and item.price is distinct from before.became returning item.id
     )
     select before.id, before.price as was, before.became from before join taken using (id)`,
    [today],
  );
}
