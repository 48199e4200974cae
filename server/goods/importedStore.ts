import type { ItemBeside, ItemSource } from '../../core/goods/itemBeside.ts';
import type { Reader, Writer } from '../db/database.ts';
import { NOT_GOODS } from './recordStore.ts';

/** Ids of items that have one of these numbers or codes. */
export async function itemsNamed(sql: Reader, words: readonly string[]): Promise<number[]> {
  const rows = await sql.query<{ id: number }>(
    `select id from item where lower(number) = any ($1::text[])
     union select item_id from item_code where lower(code) = any ($1::text[])`,
    [words.map((word) => word.toLowerCase())],
  );
  return rows.map(({ id }) => id);
}

/** What a list says of items besides their records, by their ids. */
export async function besideOf(sql: Reader, ids: readonly number[]): Promise<Map<number, ItemBeside>> {
  const rows = await sql.query<ItemBeside & { id: number }>(
    `select item.id, item.axes, coalesce(upper(family.number), '') as family, item.variant,
       (select json_build_object('supplier', supplier.name, 'number', item_supplier.number,
          'cost', item_supplier.cost, 'pack', pack, 'least', least)
        from item_supplier join supplier on supplier.id = supplier_id
        where item_id = item.id order by rank, supplier_id limit 1) as source
     from item left join item as family on family.id = item.family_id where item.id = any ($1::integer[])`,
    [ids],
  );
  return new Map(rows.map(({ id, ...beside }) => [id, beside]));
}

/** Families by their numbers, with what their variants differ in and which there are. */
export function familiesNamed(
  sql: Reader,
  numbers: readonly string[],
): Promise<{ number: string; axes: string[]; variants: string[][] }[]> {
  return sql.query(
    `select upper(number) as number, axes,
       coalesce((select json_agg(one.variant) from item as one where one.family_id = item.id), '[]'::json) as variants
     from item where kind = 'family' and upper(number) = any ($1::text[])`,
    [numbers],
  );
}

/** From whom items come first from now on. Suppliers that nobody knows are added. */
export async function putSources(
  sql: Writer,
  sources: readonly ({ itemId: number } & ItemSource)[],
  at: Date,
): Promise<void> {
  if (sources.length === 0) return;
  const list = JSON.stringify(sources);
  const wanted = `jsonb_to_recordset($1::jsonb) as wanted ("itemId" integer, supplier text, number text, cost bigint,
    pack bigint, least bigint)`;
  await sql.query(
    `insert into supplier (number, name, added_at)
     select nextval('supplier_number'), name, $2 from (
       select distinct on (lower(line->>'supplier')) line->>'supplier' as name
       from jsonb_array_elements($1::jsonb) with ordinality as one (line, nth)
       where not exists (select 1 from supplier as known where lower(known.name) = lower(line->>'supplier'))
       order by lower(line->>'supplier'), nth) as fresh`,
    [list, at.toISOString()],
  );
  await sql.query(
    `update item_supplier set rank = 2 from ${wanted}
     join supplier on lower(supplier.name) = lower(wanted.supplier)
     where item_supplier.item_id = "itemId" and item_supplier.rank = 1 and item_supplier.supplier_id <> supplier.id`,
    [list],
  );
  await sql.query(
    `insert into item_supplier (item_id, supplier_id, rank, number, cost, pack, least)
     select "itemId", supplier.id, 1, wanted.number, wanted.cost, wanted.pack, wanted.least
     from ${wanted} join supplier on lower(supplier.name) = lower(wanted.supplier)
     on conflict (item_id, supplier_id) do update set rank = 1, number = excluded.number, cost = excluded.cost,
       pack = excluded.pack, least = excluded.least`,
    [list],
  );
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
