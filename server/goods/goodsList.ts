import type { GoodsPage, GoodsQuery } from '../../contract/goods.ts';
import { GOODS_PAGE } from '../../core/goods/itemList.ts';
import type { Reader } from '../db/database.ts';
import { labelsDue } from './labelStore.ts';
import * as store from './listStore.ts';
import { wordsInUse } from './recordStore.ts';

/** One page of the items that a question asks for. @param placeId the place of the till */
export async function goodsPage(sql: Reader, query: GoodsQuery, placeId: number): Promise<GoodsPage> {
  const ids = await store.goodsIds(sql, query, placeId, GOODS_PAGE);
  const { categories, tags } = await wordsInUse(sql);
  return {
    rows: await store.goodsRows(sql, ids, placeId),
    count: await store.goodsCount(sql, query, placeId),
    categories,
    tags,
    labelsDue: await labelsDue(sql),
  };
}
