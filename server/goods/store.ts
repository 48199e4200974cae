import type { ItemFacts, StockedSerial } from '../../contract/goods.ts';
import type { ItemKind } from '../../core/goods/item.ts';
import type { Money } from '../../core/money.ts';
import { openEvent, postCosts } from '../books/store.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { bringLayers } from './layerStore.ts';
import { makeWords } from './recordStore.ts';

export async function catalogueRevision(sql: Reader): Promise<number> {
  const rows = await sql.query<{ revision: number }>(
    'select coalesce(max(revision), 0)::bigint as revision from item',
  );
  return one(rows).revision;
}

/** A row of the catalogue for the till at place $1. */
const CATALOGUE_ROW = `
  json_build_array(
    item.id, item.number, item.name, category.name, item.price, item.unit, item.decimals,
    item.tax_category_id, case when item.stocked then coalesce(level.quantity - level.set_aside, 0) end,
    coalesce((select json_agg(code order by code) from item_code where item_id = item.id), '[]'::json),
    case when item.kind <> 'goods' or item.family_id is not null or item.serials or item.min_age is not null
           or item.asks_note <> '' or item.picture_id is not null then jsonb_strip_nulls(jsonb_build_object(
      'kind', nullif(item.kind, 'goods'),
      'axes', case when item.kind = 'family' then item.axes end,
      'familyId', item.family_id,
      'variant', case when item.family_id is not null then item.variant end,
      'parts', case when item.kind = 'bundle' then (
        select jsonb_agg(jsonb_build_object('itemId', part.item_id, 'quantity', part.quantity) order by position)
        from bundle_part as part where bundle_id = item.id) end,
      'serials', nullif(item.serials, false),
      'minAge', item.min_age,
      'asksNote', nullif(item.asks_note, ''),
      'picture', item.picture_id)) end)`;
const CATALOGUE_FROM = `
  from item
  join category on category.id = item.category_id
  left join stock_level as level on level.item_id = item.id and level.place_id = $1`;

/** So many items are read at a time: between, whoever else asks something has an answer. */
const AT_A_TIME = 1000;

/**
 * Every item that is sold, as rows for a till at a place; sorted by name, as people look for them.
 * @returns JSON of `CatalogueRow`s: it goes out as it is, for it may be a hundred thousand of them
 */
export async function allItems(sql: Reader, placeId: number, atATime = AT_A_TIME): Promise<string> {
  const parts: string[] = [];
  let [name, number] = ['', ''];
  for (let many = atATime; many === atATime;) {
    const part = one(
      await sql.query<{ items: string; many: number; name: string | null; number: string | null }>(
        `select json_agg(${CATALOGUE_ROW} order by item.name, item.number)::text as items, count(*) as many,
           (array_agg(item.name order by item.name, item.number))[count(*)] as name,
           (array_agg(item.number order by item.name, item.number))[count(*)] as number
         from (select * from item where active and (name, number) > ($2, $3) order by name, number limit $4) as item
         join category on category.id = item.category_id
         -- One by one: the stock of the whole place would be gone through for each part.
         left join lateral (
           select quantity, set_aside from stock_level where item_id = item.id and place_id = $1 offset 0
         ) as level on true`,
        [placeId, name, number, atATime],
      ),
    );
    if (part.many > 0) parts.push(part.items.slice(1, -1));
    many = part.many;
    [name, number] = [part.name ?? '', part.number ?? ''];
  }
  return `[${parts.join(',')}]`;
}

/** The same, of those that were changed after a revision. */
export async function itemsSince(sql: Reader, placeId: number, since: number): Promise<string> {
  const rows = await sql.query<{ items: string }>(
    `select coalesce(json_agg(${CATALOGUE_ROW} order by item.name, item.number), '[]')::text as items
     ${CATALOGUE_FROM} where item.active and item.revision > $2`,
    [placeId, since],
  );
  return one(rows).items;
}

