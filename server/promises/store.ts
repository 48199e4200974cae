import type { PromiseEvent, PromiseQuery } from '../../contract/promises.ts';
import type { RelayInList } from '../../contract/relay.ts';
import type { PromiseInBasket } from '../../core/counter/promisedLines.ts';
import type { Money } from '../../core/money.ts';
import type { Collecting, Shipping } from '../../core/promises/order.ts';
import type { LayawayRules, PlanPart } from '../../core/promises/plan.ts';
import type { MoneyItem, PromiseLine } from '../../core/promises/promised.ts';
import { promiseNumber, type PromiseKind } from '../../core/promises/promiseNumber.ts';
import type { PromiseFacts } from '../../core/promises/state.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { wordPatterns } from '../db/words.ts';

const LINES = `coalesce((select json_agg(json_build_object(
    'position', line.position, 'itemId', line.item_id, 'number', line.number, 'name', line.name, 'unit', line.unit,
    'decimals', line.decimals, 'taxCategoryId', line.tax_category_id, 'quantity', line.quantity, 'handed', line.handed,
    'unitPrice', line.unit_price, 'regular', line.regular, 'net', line.net, 'tax', line.tax, 'records', line.records,
    'serial', line.serial, 'note', line.note, 'gift', line.gift, 'ageChecked', line.age_checked, 'bundle', line.bundle,
    'now', case when (select (layaway_rules->>'lower')::boolean from shop)
      then (select price from item where item.id = line.item_id) end,
    'order', case when line.way is not null then json_build_object('way', line.way, 'placeId', line.place_id,
      'place', (select name from place where place.id = line.place_id), 'picked', line.picked, 'short', line.short,
      'sent', line.sent) end)
    order by line.position) from promise_line as line where line.promise_id = promise.id), '[]'::json)`;

const PLAN = `coalesce((select json_agg(json_build_object('day', day, 'amount', amount) order by position)
    from promise_part where promise_id = promise.id), '[]'::json)`;

/** Whether a partner waits for an answer to what it has passed on. */
const ASKED = `exists (select 1 from partner_order where promise_id = promise.id and accepted_at is null)`;

/** Which promises a basket of a till at a place touches, as they are now. @returns those that there are, by their id */
export async function promisesInBasket(
  sql: Reader,
  ids: readonly string[],
  atPlace: number,
): Promise<Map<string, PromiseInBasket>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.query<
    Omit<PromiseInBasket, 'number' | 'cancelled' | 'atPlace'> & {
      kind: PromiseKind;
      count: number;
      cancelledAt: string | null;
    }
  >(
    `select id, kind, number as count, cancelled_at as "cancelledAt", held, rest, fee, paid,
      first_payment as "firstPayment",
            case when relay_state is not null then json_build_object('state', relay_state) end as relay,
            case when num_nonnulls(channel_id, partner_id) = 0 then 0 else held_there(id) end as "heldThere",
            partner_id is not null and ${ASKED} as asked, ${LINES} as lines,
            coalesce((select json_agg(distinct sale_id) from promise_move where promise_id = promise.id
              and kind = 'deposit' and sale_id is not null and not exists (select 1 from sale_void
                where sale_void.sale_id = promise_move.sale_id)), '[]'::json) as "depositSales"
     from promise where id = any ($1::uuid[])`,
    [ids],
  );
  return new Map(
    rows.map(({ kind, count, cancelledAt, ...row }) => [
      row.id,
      { ...row, number: promiseNumber(kind, count), cancelled: cancelledAt !== null, atPlace },
    ]),
  );
}

/** The sales with which deposits were paid for goods that were handed over in some sales. */
export async function depositSalesBehind(sql: Reader, saleIds: readonly string[]): Promise<string[]> {
  const rows = await sql.query<{ id: string }>(
    `select distinct move.sale_id as id from sale_line as line join promise_move as move using (promise_id)
     where line.sale_id = any ($1::uuid[]) and line.promise_part = 'goods' and move.kind = 'deposit'
       and move.sale_id is not null
       and not exists (select 1 from sale_void where sale_void.sale_id = move.sale_id)`,
    [saleIds],
  );
  return rows.map(({ id }) => id);
}

