import { formatDay } from '../../core/locale.ts';
import { formatMoney } from '../../core/money.ts';
import { businessDate } from '../clock.ts';
import type { Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { readShop } from '../shop/store.ts';
import { itemNames, noItem } from './items.ts';
import { dropPriceToCome, putPricesToCome, takePricesIn } from './priceStore.ts';
import { lockItems, noteItemChanges, readItems } from './recordStore.ts';

interface By {
  staffId: number;
  at: Date;
}

/** Notes a price that counts from a day on. @throws Problem 404, 422 */
export async function addPriceToCome(
  sql: Writer,
  id: number,
  { from, price }: { from: string; price: number },
  by: By,
): Promise<void> {
  await lockItems(sql, [id]);
  const [item] = await readItems(sql, [id]);
  if (!item) throw noItem();
  const { timezone } = await readShop(sql);
  if (from <= businessDate(by.at, timezone))
    throw fieldProblem('from', 'A price that is to come begins tomorrow or later.');
  if (item.record.price === null) throw fieldProblem('price', 'It has no price of its own.');
  const { digits } = await itemNames(sql);
  await putPricesToCome(sql, [{ id, from, price }], by);
  const change = { what: `Price from ${formatDay(from)}`, was: '', became: formatMoney(price, digits) };
  await noteItemChanges(sql, [{ id, changes: [change] }], by);
}

/** Takes a price that is to come away again. @throws Problem 404 */
export async function removePriceToCome(sql: Writer, id: number, from: string, by: By): Promise<void> {
  await lockItems(sql, [id]);
  const price = await dropPriceToCome(sql, id, from);
  if (price === undefined) throw new Problem('no-item', 'There is no such price to come.');
  const { digits } = await itemNames(sql);
  const change = { what: `Price from ${formatDay(from)}`, was: formatMoney(price, digits), became: '' };
  await noteItemChanges(sql, [{ id, changes: [change] }], by);
}

/** Prices whose day has begun count from now on. @returns how many items have another price */
export async function beginDay(sql: Writer, at: Date): Promise<number> {
  const { timezone } = await readShop(sql);
  const taken = await takePricesIn(sql, businessDate(at, timezone));
  if (taken.length === 0) return 0;
  const { digits } = await itemNames(sql);
  await noteItemChanges(
    sql,
    taken.map(({ id, was, became }) => ({
      id,
      changes: [
        {
          what: 'Price',
          was: was === null ? '' : formatMoney(was, digits),
          became: formatMoney(became, digits),
        },
      ],
    })),
    { staffId: null, at },
  );
  return taken.length;
}