/**
 * What is most likely to be scanned first: what stands on the shelves, and what was sold lately, most often first.
 * @param shelved the items on the shelves
 * @returns JSON of `CatalogueRow`s
 */
export async function firstItems(
  sql: Reader,
  placeId: number,
  shelved: readonly number[],
  soldAfter: Date,
  most: number,
): Promise<string> {
  const rows = await sql.query<{ items: string }>(
    `select coalesce(json_agg(${CATALOGUE_ROW} order by item.name, item.number), '[]')::text as items
     ${CATALOGUE_FROM}
     where item.active and (item.id = any ($2) or item.id in (
       select item_id from sale_line join sale on sale.id = sale_line.sale_id
       where sale.finished_at > $3 group by item_id order by count(*) desc, item_id limit $4))`,
    [placeId, shelved, soldAfter.toISOString(), most],
  );
  return one(rows).items;
}

/**
 * How much of each item that is kept in stock can be sold at a place: on hand less what is set aside. @returns JSON
 * of pairs of an item and its quantity
 */
export async function stockAt(sql: Reader, placeId: number): Promise<string> {
  const rows = await sql.query<{ levels: string }>(
    `select coalesce(json_agg(json_build_array(item.id, coalesce(level.quantity - level.set_aside, 0))),
      '[]')::text as levels
     from item left join stock_level as level on level.item_id = item.id and level.place_id = $1
     where item.active and item.stocked`,
    [placeId],
  );
  return one(rows).levels;
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
       'picture', item.picture_id, 'familyId', item.family_id, 'minAge', item.min_age,
       'stock', case when item.stocked then (
         select json_agg(json_build_object('place', place.name, 'here', place.id = $2,
                                           'quantity', coalesce(level.quantity - level.set_aside, 0),
                                           'setAside', coalesce(level.set_aside, 0))
                         order by place.id = $2 desc, coalesce(level.quantity - level.set_aside, 0) desc, place.name)
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
  kind: ItemKind;
  serials: boolean;
  minAge: number | null;
  codes: string[];
  category: string;
  familyId: number | null;
  active: boolean;
}

export interface NewItem extends Omit<SellableItem, 'id' | 'codes' | 'category' | 'familyId' | 'active'> {
  categoryId: number;
  codes: readonly string[];
  /** What one unit costs the shop, where it is known. */
  cost: Money | null;
  /** Opening stock by place. */
  stock: readonly { placeId: number; quantity: number }[];
  description: string;
  asksNote: string;
  pictureId: number | null;
  /** Of a family: what its variants differ in. */
  axes: readonly string[];
  /** Of a variant: the number of its family, and its value on each axis. */
  family: string | null;
  variant: readonly string[];
  /** Of a bundle: the numbers of what it is made of. */
  parts: readonly { number: string; quantity: number }[];
  /** Serial numbers of the units in stock. */
  serialNumbers: readonly { serial: string; placeId: number }[];
}

export async function addCategory(sql: Writer, name: string): Promise<number> {
  return one(await sql.query<{ id: number }>('insert into category (name) values ($1) returning id', [name]))
    .id;
}

/** Adds many items with their codes and opening stock. */
export async function addItems(sql: Writer, items: readonly NewItem[], at: Date): Promise<void> {
  const list = JSON.stringify(items);
  await sql.query(
    `insert into item (number, name, category_id, unit, decimals, price, tax_category_id, stocked, kind, serials,
                       min_age, description, asks_note, picture_id, axes, cost, added_at)
     select number, name, "categoryId", unit, decimals, price, "taxCategoryId", stocked, kind, serials, "minAge",
            description, "asksNote", "pictureId", axes, cost, $2
     from jsonb_to_recordset($1::jsonb) as item (number text, name text, "categoryId" integer, unit text,
       decimals smallint, price bigint, "taxCategoryId" integer, stocked boolean, kind text, serials boolean,
       "minAge" smallint, description text, "asksNote" text, "pictureId" integer, axes text[],
       cost bigint)`,
    [list, at.toISOString()],
  );
  // A list of goods is mostly of plain ones, a part at a time: what none of them has is not asked for.
  const have = (has: (item: NewItem) => boolean) => items.some(has);
  if (have(({ pictureId }) => pictureId !== null))
    await sql.query(
      `insert into item_picture (item_id, position, picture_id)
       select item.id, 1, item.picture_id from jsonb_to_recordset($1::jsonb) as entry (number text)
       join item on item.number = entry.number where item.picture_id is not null`,
      [list],
    );
  if (have(({ family }) => family !== null))
    await sql.query(
      `update item set family_id = family.id, variant = entry.variant
       from jsonb_to_recordset($1::jsonb) as entry (number text, family text, variant text[])
       join item as family on family.number = entry.family
       where item.number = entry.number`,
      [list],
    );
  if (have(({ parts }) => parts.length > 0))
    await sql.query(
      `insert into bundle_part (bundle_id, position, item_id, quantity)
       select bundle.id, part.position, item.id, (part.entry->>'quantity')::bigint
       from jsonb_array_elements($1::jsonb) as listed
       cross join jsonb_array_elements(listed->'parts') with ordinality as part (entry, position)
       join item as bundle on bundle.number = listed->>'number'
       join item on item.number = part.entry->>'number'`,
      [list],
    );
  if (have(({ serialNumbers }) => serialNumbers.length > 0))
    await sql.query(
      `insert into serial (item_id, serial, place_id)
       select item.id, unit.serial, unit."placeId"
       from jsonb_array_elements($1::jsonb) as entry
       join item on item.number = entry->>'number'
       cross join jsonb_to_recordset(entry->'serialNumbers') as unit (serial text, "placeId" integer)`,
      [list],
    );
  if (have(({ codes }) => codes.length > 0))
    await sql.query(
      `insert into item_code (code, item_id)
       select code, item.id
       from jsonb_array_elements($1::jsonb) as entry
       cross join jsonb_array_elements_text(entry->'codes') as code
       join item on item.number = entry->>'number'`,
      [list],
    );
  if (have(({ stock }) => stock.length > 0)) await layOpeningStock(sql, list, at);
  await makeWords(sql, items.length);
}

/** What is on the shelf of new items already: layers at what a unit is known to cost. */
async function layOpeningStock(sql: Writer, list: string, at: Date): Promise<void> {
  const stock = await sql.query<{ itemId: number; placeId: number; quantity: number; cost: number | null }>(
    `select item.id as "itemId", stock."placeId", stock.quantity,
       round(item.cost::numeric * stock.quantity / 1000)::bigint as cost
     from jsonb_array_elements($1::jsonb) as entry
     join item on item.number = entry->>'number'
     cross join jsonb_to_recordset(entry->'stock') as stock ("placeId" integer, quantity bigint)
     where stock.quantity > 0 order by 1, 2`,
    [list],
  );
  if (stock.length === 0) return;
  const event = await openEvent(sql, { kind: 'stock', at });
  const lines = JSON.stringify(stock);
  await sql.query(
    `insert into stock_level (item_id, place_id, quantity)
     select "itemId", "placeId", quantity
     from jsonb_to_recordset($1) as stock ("itemId" integer, "placeId" integer, quantity bigint)`,
    [lines],
  );
  await bringLayers(sql, stock, { reason: 'opening', against: 'opening-balance' }, { event, at });
  // Units with serial numbers own a span each.
  await sql.query(
    `with unit as (
       select serial.item_id, serial.serial, layer.id as layer_id,
              row_number() over (partition by layer.id order by serial.serial) * 1000 as upto, layer.quantity
       from stock_move as move join stock_layer as layer on layer.id = move.layer_id
       join serial on serial.item_id = layer.item_id and serial.place_id = layer.place_id and serial.layer_id is null
       where move.event_id = $1)
     update serial set layer_id = unit.layer_id, upto = unit.upto from unit
     where serial.item_id = unit.item_id and serial.serial = unit.serial and unit.upto <= unit.quantity`,
    [event],
  );
  await postCosts(sql, event);
}

export async function addPicture(
  sql: Writer,
  picture: { name: string; mediaType: string; content: string },
): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    "insert into picture (name, media_type, content) values ($1, $2, convert_to($3, 'UTF8')) returning id",
    [picture.name, picture.mediaType, picture.content],
  );
  return one(rows).id;
}

