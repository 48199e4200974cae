import type { FirstRun, SetupFacts, ShopSettings, TillFacts, Welcome } from '../../contract/setup.ts';
import type { TaxMode, TaxRate, TaxRounding } from '../../core/offers/tax.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

export interface ShopRow {
  name: string;
  currency: string;
  locale: string;
  timezone: string;
  taxMode: TaxMode;
  taxRounding: TaxRounding;
  receiptWords: string[];
  receiptThanks: string;
  openingFloat: number;
  openPriceLimit: number;
  lockMinutes: number;
  demo: boolean;
}

export async function findShop(sql: Reader): Promise<ShopRow | undefined> {
  const [shop] = await sql.query<ShopRow>(
    `select name, currency, locale, timezone, tax_mode as "taxMode", tax_rounding as "taxRounding",
            receipt_words as "receiptWords", receipt_thanks as "receiptThanks", opening_float as "openingFloat", open_price_limit as "openPriceLimit",
            lock_minutes as "lockMinutes", demo
     from shop`,
  );
  return shop;
}

export async function readShop(sql: Reader): Promise<ShopRow> {
  const shop = await findShop(sql);
  if (!shop) throw new Error('the shop has not been set up');
  return shop;
}

export function listTills(sql: Reader): Promise<Welcome['tills']> {
  return sql.query(
    `select till.id, till.number, place.name as place from till join place on place.id = till.place_id
     order by till.number`,
  );
}

export async function readTill(sql: Reader, tillId: number): Promise<TillFacts['till']> {
  const rows = await sql.query<TillFacts['till']>(
    `select till.id, till.number, till.place_id as "placeId", place.name as place
     from till join place on place.id = till.place_id where till.id = $1`,
    [tillId],
  );
  return one(rows);
}

export async function taxRates(sql: Reader): Promise<Record<number, TaxRate[]>> {
  const rows = await sql.query<TaxRate & { category: number }>(
    `select category.id as category, rate.id, rate.name, rate.rate
     from tax_category as category join tax_rate as rate on rate.tax_category_id = category.id
     order by category.id, rate.id`,
  );
  const byCategory: Record<number, TaxRate[]> = {};
  for (const { category, ...rate } of rows) (byCategory[category] ??= []).push(rate);
  return byCategory;
}

export async function addShop(
  sql: Writer,
  shop: Omit<ShopRow, 'lockMinutes' | 'taxRounding' | 'openPriceLimit'>,
): Promise<void> {
  await sql.query(
    `insert into shop (name, currency, locale, timezone, tax_mode, receipt_words, receipt_thanks, opening_float, demo)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [
      shop.name,
      shop.currency,
      shop.locale,
      shop.timezone,
      shop.taxMode,
      shop.receiptWords,
      shop.receiptThanks,
      shop.openingFloat,
      shop.demo,
    ],
  );
}

export async function addPlace(sql: Writer, name: string, kind: 'shop' | 'stock'): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    'insert into place (name, kind) values ($1, $2) returning id',
    [name, kind],
  );
  return one(rows).id;
}

export async function addTill(sql: Writer, number: number, placeId: number): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    'insert into till (number, place_id) values ($1, $2) returning id',
    [number, placeId],
  );
  return one(rows).id;
}

/** Adds a tax category with one rate; a rate of zero is a category without rates. */
export async function addTaxCategory(
  sql: Writer,
  tax: FirstRun['taxes'][number],
  category = tax.name,
): Promise<number> {
  const rows = await sql.query<{ id: number }>('insert into tax_category (name) values ($1) returning id', [
    category,
  ]);
  const { id } = one(rows);
  if (tax.rate > 0) {
    await sql.query('insert into tax_rate (tax_category_id, name, rate) values ($1, $2, $3)', [
      id,
      tax.name,
      tax.rate,
    ]);
  }
  return id;
}

export function listPlaces(sql: Reader): Promise<SetupFacts['places']> {
  return sql.query('select id, name, kind from place order by id');
}

export async function putShopSettings(sql: Writer, shop: ShopSettings): Promise<void> {
  await sql.query(
    `update shop set name = $1, opening_float = $2, open_price_limit = $3, lock_minutes = $4, receipt_words = $5,
            receipt_thanks = $6`,
    [
      shop.name,
      shop.openingFloat,
      shop.openPriceLimit,
      shop.lockMinutes,
      shop.receiptWords,
      shop.receiptThanks,
    ],
  );
}