/** A promise as it is stored, with everything that is asked of it together. */
export interface PromiseRowFacts extends PromiseFacts {
  id: string;
  kind: PromiseKind;
  count: number;
  customerId: number;
  customer: string;
  mail: string;
  phone: string;
  placeId: number;
  place: string;
  madeAt: string;
  madeBy: string;
  staffId: number | null;
  /** Where it was placed, if at no till, and what it is called there. */
  placedAt: { name: string; reference: string } | null;
  /** That is a channel, or a partner who has passed it on. */
  atChannel: boolean;
  fromPartner: boolean;
  /** What of the money that is held was paid there, and would go back there. */
  heldThere: Money;
  total: Money;
  fee: Money;
  note: string;
  /** How far it is in the shop's own words. */
  stage: string;
  exemption: { reason: string; certificate: string } | null;
  goods: string;
  plan: PlanPart[];
  /** When its next part, its collection or its delivery is due, `YYYY-MM-DD`. */
  nextDue: string | null;
  collect: Collecting | null;
  ship: Shipping | null;
  relay: (RelayInList & { firstPayment: Money }) | null;
}

// What few promises have is looked up, not joined: planning joins of so many tables takes longer than reading a page.
const ROW = `promise.id, promise.kind, promise.number as count, promise.customer_id as "customerId",
  customer.name as customer,
  customer.mail, customer.phone, promise.place_id as "placeId", place.name as place, promise.made_at as "madeAt",
  coalesce((select name from staff where id = promise.staff_id), (select name from channel
    where id = promise.channel_id),
    (select name from partner where id = promise.partner_id)) as "madeBy", promise.staff_id as "staffId",
    promise.total, promise.fee, promise.note, promise.stage,
  case when exempt_reason is not null then json_build_object('reason', exempt_reason, 'certificate',
    exempt_certificate) end as exemption, promise.cancelled_at as "cancelledAt", promise.units,
  promise.handed, promise.rest, promise.held, promise.paid, promise.coming, promise.arrived_at as "arrivedAt",
  promise.told_at as "toldAt", promise.next_due::text as "nextDue",
  case when promise.channel_id is not null then (select json_build_object('name', channel.name, 'reference', reference)
      from channel_order join channel on channel.id = channel_order.channel_id where promise_id = promise.id)
    when promise.partner_id is not null then (select json_build_object('name', partner.name, 'reference',
      partner_order.number)
      from partner_order join partner on partner.id = partner_id where promise_id = promise.id)
    end as "placedAt",
  case when num_nonnulls(promise.channel_id, promise.partner_id) = 0 then 0
    else held_there(promise.id) end as "heldThere",
  promise.channel_id is not null as "atChannel", promise.partner_id is not null as "fromPartner", ${PLAN} as plan,
  (select string_agg(name, ', ' order by position) from promise_line where promise_id = promise.id) as goods,
  case when promise.kind = 'relay' then (select json_build_object('state', relay_state,
      'firstPayment', first_payment, 'partner', partner.name, 'day', day)
    from relay_try join partner on partner.id = partner_id where promise_id = promise.id
      order by nth desc limit 1) end as relay,
  case when promise.kind = 'order' then json_build_object('asked', promise.partner_id is not null
      and ${ASKED}, 'firstPayment', first_payment, 'unready', unready, 'short', short,
    'begun', begun, 'ships', ships, 'shipsOnly', not exists (select 1 from order_handover
      where promise_id = promise.id and collect_place is not null)) end as "order",
  case when promise.kind = 'order' then (select json_build_object('placeId', collect_place, 'day', collect_day,
    'place', collect.name, 'time', to_char(collect_time, 'HH24:MI'), 'collector', collector)
    from order_handover join place as collect on collect.id = collect_place
      where promise_id = promise.id) end as collect,
  case when promise.kind = 'order' then (select json_build_object('recipient', recipient, 'street', street,
    'postcode', postcode, 'city', city, 'phone', phone, 'wishes', wishes, 'gift', gift, 'zone', zone, 'weight', weight)
    from order_handover where promise_id = promise.id and recipient <> '') end as ship
  from promise join customer on customer.id = promise.customer_id join place on place.id = promise.place_id`;

const OPEN = 'promise.cancelled_at is null and promise.handed < promise.units';
/**
 * What wants attention on a day, where the row itself is asked: the same as `wantsAttention`, which a test compares.
 */
const ATTENTION = '(promise.attends or coalesce(promise.next_due < $1::date, false))';

/** Whether something is still to be picked, or sent on, at a place. */
const toPickAt = (place: string): string => `unready > 0 and exists (select 1 from promise_line as line
  where line.promise_id = promise.id and line.place_id = ${place} and line.way is not null
    and line.handed < line.quantity
    and (line.picked < line.quantity or (line.way = 'collect' and not line.sent
      and line.place_id <> (select collect_place from order_handover where promise_id = line.promise_id))))`;

/** @param given puts a value among those of the statement */
function placedAt(wanted: string | undefined, given: (value: number) => string): string[] {
  if (!wanted) return [];
  const [kind, id] = wanted.split(':');
  return [`${kind === 'partner' ? 'partner_id' : 'channel_id'} = ${given(Number(id))}`];
}

