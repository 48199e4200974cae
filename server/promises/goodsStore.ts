import type { Exemption } from '../../core/counter/basket.ts';
import type { Money } from '../../core/money.ts';
import type { Quantity } from '../../core/quantity.ts';
import type { PlanPart } from '../../core/promises/plan.ts';
import type { PromiseLine } from '../../core/promises/promised.ts';
import { promiseNumber, type PromiseKind } from '../../core/promises/promiseNumber.ts';
import { one, type Writer } from '../db/database.ts';
import { putHandover, type NewHandover } from './orderStore.ts';

/** A promise as it is made. */
export interface NewPromise {
  id: string;
  /** The basket that it is made of. */
  basketId: string;
  kind: PromiseKind;
  customerId: number;
  placeId: number;
  /** Where and by whom it was made; nothing where it was placed elsewhere. */
  tillId: number | null;
  staffId: number | null;
  at: Date;
  taxMode: string;
  total: Money;
  fee: Money;
  note: string;
  coming: boolean;
  plan: readonly PlanPart[];
  lines: readonly (PromiseLine & { stocked: boolean })[];
  /** Words under which it is found, beside its number. */
  words: readonly string[];
  /** Of an order: so much is to be paid before it is picked. */
  firstPayment?: Money;
  /** Where it was placed, if at no till. */
  channelId?: number;
  partnerId?: number;
  handover?: NewHandover;
  /** It was promised without tax. */
  exemption?: Pick<Exemption, 'reason' | 'certificate'> | undefined;
}

/** Stores a promise and sets its goods aside. @returns its number, counted per kind */
export async function addPromise(sql: Writer, made: NewPromise): Promise<number> {
  const { count } = one(
    await sql.query<{ count: number }>(
      'update promise_kind set next_number = next_number + 1 where name = $1 returning next_number - 1 as count',
      [made.kind],
    ),
  );
  const number = promiseNumber(made.kind, count);
  await sql.query(
    `insert into promise (id, kind, number, customer_id, place_id, till_id, staff_id, made_at, tax_mode, total, fee,
      note, units, rest, coming, words, first_payment, channel_id, partner_id, relay_state,
       exempt_reason, exempt_certificate)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $10, $14, $15, $16, $17, $18, $19, $20, $21)`,
    [
      made.id,
      made.kind,
      count,
      made.customerId,
      made.placeId,
      made.tillId,
      made.staffId,
      made.at.toISOString(),
      made.taxMode,
      made.total,
      made.fee,
      made.note,
      made.lines.reduce((all, { quantity }) => all + quantity, 0),
      made.coming,
      ['', number.toLowerCase(), String(count), ...new Set(made.words)].join(' '),
      made.firstPayment ?? 0,
      made.channelId ?? null,
      made.partnerId ?? null,
      made.kind === 'relay' ? 'waiting' : null,
      made.exemption?.reason ?? null,
      made.exemption?.certificate ?? '',
    ],
  );
  await sql.query(
    `insert into promise_part (promise_id, position, day, amount)
     select $1, position, (part->>'day')::date, (part->>'amount')::bigint
     from jsonb_array_elements($2::jsonb) with ordinality as listed (part, position)`,
    [made.id, JSON.stringify(made.plan)],
  );
  await addGoods(sql, made.id, made.basketId, made.lines);
  if (made.handover) await putHandover(sql, made.id, made.handover);
  if (!made.coming) await setAside(sql, made.id, true);
  await sumPromise(sql, made.id);
  return count;
}

