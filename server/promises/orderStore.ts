import type {
  CollectWanted,
  OrderFacts,
  ParcelView,
  PlaceDetails,
  ShipWanted,
} from '../../contract/orders.ts';
import type { OrderPlace, OrderRules } from '../../core/promises/order.ts';
import type { PromiseLine } from '../../core/promises/promised.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** How the goods of an order get to the customer. */
export interface NewHandover {
  collect: CollectWanted | null;
  ship: (ShipWanted & { zone: string; weight: number }) | null;
}

/** Stores how an order is handed over, or what has changed about it. */
export async function putHandover(sql: Writer, id: string, { collect, ship }: NewHandover): Promise<void> {
  await sql.query(
    `insert into order_handover (promise_id, collect_place, collect_day, collect_time, collector, recipient, street,
      postcode, city, phone, wishes, gift, zone, weight)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14)
     on conflict (promise_id) do update set version = order_handover.version + 1,
       (collect_place, collect_day, collect_time, collector, recipient, street, postcode,
       city, phone, wishes, gift, zone, weight) = (excluded.collect_place, excluded.collect_day, excluded.collect_time,
       excluded.collector, excluded.recipient, excluded.street, excluded.postcode, excluded.city, excluded.phone,
       excluded.wishes, excluded.gift, excluded.zone, excluded.weight)`,
    [
      id,
      collect?.placeId ?? null,
      collect?.day ?? null,
      collect?.time ?? null,
      collect?.collector ?? '',
      ship?.recipient ?? '',
      ship?.street ?? '',
      ship?.postcode ?? '',
      ship?.city ?? '',
      ship?.phone ?? '',
      ship?.wishes ?? '',
      ship?.gift ?? false,
      ship?.zone ?? '',
      ship?.weight ?? 0,
    ],
  );
}

/** How often it was said how an order is handed over. */
export async function handoverVersion(sql: Reader, id: string): Promise<number> {
  const rows = await sql.query<{ version: number }>(
    'select version from order_handover where promise_id = $1',
    [id],
  );
  return one(rows).version;
}

/** Everything was found ready. @returns whether that is new */
export async function markReady(sql: Writer, id: string, at: Date): Promise<boolean> {
  const rows = await sql.query(
    'update order_handover set ready_at = $2 where promise_id = $1 and ready_at is null returning 1',
    [id, at.toISOString()],
  );
  return rows.length > 0;
}

/** Nothing has to be paid before an order goes on. */
export async function excuseFirstPayment(sql: Writer, id: string): Promise<void> {
  await sql.query('update promise set first_payment = 0 where id = $1', [id]);
}

/** So much more of a line was found; what is missing of it is short. */
export async function notePicked(
  sql: Writer,
  id: string,
  position: number,
  found: number,
  short: number,
): Promise<void> {
  await sql.query(
    'update promise_line set picked = picked + $3, short = $4 where promise_id = $1 and position = $2',
    [id, position, found, short],
  );
}

/** A line is picked at another place. */
export async function moveLine(sql: Writer, id: string, position: number, placeId: number): Promise<void> {
  await sql.query(
    'update promise_line set place_id = $3, short = 0 where promise_id = $1 and position = $2',
    [id, position, placeId],
  );
}

/** A line that was parted: it keeps the first part, the rest stands on a line of its own at another place. */
export async function partStoredLine(
  sql: Writer,
  id: string,
  first: PromiseLine,
  rest: PromiseLine,
  placeId: number,
): Promise<void> {
  await sql.query(
    `update promise_line set quantity = $3, regular = $4, net = $5, tax = $6, records = $7, short = 0
     where promise_id = $1 and position = $2`,
    [id, first.position, first.quantity, first.regular, first.net, first.tax, JSON.stringify(first.records)],
  );
  await sql.query(
    `insert into promise_line (promise_id, position, item_id, number, name, unit, decimals, tax_category_id, quantity,
       unit_price, regular, net, tax, records, serial, note, gift, age_checked, bundle, stocked, way, place_id)
     select promise_id, (select max(position) + 1 from promise_line where promise_id = $1), item_id, number, name, unit,
       decimals, tax_category_id, $3, unit_price, $4, $5, $6, $7, serial, note, gift, age_checked, bundle, stocked,
       way, $8
     from promise_line where promise_id = $1 and position = $2`,
    [
      id,
      first.position,
      rest.quantity,
      rest.regular,
      rest.net,
      rest.tax,
      JSON.stringify(rest.records),
      placeId,
    ],
  );
}