export const PAGE = 50;

/** A page of promises, how many fit in all, and how many want attention today. */
export interface PromiseList {
  rows: PromiseRowFacts[];
  count: number;
  attention: number;
  /** Where orders are placed beside the tills: channels, and partners who have passed one on. */
  elsewhere: { value: string; name: string }[];
}

/**
 * Promises of which each word that is looked for begins a word: what waits before what is over, what wants attention
 * first, then by the next due day.
 * @param today `YYYY-MM-DD`
 */
export async function promiseList(
  sql: Reader,
  query: Pick<PromiseQuery, 'show' | 'page' | 'customer' | 'kind' | 'place' | 'placedAt'> & {
    from?: string;
    to?: string;
    words: readonly string[];
    /** In which days are counted. */
    timezone?: string;
  },
  today: string,
): Promise<PromiseList> {
  const values: (string | number | string[])[] = [today];
  const zone = query.timezone ?? 'UTC';
  const given = (value: string | number | string[]): string => `$${values.push(value)}`;
  // Only what is asked for is asked of each row.
  const fits = [
    ...(query.words.length > 0 ? [`words like all (${given(wordPatterns(query.words))}::text[])`] : []),
    ...(query.customer === undefined ? [] : [`customer_id = any (one_person(${given(query.customer)}))`]),
    ...(query.kind === undefined ? [] : [`kind = ${given(query.kind)}`]),
    ...placedAt(query.placedAt, given),
    ...(query.from ? [`made_at >= (${given(query.from)}::date)::timestamp at time zone ${given(zone)}`] : []),
    ...(query.to ? [`made_at < (${given(query.to)}::date + 1)::timestamp at time zone ${given(zone)}`] : []),
    ...(query.place === undefined ? [] : [toPickAt(given(query.place))]),
  ];
  const all = query.show === 'all';
  const listed = query.show === 'attention' ? 'fits and attention' : 'fits';
  const { ids, ...counts } = one(
    await sql.query<{ ids: string[] } & Omit<PromiseList, 'rows'>>(
      // What waits is little enough to be kept, and words are looked for once; years of all are quicker asked twice.
      `with listed as ${query.words.length > 0 || !all ? '' : 'not '}materialized (
         select id, next_due, made_at, ${all ? `${OPEN} and ${ATTENTION}` : ATTENTION} as attention,
                ${all ? OPEN : 'true'} as open, ${fits.join(' and ') || 'true'} as fits
         from promise ${all ? '' : `where ${OPEN}`})
       select count(*) filter (where ${listed})::integer as count,
         count(*) filter (where attention)::integer as attention,
              array(select id from listed where ${listed}
                    order by open desc, attention desc, next_due nulls first, made_at desc
                    limit ${PAGE} offset ${given(query.page * PAGE)}) as ids,
              coalesce((select json_agg(json_build_object('value', value, 'name', name) order by value, name) from (
                select 'channel:' || id as value, name from channel
                union all select 'partner:' || id, name from partner where customer_id is not null) as placed),
                '[]'::json) as elsewhere
       from listed`,
      values,
    ),
  );
  const rows = await sql.query<PromiseRowFacts>(
    `select ${ROW} join unnest($1::uuid[]) with ordinality as listed (id, nth) on listed.id = promise.id order by nth`,
    [ids],
  );
  return { rows, ...counts };
}

export async function findPromise(sql: Reader, id: string): Promise<PromiseRowFacts | undefined> {
  const [row] = await sql.query<PromiseRowFacts>(`select ${ROW} where promise.id = $1`, [id]);
  return row;
}

export async function promiseByNumber(
  sql: Reader,
  kind: PromiseKind,
  count: number,
): Promise<PromiseRowFacts | undefined> {
  const [row] = await sql.query<PromiseRowFacts>(
    `select ${ROW} where promise.kind = $1 and promise.number = $2`,
    [kind, count],
  );
  return row;
}

export async function promiseLines(sql: Reader, id: string): Promise<PromiseLine[]> {
  return one(
    await sql.query<{ lines: PromiseLine[] }>(`select ${LINES} as lines from promise where id = $1`, [id]),
  ).lines;
}

/** What happened to a promise, the latest first. */
export function promiseEvents(sql: Reader, id: string): Promise<PromiseEvent[]> {
  return sql.query<PromiseEvent>(
    `select event.at, coalesce(staff.name, channel.name, origin.name, '') as by, what, event.words,
      event.sale_id as "saleId", event.amount,
            (select receipt_number(till.number, sale.number) from sale join till on till.id = sale.till_id
             where sale.id = event.sale_id) as receipt
     from promise_event as event left join staff on staff.id = event.staff_id
     left join promise on promise.id = promise_id left join channel on channel.id = promise.channel_id
     left join partner as origin on origin.id = promise.partner_id
     where promise_id = $1 order by event.at desc, event.id desc`,
    [id],
  );
}

