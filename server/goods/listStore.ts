import type { GoodsQuery, GoodsRow, PickedItem } from '../../contract/goods.ts';
import { GOODS_PAGE, type GoodsSort } from '../../core/goods/itemList.ts';
import { spellings } from '../../core/goods/codes.ts';
import { fold, wordsOf } from '../../core/words.ts';
import { asking, type Ask } from '../db/asked.ts';
import { one, type Parameter, type Reader } from '../db/database.ts';
import { beginnings } from '../db/words.ts';
import { itemsMeant } from './meantStore.ts';
import { NOT_GOODS } from './recordStore.ts';

const HERE = `coalesce((select quantity - set_aside from stock_level
  where item_id = item.id and place_id = $1), 0)`;

const ORDERS: Readonly<Record<GoodsSort, string>> = {
  name: 'item.name, item.number',
  number: 'item.number',
  price: 'item.price desc nulls last, item.name, item.id',
  stock: `item.stocked desc, ${HERE}, item.name, item.id`,
  added: 'item.added_at desc, item.id desc',
};

/**
 * Whether an item fits words, a number or a code, as a condition; nothing where nothing is asked.
 * @param ask takes a value that the condition needs, and says where it stands
 */
export function itemFits(find: string, ask: Ask): string | null {
  const words = wordsOf(find);
  if (words.length === 0) return null;
  const codes = [...new Set(spellings(find).map(fold))].map((code) => beginnings([code]));
  const fits = [`(${beginnings(words)})`, ...codes].join(' | ');
  return `item.id in (select id from item where word_set(words) @@ ${ask(fits)}::tsquery)`;
}

/**
 * What a question asks of an item, as conditions, and what it asks with; the place of the till and what was typed are
 * the first two.
 */
function conditions(query: GoodsQuery, placeId: number): { where: string; given: Parameter[] } {
  const { given, ask } = asking(placeId, query.find.trim());
  const parts = [`item.id not in (${NOT_GOODS})`];
  const fits = itemFits(query.find, ask);
  if (fits) parts.push(fits);
  if (query.code)
    parts.push(`item.id in (select id from (${itemsMeant(ask(spellings(query.code)))}) as meant)`);
  if (query.category) parts.push(`item.category_id = ${ask(query.category)}`);
  if (query.tax) parts.push(`item.tax_category_id = ${ask(query.tax)}`);
  if (query.tag) parts.push(`item.id in (select item_id from item_tag where tag = ${ask(query.tag)})`);
  if (query.supplier)
    parts.push(`item.id in (select item_id from item_supplier where supplier_id = ${ask(query.supplier)})`);
  if (query.below)
    parts.push(`exists (select 1 from reorder_point as wanted
      where wanted.item_id = item.id and wanted.place_id = $1 and ${HERE} < wanted.point)`);
  if (query.state) parts.push(query.state === 'sold' ? 'item.active' : 'not item.active');
  if (query.noCode)
    parts.push("item.kind = 'goods' and not exists (select 1 from item_code where item_id = item.id)");
  if (query.noPrice) parts.push("item.kind = 'goods' and item.price is null");
  if (query.noCost) parts.push("item.kind = 'goods' and item.stocked and item.cost is null");
  if (query.out) parts.push(`item.stocked and ${HERE} <= 0`);
  return { where: parts.join(' and '), given };
}

/** The order of a question's items: whoever types a whole number means that item. */
const orderOf = ({ find, sort }: GoodsQuery): string =>
  `${find.trim() === '' ? '' : 'lower(item.number) = lower($2::text) desc, '}${ORDERS[sort]}`;
// The place and what was typed are given, whether anything asks for them or not.
const FROM = 'from item where $1::integer is not null and $2::text is not null and';

/** Ids of all the items that a question asks for, in its order. */
export async function goodsIds(sql: Reader, query: GoodsQuery, placeId: number): Promise<number[]> {
  const { where, given } = conditions(query, placeId);
  const rows = await sql.query<{ id: number }>(
    `select item.id ${FROM} ${where} order by ${orderOf(query)}`,
    given,
  );
  return rows.map(({ id }) => id);
}

/** The first of the items that a question asks for, in its order, as they are seen now. */
export async function goodsVersions(
  sql: Reader,
  query: GoodsQuery,
  placeId: number,
  most: number,
): Promise<PickedItem[]> {
  const { where, given } = conditions(query, placeId);
  return sql.query<PickedItem>(
    `select item.id, item.version ${FROM} ${where} order by ${orderOf(query)} limit ${Math.trunc(most)}`,
    given,
  );
}

/** A page of the items that a question asks for, in its order, and how many those are in all. */
export async function goodsOnPage(
  sql: Reader,
  query: GoodsQuery,
  placeId: number,
): Promise<{ ids: number[]; count: number }> {
  const { where, given } = conditions(query, placeId);
  const page = `limit ${GOODS_PAGE} offset ${query.page * GOODS_PAGE}`;
  // What is looked for by words is found by looking at every item: once, for the page and the count.
  if (query.find.trim() !== '') {
    const found = await sql.query<{ id: number; count: number }>(
      `select item.id, (count(*) over ())::integer as count ${FROM} ${where} order by ${orderOf(query)} ${page}`,
      given,
    );
    if (found.length > 0 || query.page === 0)
      return { ids: found.map(({ id }) => id), count: found[0]?.count ?? 0 };
  }
  const rows = await sql.query<{ id: number }>(
    `select item.id ${FROM} ${where} order by ${orderOf(query)} ${page}`,
    given,
  );
  const { count } = one(
    await sql.query<{ count: number }>(`select count(*)::integer as count ${FROM} ${where}`, given),
  );
  return { ids: rows.map(({ id }) => id), count };
}

/** Items as the list shows them, in the order of their ids as given. @param costs whether costs are told */
export function goodsRows(
  sql: Reader,
  ids: readonly number[],
  placeId: number,
  costs: boolean,
): Promise<GoodsRow[]> {
  return sql.query<GoodsRow>(
    `select item.id, version, kind, number, item.name, category.name as category, unit, decimals, price, item.active,
       (select json_build_object('from', from_day, 'price', coming.price) from item_price_to_come as coming
        where item_id = item.id order by from_day limit 1) as "toCome",
       coalesce((select json_agg(tag order by tag) from item_tag where item_id = item.id), '[]'::json) as tags,
       coalesce((select code from item_code where item_id = item.id
         order by length(code) desc, code limit 1), '') as code, tax_category.name as tax,
       coalesce((select supplier.name from item_supplier join supplier on supplier.id = supplier_id
         where item_id = item.id order by rank, supplier_id limit 1), '') as supplier,
       case when $3 then item.cost end as cost,
       case when stocked then ${HERE}::bigint end as here,
       case when stocked then coalesce((select sum(quantity - set_aside) from stock_level
         where item_id = item.id and place_id <> $1), 0)::bigint end as elsewhere
     from item join category on category.id = category_id join tax_category on tax_category.id = tax_category_id
     where item.id = any ($2::integer[]) order by array_position($2::integer[], item.id)`,
    [placeId, ids, costs],
  );
}