/** What was picked at a place leaves for where it is collected. */
export async function sendGoods(sql: Writer, id: string, placeId: number, at: Date): Promise<void> {
  await sql.query('select send_goods($1, $2, $3)', [id, placeId, at.toISOString()]);
}

/** What was on the way has arrived. */
export async function takeInGoods(sql: Writer, id: string, at: Date): Promise<void> {
  await sql.query('select take_in_goods($1, $2)', [id, at.toISOString()]);
}

const PLACE = `id, name, kind, street, postcode, city, hours,
  case when latitude is not null then json_build_object('latitude', latitude, 'longitude', longitude) end as at`;

/** The places of the shop, as orders need them. */
export function orderPlaces(sql: Reader): Promise<OrderPlace[]> {
  return sql.query(`select ${PLACE} from place order by id`);
}

/** Where a place is, and when it is open, from now on. @returns whether there is such a place */
export async function putPlaceDetails(sql: Writer, id: number, details: PlaceDetails): Promise<boolean> {
  const { street, postcode, city, latitude, longitude, hours } = details;
  const rows = await sql.query(
    `update place set street = $2, postcode = $3, city = $4, latitude = $5, longitude = $6, hours = $7
     where id = $1 returning 1`,
    [id, street, postcode, city, latitude, longitude, JSON.stringify(hours)],
  );
  return rows.length > 0;
}

/** How the shop takes orders, what shipping is rung up as, and under which key the calendar is read. */
export async function orderSetup(
  sql: Reader,
): Promise<{ rules: OrderRules; shippingItem: OrderFacts['shippingItem']; calendarKey: string }> {
  return one(
    await sql.query(
      `select order_rules as rules, calendar_key as "calendarKey",
              (select json_build_object('itemId', id, 'number', number, 'unit', unit, 'taxCategoryId', tax_category_id)
               from item where id = shipping_item_id) as "shippingItem" from shop`,
    ),
  );
}

/** What something is rung up as that is named by its words. */
export async function moneyItem(sql: Reader, itemId: number): Promise<OrderFacts['shippingItem']> {
  return one(
    await sql.query<OrderFacts['shippingItem']>(
      'select id as "itemId", number, unit, tax_category_id as "taxCategoryId" from item where id = $1',
      [itemId],
    ),
  );
}

/** @param shippingTaxCategoryId how the fee of shipping is taxed */
export async function putOrderRules(
  sql: Writer,
  { shippingTaxCategoryId, ...rules }: OrderRules & { shippingTaxCategoryId: number },
): Promise<void> {
  await sql.query('update shop set order_rules = $1', [JSON.stringify(rules)]);
  await sql.query('update item set tax_category_id = $1 where id = (select shipping_item_id from shop)', [
    shippingTaxCategoryId,
  ]);
}

/** The calendar has another secret address from now on. */
export async function renewCalendarKey(sql: Writer): Promise<void> {
  await sql.query(
    "update shop set calendar_key = replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '')",
  );
}

