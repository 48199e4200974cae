import { isDeepStrictEqual } from 'node:util';
import type { ItemPage, WantedItem } from '../../contract/goods.ts';
import type { ItemKind } from '../../core/goods/item.ts';
import { itemWords } from '../../core/goods/itemRecord.ts';
import type { RecordChange } from '../../core/recordChange.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { inSpellings, withItemsMeant } from './meantStore.ts';

/** An item as it is stored. */
export interface StoredItem {
  id: number;
  version: number;
  kind: ItemKind;
  /** It moved, was sold, or units with serial numbers are known. */
  moved: boolean;
  onHand: boolean;
  record: WantedItem;
}

/** Items by which the shop rings up money: nobody looks after them. */
export const NOT_GOODS = `select money.id from shop, unnest(array[gift_card_item_id, deposit_item_id, fee_item_id,
  account_item_id, shipping_item_id]) as money (id) where money.id is not null`;

/** Ids of items that stand for money. */
export const notGoods = async (sql: Reader): Promise<ReadonlySet<number>> =>
  new Set((await sql.query<{ id: number }>(NOT_GOODS)).map(({ id }) => id));

/** Items by their numbers, in the order of those. */
export function readItems(sql: Reader, ids: readonly number[]): Promise<StoredItem[]> {
  return sql.query<StoredItem>(
    `select item.id, version, kind,
       exists (select 1 from stock_move where item_id = item.id)
         or exists (select 1 from sale_line where item_id = item.id)
         or exists (select 1 from serial where item_id = item.id) as moved,
       exists (select 1 from stock_level where item_id = item.id and (quantity <> 0 or set_aside <> 0)) as "onHand",
       json_build_object('number', number, 'name', item.name, 'category', category.name, 'description', description,
         'unit', unit, 'decimals', decimals, 'price', price, 'cost', cost, 'taxCategoryId', tax_category_id,
         'stocked', stocked, 'serials', serials, 'minAge', min_age, 'asksNote', asks_note, 'weight', weight,
         'active', item.active,
         'groupPrices', coalesce((select json_agg(json_build_object('group', customer_group.name, 'price',
           group_price.price)
            order by customer_group.name) from group_price join customer_group on customer_group.id = group_id
            where item_id = item.id), '[]'::json),
         'tags', coalesce((select json_agg(tag order by tag) from item_tag where item_id = item.id), '[]'::json),
         'codes', coalesce((select json_agg(code order by code) from item_code
           where item_id = item.id), '[]'::json)) as record
     from item join category on category.id = category_id
     where item.id = any ($1::integer[]) and item.id not in (${NOT_GOODS})
       order by array_position($1::integer[], item.id)`,
    [ids],
  );
}

/**
 * Takes the rows of items, in one order for everybody, so that two who change the same take turns.
 * @returns the version of each, by its id
 */
export async function lockItems(sql: Writer, ids: readonly number[]): Promise<ReadonlyMap<number, number>> {
  const rows = await sql.query<{ id: number; version: number }>(
    'select id, version from item where id = any ($1::integer[]) order by id for no key update',
    [ids],
  );
  return new Map(rows.map(({ id, version }) => [id, version]));
}

/** An item that is to be written, with what changes about it. */
export interface ItemToPut {
  id: number;
  record: WantedItem;
  /** As it is stored, where the caller knows: what is the same there is not written again. */
  before?: WantedItem;
  changes: readonly RecordChange[];
}

type Field = keyof WantedItem;

/** What stands in an item's own row, by the field that says it. */
const FACTS: readonly (readonly [field: Field | 'words', column: string, type: string])[] = [
  ['number', 'number', 'text'],
  ['name', 'name', 'text'],
  ['category', 'category_id', 'text'],
  ['description', 'description', 'text'],
  ['unit', 'unit', 'text'],
  ['decimals', 'decimals', 'smallint'],
  ['price', 'price', 'bigint'],
  ['cost', 'cost', 'bigint'],
  ['taxCategoryId', 'tax_category_id', 'integer'],
  ['stocked', 'stocked', 'boolean'],
  ['serials', 'serials', 'boolean'],
  ['minAge', 'min_age', 'smallint'],
  ['asksNote', 'asks_note', 'text'],
  ['weight', 'weight', 'integer'],
  ['active', 'active', 'boolean'],
  ['words', 'words', 'text'],
];
/** Fields whose words find an item. */
const FOUND_BY: readonly Field[] = ['number', 'name', 'category', 'tags', 'codes'];

