import type { SaleToFinish } from './saleToFinish.ts';
import type { FinishedSale, StoredBasket } from '../../contract/counter.ts';
import type { StoredShelves } from '../../contract/shelves.ts';
import type { OfferCount } from '../../contract/offers.ts';
import type { PointsAsMoney, PointsOfSale } from '../../core/people/loyalty.ts';
import type { ReceiptWay } from '../../core/people/record.ts';
import type { Basket, BasketCode } from '../../core/counter/basket.ts';
import type { Shelf } from '../../core/counter/shelves.ts';
import type { GroupPrice } from '../../core/counter/toPrice.ts';
import type { TaxMode, TaxRounding } from '../../core/pricing/tax.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import type { DatedRate } from '../../core/pricing/taxRates.ts';
import type { DiscountPreset } from '../../core/pricing/discount.ts';
import type { Rate } from '../../core/rate.ts';
import type { Approval } from '../../core/staff/approval.ts';
import type { Role } from '../../core/staff/rights.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import type { SellableItem } from '../goods/store.ts';
import type { Asked } from '../http/answerStore.ts';
import {
  findPayment,
  TENDER_TYPES,
  tendersOf,
  toTenderType,
  type PaymentRow,
  type PaymentTender,
  type TenderTypeRow,
} from '../tenders/store.ts';
import { customerUses, liveCounts } from '../offers/offerStore.ts';

export async function basketOf(sql: Reader, tillId: number): Promise<StoredBasket | null> {
  const [row] = await sql.query<StoredBasket>(
    'select content as basket, revision, saved_by as "savedBy" from basket where till_id = $1',
    [tillId],
  );
  return row ?? null;
}

export async function isFinished(sql: Reader, saleId: string): Promise<boolean> {
  return (await sql.query('select 1 from sale where id = $1', [saleId])).length > 0;
}

export async function readShelves(sql: Reader): Promise<StoredShelves> {
  return one(await sql.query<StoredShelves>('select content as shelves, revision from shelves'));
}

/** Stores the shelves if they still have the revision that was seen. @returns the new revision, or `undefined` */
export async function putShelves(
  sql: Writer,
  shelves: readonly Shelf[],
  seen: number,
): Promise<number | undefined> {
  const [row] = await sql.query<{ revision: number }>(
    'update shelves set content = $1, revision = revision + 1 where revision = $2 returning revision',
    [JSON.stringify(shelves), seen],
  );
  return row?.revision;
}

/** Whether the basket was put aside and waits, or its goods were promised to a customer. */
export async function isPutAside(sql: Reader, basketId: string): Promise<boolean> {
  const aside = `select 1 from held_basket where basket_id = $1 and taken_at is null
     union all select 1 from promise_basket where basket_id = $1`;
  return (await sql.query(aside, [basketId])).length > 0;
}

/** Stores the basket of a till if it still has the revision that was seen. @returns the new revision, or `undefined` */
export async function putBasket(
  sql: Writer,
  tillId: number,
  basket: Basket,
  seen: number,
  at: Date,
  savedBy: string | null = null,
): Promise<number | undefined> {
  const [row] = await sql.query<{ revision: number }>(
    `insert into basket (id, till_id, revision, content, changed_at, saved_by) values ($1, $2, $4 + 1, $3, $5, $6)
     on conflict (till_id) do update
       set id = excluded.id, revision = basket.revision + 1, content = excluded.content,
         changed_at = excluded.changed_at, saved_by = excluded.saved_by
       where basket.revision = $4
     returning revision`,
    [basket.id, tillId, JSON.stringify(basket), seen, at.toISOString(), savedBy],
  );
  return row?.revision;
}