export async function findPicture(
  sql: Reader,
  id: number,
): Promise<{ mediaType: string; content: string } | undefined> {
  const [row] = await sql.query<{ mediaType: string; content: string }>(
    `select media_type as "mediaType", encode(content, 'base64') as content from picture where id = $1`,
    [id],
  );
  return row;
}

/** Units of an item in stock, those at a place first. */
export function stockedSerials(sql: Reader, itemId: number, placeId: number): Promise<StockedSerial[]> {
  return sql.query<StockedSerial>(
    `select serial, place.name as place, place.id = $2 as here
     from serial join place on place.id = place_id
     where item_id = $1 and sale_id is null and promise_id is null order by place.id <> $2, place.name, serial`,
    [itemId, placeId],
  );
}

/** Ties a code to an item. @returns whether there is such an item */
export async function addCode(sql: Writer, itemId: number, code: string): Promise<boolean> {
  // Touched, so that the tills hear of the new code.
  const found = await sql.query(
    "update item set stocked = stocked, version = version + 1, words = '' where id = $1 and active returning id",
    [itemId],
  );
  if (found.length === 0) return false;
  await sql.query('insert into item_code (code, item_id) values ($1, $2)', [code, itemId]);
  await makeWords(sql, 1);
  return true;
}

export async function categoryNamed(sql: Writer, name: string): Promise<number> {
  const [known] = await sql.query<{ id: number }>('select id from category where lower(name) = lower($1)', [
    name,
  ]);
  return known?.id ?? addCategory(sql, name);
}