const changes = (field: Field, { record, before }: ItemToPut): boolean =>
  !isDeepStrictEqual(before?.[field], record[field]);
const changesAny = (fields: readonly Field[], items: readonly ItemToPut[]): boolean =>
  items.some((item) => fields.some((field) => changes(field, item)));

/** What is said of items in a table of its own, of those about which it changes; nothing where it changes for none. */
function changedLists(items: readonly ItemToPut[], field: 'tags' | 'codes' | 'groupPrices'): string[] {
  const some = items.filter((item) => changes(field, item));
  return some.length === 0
    ? []
    : [JSON.stringify(some.map(({ id, record }) => ({ id, [field]: record[field] })))];
}

/** Writes what changes in the rows of items, and that they changed. */
async function putFacts(sql: Writer, items: readonly ItemToPut[]): Promise<void> {
  const facts = FACTS.filter(([field]) => changesAny(field === 'words' ? FOUND_BY : [field], items));
  const rows = items.map(({ id, record }) => ({
    id,
    ...Object.fromEntries(
      facts.map(([field]) => [field, field === 'words' ? itemWords(record) : record[field]]),
    ),
  }));
  const sets = facts.map(([field, column]) =>
    field === 'category'
      ? `${column} = (select id from category where lower(name) = lower(wanted.category))`
      : `${column} = wanted."${field}"`,
  );
  const given = facts.map(([field, , type]) => `"${field}" ${type}`);
  await sql.query(
    `update item set ${[...sets, 'version = version + 1'].join(', ')}
     from jsonb_to_recordset($1::jsonb) as wanted (${['id integer', ...given].join(', ')})
     where item.id = wanted.id`,
    [JSON.stringify(rows)],
  );
}

/**
 * Writes items whole. Categories that nobody knows are made; codes that are new to them are free, as was looked at
 * before.
 */
export async function putItems(
  sql: Writer,
  items: readonly ItemToPut[],
  { staffId, at }: { staffId: number | null; at: Date },
): Promise<void> {
  if (changesAny(['category'], items))
    await sql.query(
      `insert into category (name) select distinct on (lower(wanted)) wanted from unnest($1::text[]) as wanted
       where not exists (select 1 from category where lower(name) = lower(wanted))`,
      [[...new Set(items.map(({ record }) => record.category))]],
    );
  await putFacts(sql, items);
  for (const [table, column, field] of [
    ['item_tag', 'tag', 'tags'],
    ['item_code', 'code', 'codes'],
  ] as const)
    for (const changed of changedLists(items, field)) {
      await sql.query(
        `delete from ${table} using jsonb_to_recordset($1::jsonb) as wanted (id integer, ${field} jsonb)
         where item_id = wanted.id and not wanted.${field} ? ${column}`,
        [changed],
      );
      await sql.query(
        `insert into ${table} (item_id, ${column})
         select wanted.id, one from jsonb_to_recordset($1::jsonb) as wanted (id integer, ${field} jsonb)
         cross join jsonb_array_elements_text(${field}) as one on conflict do nothing`,
        [changed],
      );
    }
  for (const changed of changedLists(items, 'groupPrices')) {
    await sql.query(
      `delete from group_price using jsonb_to_recordset($1::jsonb) as wanted (id integer, "groupPrices" jsonb)
       where item_id = wanted.id and not exists (
         select 1 from jsonb_to_recordset("groupPrices") as one ("group" text)
         join customer_group on customer_group.name = one."group" where customer_group.id = group_id)`,
      [changed],
    );
    await sql.query(
      `insert into group_price (group_id, item_id, price)
       select customer_group.id, wanted.id, one.price
       from jsonb_to_recordset($1::jsonb) as wanted (id integer, "groupPrices" jsonb)
       cross join jsonb_to_recordset("groupPrices") as one ("group" text, price bigint)
       join customer_group on customer_group.name = one."group"
       on conflict (group_id, item_id) do update set price = excluded.price where group_price.price <> excluded.price`,
      [changed],
    );
  }
  await noteItemChanges(sql, items, { staffId, at });
}