/** Everything a sale is priced by, read at once. */
export interface PricingFacts {
  items: SellableItem[];
  rates: DatedRate[];
  /** Prices for the groups that the customer belongs to. */
  groupPrices: GroupPrice[];
  /** What comes back without its receipt is worth at most so much. */
  returnPrices: { itemId: number; price: number }[];
  /** Which offers are in force, how far they are used, and what the customer has of them. */
  offerRevision: number;
  offerCounts: OfferCount[];
  customerUses: { offerId: number; uses: number }[];
  /** Points of the customer that no other basket holds, and what points are worth as money off. */
  points: number;
  pointsRate: PointsAsMoney;
  /** Those of the basket's codes that the shop knows. */
  codes: BasketCode[];
  codeLayouts: string[];
  presets: DiscountPreset[];
  discountLimits: Record<Role, Rate>;
  /** How much each role refunds alone; `null` is any amount. */
  refundLimits: Record<Role, number | null>;
  customerGroups: string[];
  /** Whether the customer of the basket is known. */
  customerKnown: boolean;
  taxMode: TaxMode;
  taxRounding: TaxRounding;
  currency: string;
  timezone: string;
  dayEnds: number;
  tillNumber: number;
  placeId: number;
  openPriceLimit: number;
  /** Approvals given for this basket. */
  countersigns: Approval[];
  /** The sale, when it was finished before under the same id. */
  finished: FinishedSale | null;
  /** What the key of the request was used for before, if it was. */
  asked: Omit<Asked, 'key'> | null;
  /** Payments that were taken, or asked for, and the row that stands for all of them. */
  tenders: PaymentTender[];
  payment: PaymentRow | null;
  /** Every means of payment, in the order in which the till offers them. */
  types: TenderType[];
  roundUpStep: number;
  cashRounding: number;
  /** Which fund is given to. */
  fundId: number | null;
  giftCardItemId: number | null;
  /** What deposits of promises and fees are rung up as. */
  depositItemId: number | null;
  feeItemId: number | null;
  /** What money for house accounts is rung up as. */
  accountItemId: number | null;
  /** How the customer of the basket wants receipts. */
  customerReceipt: { by: ReceiptWay; mail: string; phone: string } | null;
}

/** What the till shows of a finished sale. */
const FINISHED = `json_build_object('id', sale.id, 'number', receipt_number(till.number, sale.number),
  'total', sale.total, 'donation', donation, 'cashRounding', sale.cash_rounding,
  'handed', coalesce((select sum(handed) from tender where sale_id = sale.id), 0),
  'change', coalesce((select sum(handed - amount) from tender where sale_id = sale.id), 0),
  'tenders', coalesce((select json_agg(json_build_object('name', name, 'amount', amount, 'handed', handed, 'tip', tip)
    order by position) from tender where sale_id = sale.id), '[]'::json), 'points', points_of_sale(sale.id))`;
const FINISHED_SALE = 'from sale join till on till.id = sale.till_id where sale.id';

export async function finishedSale(sql: Reader, id: string): Promise<FinishedSale | null> {
  const [row] = await sql.query<{ sale: FinishedSale }>(`select ${FINISHED} as sale ${FINISHED_SALE} = $1`, [
    id,
  ]);
  return row?.sale ?? null;
}