export async function addEvent(
  sql: Writer,
  id: string,
  event: { at: Date; staffId: number | null; what: string; words: string },
): Promise<void> {
  await sql.query(
    'insert into promise_event (promise_id, at, staff_id, what, words) values ($1, $2, $3, $4, $5)',
    [id, event.at.toISOString(), event.staffId, event.what, event.words],
  );
}

export async function markArrived(sql: Writer, id: string, at: Date): Promise<void> {
  await sql.query('update promise set arrived_at = $2 where id = $1', [id, at.toISOString()]);
}

export async function putStage(sql: Writer, id: string, stage: string): Promise<void> {
  await sql.query('update promise set stage = $2 where id = $1', [id, stage]);
}

export async function markTold(sql: Writer, id: string, at: Date): Promise<void> {
  await sql.query('update promise set told_at = $2 where id = $1', [id, at.toISOString()]);
}

export async function markCancelled(sql: Writer, id: string, at: Date): Promise<void> {
  await sql.query('update promise set cancelled_at = $2 where id = $1', [id, at.toISOString()]);
}

/** What the shop asks for, and what deposits and fees are rung up as. */
export async function layawaySetup(
  sql: Reader,
): Promise<{ rules: LayawayRules; depositItem: MoneyItem; feeItem: MoneyItem }> {
  const item = (column: string) =>
    `(select json_build_object('itemId', id, 'number', number, 'unit', unit, 'taxCategoryId', tax_category_id)
      from item where id = ${column})`;
  return one(
    await sql.query(
      `select '{"lower": false, "stages": []}'::jsonb || layaway_rules as rules,
        ${item('deposit_item_id')} as "depositItem", ${item('fee_item_id')} as "feeItem" from shop`,
    ),
  );
}

/** @param feeTaxCategoryId how the fee is taxed that is kept of a deposit */
export async function putLayawayRules(
  sql: Writer,
  { feeTaxCategoryId, ...rules }: LayawayRules & { feeTaxCategoryId: number },
): Promise<void> {
  await sql.query('update shop set layaway_rules = $1', [JSON.stringify(rules)]);
  await sql.query('update item set tax_category_id = $1 where id = (select fee_item_id from shop)', [
    feeTaxCategoryId,
  ]);
}

/** From now on deposits, fees and shipping are rung up as these items, which are not sold by themselves. */
export async function setMoneyItems(
  sql: Writer,
  { depositId, feeId, shippingId }: { depositId: number; feeId: number; shippingId: number },
): Promise<void> {
  const ids = [depositId, feeId, shippingId];
  await sql.query('update shop set deposit_item_id = $1, fee_item_id = $2, shipping_item_id = $3', ids);
  await sql.query('update item set active = false where id in ($1, $2, $3)', ids);
}

/** The promises that a sale touched, and how each of them stood when it was finished. */
export function promisesOfSale(
  sql: Reader,
  saleId: string,
): Promise<(PromiseRowFacts & { paidThen: Money; leftThen: Money })[]> {
  const upTo = `id <= coalesce((select max(id) from promise_move where promise_id = promise.id and sale_id = $1),
    (select max(id) from promise_move where promise_id = promise.id and at <= (select finished_at from sale
      where id = $1)))`;
  return sql.query(
    `select ${ROW.replace(
      'promise.id,',
      `promise.id,
       (select coalesce(sum(amount), 0)::bigint from promise_move where promise_id = promise.id
          and (kind = 'deposit' or (kind = 'void' and amount < 0)) and ${upTo}) as "paidThen",
       greatest(0, (select sum(net + tax - round((net + tax)::numeric * coalesce(gone, 0) / quantity))::bigint
          from promise_line left join (
            select promise_position as position, sum(quantity) as gone from sale_line join sale on sale.id = sale_id
            where promise_id = promise.id and promise_part = 'goods'
              and finished_at <= (select finished_at from sale where id = $1)
              and not exists (select 1 from sale_void where sale_void.sale_id = sale_line.sale_id)
            group by promise_position) as left_then using (position)
          where promise_line.promise_id = promise.id)
        - (select coalesce(sum(amount), 0)::bigint from promise_move
          where promise_id = promise.id and ${upTo})) as "leftThen",`,
    )}
     where promise.id in (select promise_id from sale_line where sale_id = $1) order by promise.kind, promise.number`,
    [saleId],
  );
}