/** What places have of some items, and what those weigh. */
export function stockForOrder(sql: Reader, itemIds: readonly number[]): Promise<OrderFacts['stock']> {
  return sql.query(
    `select item.id as "itemId", item.stocked, item.weight,
            (select json_agg(json_build_object('placeId', place.id, 'place', place.name,
               'at', case when latitude is not null then json_build_object('latitude', latitude, 'longitude',
                 longitude) end,
               'available', greatest(0, coalesce(level.quantity - level.set_aside, 0))) order by place.name)
             from place left join stock_level as level on level.place_id = place.id
               and level.item_id = item.id) as sources
     from item where id = any ($1::integer[])`,
    [itemIds],
  );
}

/** The parcels of an order, the first one first. */
export function parcelsOf(sql: Reader, id: string): Promise<ParcelView[]> {
  return sql.query(
    `select id, state, tracking, weight, asked_at as "askedAt", trouble from parcel where promise_id = $1
      order by asked_at, id`,
    [id],
  );
}

/** A parcel that the carrier is to be asked for. */
export interface WaitingParcel {
  id: string;
  promiseId: string;
  weight: number;
  askedAt: string;
  tries: number;
}

export async function addParcel(
  sql: Writer,
  parcel: { id: string; promiseId: string; weight: number; staffId: number; at: Date },
): Promise<void> {
  await sql.query(
    'insert into parcel (id, promise_id, weight, staff_id, asked_at) values ($1, $2, $3, $4, $5)',
    [parcel.id, parcel.promiseId, parcel.weight, parcel.staffId, parcel.at.toISOString()],
  );
}

/** Parcels that the carrier is to be asked for now, the longest waiting first. */
export function dueParcels(sql: Reader, now: Date): Promise<WaitingParcel[]> {
  return sql.query(
    `select id, promise_id as "promiseId", weight, asked_at as "askedAt", tries from parcel
     where state = 'waiting' and coalesce(try_at, asked_at) <= $1 order by coalesce(try_at, asked_at), id limit 20`,
    [now.toISOString()],
  );
}

/** When the next parcel is due, if any waits. */
export async function nextParcel(sql: Reader): Promise<string | null> {
  return one(
    await sql.query<{ at: string | null }>(
      "select min(coalesce(try_at, asked_at)) as at from parcel where state = 'waiting'",
    ),
  ).at;
}

export async function markLabelled(sql: Writer, id: string, tracking: string): Promise<void> {
  await sql.query(
    "update parcel set state = 'labelled', tracking = $2, trouble = '' where id = $1 and state = 'waiting'",
    [id, tracking],
  );
}

/** The carrier could not be asked: it is asked again later. */
export async function noteParcelTrouble(
  sql: Writer,
  id: string,
  trouble: string,
  tryAt: Date,
): Promise<void> {
  await sql.query('update parcel set trouble = $2, tries = tries + 1, try_at = $3 where id = $1', [
    id,
    trouble.slice(0, 300),
    tryAt.toISOString(),
  ]);
}

/** A collection, as a calendar shows it. */
export interface Collection {
  id: string;
  count: number;
  customer: string;
  goods: string;
  place: string;
  street: string;
  postcode: string;
  city: string;
  day: string;
  time: string;
  madeAt: string;
}

/** Collections of open orders from a day on. @param from `YYYY-MM-DD` */
export function collectionsFrom(sql: Reader, from: string): Promise<Collection[]> {
  return sql.query(
    `select promise.id, promise.number as count, customer.name as customer, place.name as place, place.street,
            place.postcode, place.city, collect_day::text as day, to_char(collect_time, 'HH24:MI') as time,
            promise.made_at as "madeAt",
            (select string_agg(name, ', ' order by position) from promise_line as line
             where line.promise_id = promise.id and way = 'collect' and handed < quantity) as goods
     from promise join order_handover as handover on handover.promise_id = promise.id
     join customer on customer.id = promise.customer_id join place on place.id = collect_place
     where cancelled_at is null and handed < units and collect_day >= $1
       and exists (select 1 from promise_line as line
         where line.promise_id = promise.id and way = 'collect' and handed < quantity)
     order by collect_day, collect_time limit 1000`,
    [from],
  );
}
