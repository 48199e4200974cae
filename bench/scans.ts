import { v4 as newId } from 'uuid';
import type { Database } from '../server/db/database.ts';
import type { Browser } from '../server/testing/browser.ts';

export interface ScannedItem {
  itemId: number;
  number: string;
  taxCategoryId: number;
  listPrice: number;
}

/** So many goods that anybody may buy. */
export async function plainGoods(database: Database, most: number): Promise<ScannedItem[]> {
  const items = await database.ask((sql) =>
    sql.query<ScannedItem>(
      `select id as "itemId", number, tax_category_id as "taxCategoryId", price as "listPrice" from item
       where active and price > 0 and decimals = 0 and stocked and min_age is null and not serials
       order by id limit ${Math.trunc(most)}`,
    ),
  );
  if (items.length < most) throw new Error('there are not enough goods');
  return items;
}

export const lineOf = (item: ScannedItem, units: number) => ({
  ...item,
  id: newId(),
  name: item.number,
  unit: 'each',
  decimals: 0,
  quantity: units * 1000,
});

/** Stores a basket of ten lines again and again, as a till does with each scan. */
export function scanner(till: Browser, items: readonly ScannedItem[]): () => Promise<void> {
  const basket = { id: newId(), lines: items.slice(0, 10).map((item) => lineOf(item, 1)) };
  let revision = 0;
  return async () => {
    const { status, body } = await till.ask<{ revision: number }>('PUT', '/counter/basket', {
      basket,
      revision,
    });
    if (status !== 200) throw new Error(`a scan was refused: ${JSON.stringify(body)}`);
    revision = body.revision;
  };
}
