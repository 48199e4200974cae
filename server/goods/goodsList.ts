import type { GoodsPage, GoodsQuery } from '../../contract/goods.ts';
import { NOTHING_BESIDE } from '../../core/goods/itemBeside.ts';
import { itemCells, itemColumns } from '../../core/goods/itemColumns.ts';
import { csv } from '../csv.ts';
import type { Database, Reader } from '../db/database.ts';
import { readShop, shopToday } from '../shop/store.ts';
import { itemListPlace } from './importedGoods.ts';
import { besideOf } from './importedStore.ts';
import { labelsDue } from './labelStore.ts';
import * as store from './listStore.ts';
import { suppliersByName } from './movesStore.ts';
import { readItems, wordsOfList } from './recordStore.ts';

/** One page of the items that a question asks for. @param placeId the place of the till */
export async function goodsPage(
  sql: Reader,
  query: GoodsQuery,
  { placeId, costs, at }: { placeId: number; costs: boolean; at: Date },
): Promise<GoodsPage> {
  const { ids, count } = await store.goodsOnPage(sql, query, placeId);
  const { categories, tags } = await wordsOfList(sql);
  return {
    rows: await store.goodsRows(sql, ids, placeId, costs),
    count,
    categories,
    tags,
    suppliers: await suppliersByName(sql),
    labelsDue: await labelsDue(sql, await shopToday(sql, at)),
  };
}

const PART = 500;
const HEADINGS = itemColumns().map(({ heading }) => heading);

/** A list with headings only, to be filled in. */
export const emptyGoodsList = (): string => csv(HEADINGS, [], { digits: 2, timezone: 'UTC' });

/**
 * The items that a question asks for as comma-separated values, piece by piece; it can be imported again. What is on
 * hand is left out: it is said of new items only.
 */
export async function* goodsCsv(
  database: Database,
  query: GoodsQuery,
  placeId: number,
): AsyncGenerator<string> {
  const { timezone, ids, place } = await database.ask(async (sql) => ({
    timezone: (await readShop(sql)).timezone,
    ids: await store.goodsIds(sql, query, placeId),
    place: await itemListPlace(sql),
  }));
  const written = { digits: place.digits, timezone };
  yield csv(HEADINGS, [], written);
  for (let at = 0; at < ids.length; at += PART) {
    const part = ids.slice(at, at + PART);
    const { items, beside } = await database.ask(async (sql) => ({
      items: await readItems(sql, part),
      beside: await besideOf(sql, part),
    }));
    const rows = items.map(({ id, record }) => {
      const cells = { ...itemCells(record, beside.get(id) ?? NOTHING_BESIDE, place), stock: '' };
      return itemColumns().map(({ column }) => cells[column]);
    });
    // The headings went out first.
    yield csv([], rows, written).replace(/^\r\n/, '');
  }
}
