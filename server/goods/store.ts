import type { CatalogueRow, ItemFacts } from '../../contract/goods.ts';
import type { Money } from '../../core/money.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

export async function catalogueRevision(sql: Reader): Promise<number> {
  const rows = await sql.query<{ revision: number }>(
    'select coalesce(max(revision), 0)::bigint as revision from item',
  );
  return one(rows).revision;
}

/** Items changed after `since`, as rows for a till at a place; sorted by name, as people look for them. */
export async function itemsSince(sql: Reader, placeId: number, since: number): Promise<CatalogueRow[]> {
  const rows = await sql.query<{ row: CatalogueRow }>(
    `select json_build_array(
              item.id, item.number, item.name, category.name, item.price, item.unit, item.decimals,
              item.tax_category_id, case when item.stocked then coalesce(level.quantity, 0) end,
              coalesce((select json_agg(code order by code) from item_code where item_id = item.id), '[]'::json)
            ) as row
     from item
     join category on category.id = item.category_id
     left join stock_level as level on level.item_id = item.id and level.place_id = $1
     where item.active and item.revision > $2
     order by item.name, item.number`,
    [placeId, since],
  );
  return rows.map(({ row }) => row);
}

export async function removedSince(sql: Reader, since: number): Promise<number[]> {
  const rows = await sql.query<{ id: number }>('select id from item where not active and revision > $1', [
    since,
  ]);
  return rows.map(({ id }) => id);
}

export async function itemFacts(
  sql: Reader,
  itemId: number,
  placeId: number,
): Promise<ItemFacts | undefined> {
  const [row] = await sql.query<{ facts: ItemFacts }>(
    `select json_build_object(
       'id', item.id, 'number', item.number, 'name', item.name, 'category', category.name,
       'description', item.description, 'unit', item.unit, 'price', item.price,
       'codes', coalesce((select json_agg(code order by code) from item_code where item_id = item.id), '[]'::json),
       'stock', case when item.stocked then (
         select json_agg(json_build_object('place', place.name, 'here', place.id = $2,
                                           'quantity', coalesce(level.quantity, 0))
                         order by place.id = $2 desc, coalesce(level.quantity, 0) desc, place.name)
         from place left join stock_level as level on level.place_id = place.id and level.item_id = item.id
       ) else '[]'::json end,
       'prices', (select json_agg(json_build_object('price', past.price, 'changedAt', past.changed_at)
                                  order by past.changed_at desc)
                  from (select price, changed_at from item_price where item_id = item.id
                        order by changed_at desc limit 20) as past)) as facts
     from item join category on category.id = item.category_id where item.id = $1`,
    [itemId, placeId],
  );
  return row?.facts;
}

/** What pricing and selling need of an item. */
export interface SellableItem {
  id: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  price: Money | null;
  taxCategoryId: number;
  stocked: boolean;
}

export interface NewItem extends Omit<SellableItem, 'id'> {
  categoryId: number;
  codes: readonly string[];
  /** Opening stock by place. */
  stock: readonly { placeId: number; quantity: number }[];
}

export async function addCategory(sql: Writer, name: string): Promise<number> {
  return one(await sql.query<{ id: number }>('insert into category (name) values ($1) returning id', [name]))
    .id;
}

/** Adds many items with their codes and opening stock. */
export async function addItems(sql: Writer, items: readonly NewItem[], at: Date): Promise<void> {
  const list = JSON.stringify(items);
  await sql.query(
    `insert into item (number, name, category_id, unit, decimals, price, tax_category_id, stocked)
     select number, name, "categoryId", unit, decimals, price, "taxCategoryId", stocked
     from jsonb_to_recordset($1::jsonb) as item (number text, name text, "categoryId" integer, unit text,
       decimals smallint, price bigint, "taxCategoryId" integer, stocked boolean)`,
    [list],
  );
  await sql.query(
    `insert into item_code (code, item_id)
     select code, item.id
     from jsonb_array_elements($1::jsonb) as entry
     cross join jsonb_array_elements_text(entry->'codes') as code
     join item on item.number = entry->>'number'`,
    [list],
  );
  await sql.query(
    `with moved as (
       insert into stock_move (item_id, place_id, quantity, reason, at)
       select item.id, stock."placeId", stock.quantity, 'opening', $2
       from jsonb_array_elements($1::jsonb) as entry
       join item on item.number = entry->>'number'
       cross join jsonb_to_recordset(entry->'stock') as stock ("placeId" integer, quantity bigint)
       where stock.quantity <> 0
       returning item_id, place_id, quantity
     )
     insert into stock_level (item_id, place_id, quantity) select item_id, place_id, quantity from moved`,
    [list, at.toISOString()],
  );
}
