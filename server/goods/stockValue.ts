import { DateTime } from 'luxon';
import type { StockValue, StockValueQuery } from '../../contract/stockValue.ts';
import { sum } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { csv } from '../csv.ts';
import type { Reader } from '../db/database.ts';
import { listPlaces, readShop, type ShopRow } from '../shop/store.ts';
import { booksOfStock, valueByCategory, valueByItem } from './stockValueStore.ts';

/** The first moment after a day; `null` without one: all that was until now. */
const endOf = ({ day }: StockValueQuery, { timezone }: Pick<ShopRow, 'timezone'>): string | null =>
  day === '' ? null : DateTime.fromISO(day, { zone: timezone }).plus({ days: 1 }).toUTC().toISO();

/**
 * What stock was worth at the end of a day: the sum of what its moves cost until then, as they were posted. So it is
 * what the books said of stock at that moment; both are given.
 */
export async function stockValue(sql: Reader, query: StockValueQuery): Promise<StockValue> {
  const until = endOf(query, await readShop(sql));
  const rows = await valueByCategory(sql, until);
  const books = new Map((await booksOfStock(sql, until)).map(({ placeId, amount }) => [placeId, amount]));
  const places = (await listPlaces(sql)).map(({ id, name }) => ({
    id,
    name,
    value: sum(rows.filter(({ placeId }) => placeId === id).map(({ value }) => value)),
    books: books.get(id) ?? 0,
  }));
  const names = [...new Set(rows.map(({ category }) => category))];
  const categories = names
    .map((name) => {
      const mine = rows.filter(({ category }) => category === name);
      const values = places.map(({ id }) => mine.find(({ placeId }) => placeId === id)?.value ?? 0);
      return { name, values, value: sum(values) };
    })
    .toSorted((a, b) => b.value - a.value || (a.name < b.name ? -1 : 1));
  return {
    categories,
    places,
    value: sum(places.map(({ value }) => value)),
    books: sum(places.map((place) => place.books)),
  };
}

/** What each item was worth at each place at the end of a day, as comma-separated values. */
export async function stockValueCsv(sql: Reader, query: StockValueQuery): Promise<string> {
  const shop = await readShop(sql);
  const rows = await valueByItem(sql, endOf(query, shop));
  return csv(
    ['Number', 'Name', 'Category', 'Place', 'Quantity', 'Unit', 'Value'],
    rows.map(({ number, name, category, place, quantity, unit, value }) => [
      number,
      name,
      category,
      place,
      formatQuantity(quantity),
      unit,
      { amount: value },
    ]),
    { digits: currencyOf(shop.currency).digits, timezone: shop.timezone },
  );
}
