import type { FirstRun, NewTaxRate, ShopSettings, TillFacts, Welcome } from '../../contract/setup.ts';
import type { ReceiptTerms } from '../../core/journal/receipt.ts';
import type { TaxMode, TaxRounding } from '../../core/pricing/tax.ts';
import type { DatedRate } from '../../core/pricing/taxRates.ts';
import type { SetupProgress } from '../../core/setup/checklist.ts';
import { businessDate } from '../clock.ts';
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
  codeLayouts: string[];
  openItemId: number | null;
  receiptLogo: string;
  receiptTerms: ReceiptTerms;
  receiptLocale: string;
  mailFrom: string;
  /** How many hours after midnight the shop's day ends. */
  dayEnds: number;
  /** Who is told what the day was like. */
  summaryMail: string;
  /** The installation, in the numbers of its mails. */
  mailId: string;
  demo: boolean;
}

export async function findShop(sql: Reader): Promise<ShopRow | undefined> {
  const [shop] = await sql.query<ShopRow>(
    `select name, currency, locale, timezone, tax_mode as "taxMode", tax_rounding as "taxRounding",
            receipt_words as "receiptWords", receipt_thanks as "receiptThanks", opening_float as "openingFloat",
            open_price_limit as "openPriceLimit",
            lock_minutes as "lockMinutes", code_layouts as "codeLayouts", open_item_id as "openItemId",
            receipt_logo as "receiptLogo", receipt_terms as "receiptTerms", receipt_locale as "receiptLocale",
            mail_from as "mailFrom", day_ends as "dayEnds", summary_mail as "summaryMail", mail_id as "mailId", demo
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

/** Every rate that there ever was or will be. */
export function taxRates(sql: Reader): Promise<DatedRate[]> {
  return sql.query<DatedRate>(
    `select id, tax_category_id as category, name, rate, from_day as "from" from tax_rate order by id`,
  );
}

export function taxCategories(sql: Reader): Promise<{ id: number; name: string }[]> {
  return sql.query('select id, name from tax_category order by id');
}

export async function addTaxRate(
  sql: Writer,
  { taxCategoryId, name, rate, from }: NewTaxRate,
): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    `insert into tax_rate (tax_category_id, name, rate, from_day) values ($1, $2, $3, $4) returning id`,
    [taxCategoryId, name, rate, from],
  );
  return one(rows).id;
}

/** Takes a rate back that has not begun. @returns whether there was one */
export async function dropTaxRate(sql: Writer, id: number, today: string): Promise<boolean> {
  const gone = await sql.query('delete from tax_rate where id = $1 and from_day > $2 returning id', [
    id,
    today,
  ]);
  return gone.length > 0;
}

/** How far a new shop has come. */
export async function setupProgress(sql: Reader): Promise<SetupProgress> {
  return one(
    await sql.query<SetupProgress>(
      `select (select cardinality(receipt_words) from shop) as "receiptWords",
              (select count(*)::integer from staff where active) as staff,
              (select count(*)::integer from tax_rate) as "taxRates",
              (select count(*)::integer from tax_category) as "taxCategories",
              (select count(*)::integer from item where active
                 and id not in (select unnest(array[open_item_id, gift_card_item_id]) from shop)) as items,
              items_without_cost() as "withoutCost",
              (select count(*)::integer from shelves, jsonb_array_elements(content) as page,
                 jsonb_array_elements(page->'tiles')) as tiles,
              (select count(*)::integer from (select 1 from shift limit 1) as one) as shifts,
              (select count(*)::integer from (select 1 from sale limit 1) as one) as sales`,
    ),
  );
}

export async function setOpenItem(sql: Writer, itemId: number): Promise<void> {
  await sql.query('update shop set open_item_id = $1', [itemId]);
}

export async function setGiftCardItem(sql: Writer, itemId: number): Promise<void> {
  await sql.query('update shop set gift_card_item_id = $1', [itemId]);
}

export async function addShop(
  sql: Writer,
  shop: Omit<
    ShopRow,
    | 'lockMinutes'
    | 'taxRounding'
    | 'openPriceLimit'
    | 'openItemId'
    | 'receiptLogo'
    | 'receiptTerms'
    | 'receiptLocale'
    | 'mailFrom'
    | 'dayEnds'
    | 'summaryMail'
    | 'mailId'
  >,
): Promise<void> {
  await sql.query(
    `insert into shop (name, currency, locale, receipt_locale, timezone, tax_mode, receipt_words, receipt_thanks,
      opening_float, code_layouts, demo)
     values ($1, $2, $3, $3, $4, $5, $6, $7, $8, $9, $10)`,
    [
      shop.name,
      shop.currency,
      shop.locale,
      shop.timezone,
      shop.taxMode,
      shop.receiptWords,
      shop.receiptThanks,
      shop.openingFloat,
      shop.codeLayouts,
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

export function listPlaces(sql: Reader): Promise<{ id: number; name: string; kind: 'shop' | 'stock' }[]> {
  return sql.query('select id, name, kind from place order by id');
}

export async function putShopSettings(sql: Writer, shop: ShopSettings): Promise<void> {
  await sql.query(
    `update shop set name = $1, opening_float = $2, open_price_limit = $3, lock_minutes = $4, receipt_words = $5,
            receipt_thanks = $6, code_layouts = $7, tax_rounding = $8, receipt_logo = $9, receipt_terms = $10,
            receipt_locale = $11, mail_from = $12, timezone = $13, locale = $14, day_ends = $15, summary_mail = $16`,
    [
      shop.name,
      shop.openingFloat,
      shop.openPriceLimit,
      shop.lockMinutes,
      shop.receiptWords,
      shop.receiptThanks,
      shop.codeLayouts,
      shop.taxRounding,
      shop.receiptLogo,
      JSON.stringify(shop.receiptTerms),
      shop.receiptLocale,
      shop.mailFrom,
      shop.timezone,
      shop.locale,
      shop.dayEnds,
      shop.summaryMail,
    ],
  );
}

/** The shop's calendar day, `YYYY-MM-DD`. */
export async function shopToday(sql: Reader, at: Date): Promise<string> {
  return businessDate(at, (await readShop(sql)).timezone);
}