/** @param key what the request is told from others by */
export async function pricingFacts(
  sql: Reader,
  tillId: number,
  basket: Basket,
  at: Date,
  key?: string,
): Promise<PricingFacts> {
  const itemIds = [...new Set(basket.lines.map(({ itemId }) => itemId))];
  const codes = (basket.codes ?? []).map(({ code }) => code);
  const rows = await sql.query<{ facts: PricingFacts & { types: TenderTypeRow[] }; paying: boolean }>(
    `select json_build_object(
       'items', coalesce((select json_agg(json_build_object(
         'id', item.id, 'number', number, 'name', item.name, 'unit', unit, 'decimals', decimals, 'price', price,
         'taxCategoryId', tax_category_id, 'stocked', stocked, 'kind', kind, 'serials', serials, 'minAge', min_age,
         'category', category.name, 'familyId', family_id, 'active', active,
         'codes', coalesce((select json_agg(code) from item_code where item_id = item.id), '[]'::json)))
         from item join category on category.id = category_id where item.id = any ($3::integer[])), '[]'::json),
       'rates', coalesce((select json_agg(json_build_object(
         'id', id, 'name', name, 'rate', rate, 'category', tax_category_id, 'from', from_day) order by id)
         from tax_rate), '[]'::json),
       'groupPrices', coalesce((select json_agg(json_build_object(
         'itemId', item_id, 'price', price, 'group', customer_group.name))
         from customer_membership join group_price using (group_id) join customer_group on customer_group.id = group_id
         where customer_id = $4 and item_id = any ($3::integer[])), '[]'::json),
       'returnPrices', coalesce((select json_agg(json_build_object('itemId', item_id, 'price', price))
         from lowest_prices($3::integer[], $5::timestamptz)), '[]'::json),
       'presets', coalesce((select json_agg(json_build_object(
           'id', preset.id, 'name', preset.name, 'needsCustomer', needs_customer, 'group', customer_group.name,
           'size', case kind when 'percent' then json_build_object('kind', kind, 'rate', value)
                             else json_build_object('kind', kind, 'amount', value) end))
         from discount_preset as preset left join customer_group on customer_group.id = group_id
         where active), '[]'::json),
       'discountLimits', (select json_object_agg(role, rate) from role_discount_limit),
       'refundLimits', (select json_object_agg(role, amount) from role_refund_limit),
       'customerGroups', coalesce((select json_agg(customer_group.name) from customer_membership
         join customer_group on customer_group.id = group_id where customer_id = $4), '[]'::json),
       'offerRevision', (select revision from offer_revision),
       'offerCounts', ${liveCounts('$5')},
       'customerUses', ${customerUses('$4')},
       'points', coalesce((select points - points_claimed(id, $2::uuid, $5::timestamptz) from customer
         where id = $4), 0),
       'pointsRate', json_build_object('on', points_on, 'word', points_word, 'offPoints', points_off_points,
         'offAmount', points_off_amount, 'offMost', points_off_most),
       'codes', coalesce((select json_agg(json_build_object('code', code, 'offerId', offer_id, 'single', single))
         from offer_code where code = any ($6::text[]) and withdrawn_at is null), '[]'::json),
       'codeLayouts', shop.code_layouts,
       'customerKnown', $4::integer is null or exists (select 1 from customer where id = $4 and not gone),
       'taxMode', shop.tax_mode, 'taxRounding', shop.tax_rounding, 'currency', shop.currency,
       'timezone', shop.timezone, 'dayEnds', shop.day_ends, 'tillNumber', till.number, 'placeId', till.place_id,
       'openPriceLimit', shop.open_price_limit,
       'countersigns', coalesce((select json_agg(json_build_object('id', id, 'right', "right", 'covers', covers,
           'sessionId', coalesce(session_id, 0), 'at', (extract(epoch from countersign.at) * 1000)::bigint,
           'usedFor', used_for))
         from countersign left join countersign_use on countersign_id = id where basket_id = $2), '[]'::json),
       'finished', (select ${FINISHED} ${FINISHED_SALE} = $2),
       'tenders', '[]'::json,
       'asked', (select json_build_object('route', route, 'hash', request_hash) from idempotency where key = $7),
       'types', ${TENDER_TYPES},
       'roundUpStep', shop.round_up_step, 'cashRounding', shop.cash_rounding,
       'fundId', (select id from fund order by active desc, id limit 1), 'giftCardItemId', shop.gift_card_item_id,
       'depositItemId', shop.deposit_item_id, 'feeItemId', shop.fee_item_id, 'accountItemId', shop.account_item_id,
       'customerReceipt', (select json_build_object('by', receipt_by, 'mail', mail, 'phone', phone)
         from customer where id = $4)) as facts,
       exists (select 1 from payment where basket_id = $2) as paying
     from shop, till where till.id = $1`,
    [tillId, basket.id, itemIds, basket.customer?.id ?? null, at.toISOString(), codes, key ?? null],
  );
  const { facts, paying } = one(rows);
  const known = { ...facts, types: facts.types.map(toTenderType), payment: null };
  if (!paying) return known;
  const payment = (await findPayment(sql, basket.id)) ?? null;
  return { ...known, payment, tenders: await tendersOf(sql, basket.id) };
}

/** What is answered of a sale that was stored. @property again it was stored before */
export interface StoredSale {
  number: number;
  again: boolean;
  points?: PointsOfSale | null;
}

/** Finishes a sale in one call to the database; see `finish_sale`. */
export async function finishSale(sql: Reader, sale: SaleToFinish): Promise<StoredSale> {
  const rows = await sql.query<{ answer: StoredSale }>('select finish_sale($1) as answer', [
    JSON.stringify(sale),
  ]);
  return one(rows).answer;
}

/** What of some items can be sold: on hand less what is set aside. */
export async function levelsAt(
  sql: Reader,
  placeId: number,
  itemIds: readonly number[],
): Promise<[itemId: number, quantity: number][]> {
  const rows = await sql.query<{ item_id: number; quantity: number }>(
    'select item_id, quantity - set_aside as quantity from stock_level where place_id = $1 and item_id = any ($2::integer[])',
    [placeId, itemIds],
  );
  return rows.map(({ item_id, quantity }) => [item_id, quantity]);
}