/** Keeps who changed what. @param staffId nobody, where a day began on which a price counts */
export async function noteItemChanges(
  sql: Writer,
  items: readonly Pick<ItemToPut, 'id' | 'changes'>[],
  { staffId, at }: { staffId: number | null; at: Date },
): Promise<void> {
  await sql.query(
    `insert into item_change (item_id, at, staff_id, what, was, became)
     select wanted.id, $2, $3, what, was, became
       from jsonb_to_recordset($1::jsonb) as wanted (id integer, changes jsonb)
     cross join jsonb_to_recordset(changes) as one (what text, was text, became text)`,
    [JSON.stringify(items.map(({ id, changes }) => ({ id, changes }))), at.toISOString(), staffId],
  );
}

const CHANGES_SHOWN = 100;

/** Who changed what of an item, newest first. */
export function itemChangesOf(sql: Reader, id: number): Promise<ItemPage['changes']> {
  return sql.query(
    `select at, coalesce(staff.name, '') as who, what, was, became
     from item_change left join staff on staff.id = staff_id
     where item_id = $1 order by item_change.id desc limit ${CHANGES_SHOWN}`,
    [id],
  );
}

/** Of codes and numbers that an item is to have, those that mean another one. @param id none for a new item */
export function takenCodes(
  sql: Reader,
  codes: readonly string[],
  id: number | null,
): Promise<{ code: string; name: string }[]> {
  return sql.query(
    `${withItemsMeant('$1')}
     select code, name from meant where id is distinct from $2
     union select asked.code, customer.name from asked
     join customer_card as card on upper(card.code) = upper(asked.code) join customer on customer.id = card.customer_id
     order by 1 limit 20`,
    [inSpellings(codes), id],
  );
}

/** The last number of the shop's own codes of a range that was given out, in its ten digits; none yet is 0. */
export async function lastOwnSerial(sql: Reader, prefix: string): Promise<number> {
  const [row] = await sql.query<{ last: number }>(
    `select coalesce(max(substr(code, 3, 10)::bigint), 0)::bigint as last
     from (select code from item_code union all select code from customer_card) as given
     where code ~ ('^' || $1 || '[0-9]{11}$')`,
    [prefix],
  );
  return row?.last ?? 0;
}

/** Words by which the list of goods is narrowed. */
interface WordsOfList {
  categories: { id: number; name: string }[];
  tags: string[];
}

/** Categories and tags that are in use. */
export async function wordsOfList(sql: Reader): Promise<WordsOfList> {
  return one(
    await sql.query<WordsOfList>(
      `select
         coalesce((select json_agg(json_build_object('id', id, 'name', name) order by lower(name)) from category
           where exists (select 1 from item where category_id = category.id and item.id not in (${NOT_GOODS}))),
           '[]'::json) as categories,
         coalesce((select json_agg(tag order by tag) from (select distinct tag from item_tag
           order by tag limit 200) as used),
           '[]'::json) as tags`,
    ),
  );
}

/** Words that items may be given: those of the list, units, and groups of customers. */
interface WordsInUse extends WordsOfList {
  units: string[];
  groups: string[];
}

/** Everything in use that an item may be given. */
export async function wordsInUse(sql: Reader): Promise<WordsInUse> {
  const { units, groups } = one(
    await sql.query<Pick<WordsInUse, 'units' | 'groups'>>(
      `select
         coalesce((select json_agg(unit order by unit) from (select distinct unit from item) as used),
           '[]'::json) as units,
         coalesce((select json_agg(name order by name) from customer_group), '[]'::json) as groups`,
    ),
  );
  return { ...(await wordsOfList(sql)), units, groups };
}

/** Words of items that have none yet, as those have that were there before the list was. @returns how many were made */
export async function makeWords(sql: Writer, most: number): Promise<number> {
  const rows = await sql.query<{ id: number; record: WantedItem }>(
    `select item.id, json_build_object('number', number, 'name', item.name, 'category', category.name,
       'tags', coalesce((select json_agg(tag) from item_tag where item_id = item.id), '[]'::json),
       'codes', coalesce((select json_agg(code) from item_code where item_id = item.id), '[]'::json)) as record
     from item join category on category.id = category_id where words = '' order by item.id limit $1`,
    [most],
  );
  await sql.query(
    `update item set words = made.words from jsonb_to_recordset($1::jsonb) as made (id integer, words text)
     where item.id = made.id`,
    [JSON.stringify(rows.map(({ id, record }) => ({ id, words: itemWords(record) })))],
  );
  return rows.length;
}