/** What an item is worth when it comes back without its receipt. */
export async function lowestPrice(sql: Reader, itemId: number, at: Date): Promise<number | undefined> {
  const [row] = await sql.query<{ price: number }>(
    'select price from lowest_prices(array[$1::integer], $2)',
    [itemId, at.toISOString()],
  );
  return row?.price;
}

export async function itemNumbered(sql: Reader, number: string): Promise<number> {
  return one(await sql.query<{ id: number }>('select id from item where number = $1', [number])).id;
}

/** Ids of items by their numbers. */
export async function itemIds(sql: Reader, numbers: readonly string[]): Promise<Map<string, number>> {
  const rows = await sql.query<{ id: number; number: string }>(
    'select id, number from item where number = any ($1::text[])',
    [numbers],
  );
  return new Map(rows.map(({ id, number }) => [number, id]));
}

/** An item with nothing special about it. */
export const PLAIN_ITEM = {
  unit: 'each',
  decimals: 0,
  stocked: true,
  kind: 'goods',
  serials: false,
  minAge: null,
  codes: [],
  cost: null,
  stock: [],
  description: '',
  asksNote: '',
  pictureId: null,
  axes: [],
  family: null,
  variant: [],
  parts: [],
  serialNumbers: [],
} as const satisfies Partial<NewItem>;

/** What items weigh from now on, in grams. */
export async function putWeights(
  sql: Writer,
  weights: readonly { number: string; weight: number }[],
): Promise<void> {
  await sql.query(
    `update item set weight = known.weight
     from jsonb_to_recordset($1) as known (number text, weight integer) where item.number = known.number`,
    [JSON.stringify(weights)],
  );
}