/** Adds the goods of a basket to the lines of a promise. */
async function addGoods(
  sql: Writer,
  id: string,
  basketId: string,
  lines: readonly (PromiseLine & { stocked: boolean })[],
): Promise<void> {
  await sql.query('insert into promise_basket (basket_id, promise_id) values ($1, $2)', [basketId, id]);
  await sql.query(
    `insert into promise_line (promise_id, position, item_id, number, name, unit, decimals, tax_category_id, quantity,
       unit_price, regular, net, tax, records, serial, note, gift, age_checked, bundle, stocked, way, place_id,
       picked, short)
     select $1, position, "itemId", number, name, unit, decimals, "taxCategoryId", quantity, "unitPrice", regular,
       net, tax, records, serial, note, gift, "ageChecked", bundle, stocked, "order"->>'way',
       coalesce(("order"->>'placeId')::integer, (select place_id from promise where id = $1)),
       coalesce(("order"->>'picked')::bigint, 0), coalesce(("order"->>'short')::bigint, 0)
     from jsonb_to_recordset($2) as line (position smallint, "itemId" integer, number text, name text, unit text,
       decimals smallint, "taxCategoryId" integer, quantity bigint, "unitPrice" bigint, regular bigint, net bigint,
       tax bigint, records jsonb, serial text, note text, gift boolean, "ageChecked" boolean, bundle text,
       stocked boolean,
       "order" jsonb)`,
    [id, JSON.stringify(lines)],
  );
}

/** Goods that are promised beside those that were, and what they come to with tax. */
export interface MoreGoods {
  id: string;
  basketId: string;
  lines: readonly (PromiseLine & { stocked: boolean })[];
  total: Money;
  /** When it is due. */
  day: string;
  words: readonly string[];
}

/** Adds goods to a promise, with a part of the plan of their own. */
export async function addMoreGoods(sql: Writer, more: MoreGoods): Promise<void> {
  await addGoods(sql, more.id, more.basketId, more.lines);
  await sql.query(
    `update promise set total = total + $2, units = units + $3, words = words || ' ' || $4 where id = $1`,
    [more.id, more.total, more.lines.reduce((all, { quantity }) => all + quantity, 0), more.words.join(' ')],
  );
  await sql.query(
    `insert into promise_part (promise_id, position, day, amount)
     select $1, coalesce(max(position), 0) + 1, $2::date, $3::bigint from promise_part where promise_id = $1
     having $3::bigint > 0`,
    [more.id, more.day, more.total],
  );
  await sumPromise(sql, more.id);
}

/** Takes a line out of a promise of which nothing has left. What it came to is due no more. */
export async function takeLineOut(sql: Writer, id: string, position: number): Promise<void> {
  await sql.query(
    `with gone as (delete from promise_line where promise_id = $1 and position = $2 and handed = 0
                   returning net + tax as amount, quantity)
     update promise set total = total - gone.amount, units = units - gone.quantity from gone where id = $1`,
    [id, position],
  );
}

/** Sets the goods of a promise that have not left aside, or lets them go. */
export async function setAside(sql: Writer, id: string, wanted: boolean): Promise<void> {
  await sql.query('select set_aside($1, $2)', [id, wanted]);
}

/** Brings the kept figures of a promise up to date. */
export async function sumPromise(sql: Writer, id: string): Promise<void> {
  await sql.query('select sum_promise($1)', [id]);
}

/** What of some items is at a place and not promised, and serial numbers that are gone or promised. */
export interface Available {
  itemId: number;
  placeId: number;
  available: Quantity;
  taken: string[];
}

/** The same for items at places; it stands until the transaction ends. */
export async function lockAvailable(
  sql: Writer,
  wanted: readonly { itemId: number; placeId: number }[],
): Promise<Available[]> {
  const asked = [wanted.map(({ itemId }) => itemId), wanted.map(({ placeId }) => placeId)];
  await sql.query(
    `select 1 from stock_level join (select distinct * from unnest($1::integer[], $2::integer[])
       as asked (item_id, place_id)) as asked using (item_id, place_id)
     order by item_id, place_id for update of stock_level`,
    asked,
  );
  return sql.query(
    `select item_id as "itemId", place_id as "placeId", coalesce(quantity - set_aside, 0)::bigint as available,
            coalesce((select json_agg(serial) from serial where serial.item_id = asked.item_id
              and (promise_id is not null or sale_id is not null)), '[]'::json) as taken
     from (select distinct * from unnest($1::integer[], $2::integer[]) as asked (item_id, place_id)) as asked
     left join stock_level using (item_id, place_id)`,
    asked,
  );
}
