import type { ChannelFacts, ChannelSettings } from '../../contract/channels.ts';
import type { ChannelMessageView } from '../../contract/orders.ts';
import type { Money } from '../../core/money.ts';
import type { OrderPay } from '../../core/promises/order.ts';
import type { PromiseState } from '../../core/promises/state.ts';
import type { Rate } from '../../core/rate.ts';
import { iso } from '../clock.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** A place where people order, and what it asks them to pay first. */
export interface Channel {
  id: number;
  name: string;
  prefix: string;
  pay: OrderPay;
  leastDeposit: Rate;
  active: boolean;
}

const CHANNEL = `channel.id, channel.name, prefix, pay, least_deposit as "leastDeposit", channel.active`;

/** The channel that sends with a key. @param hash its SHA-256, in hexadecimal */
export async function channelOfKey(sql: Reader, hash: string): Promise<Channel | undefined> {
  const [row] = await sql.query<Channel>(`select ${CHANNEL} from channel where key_hash = $1`, [hash]);
  return row;
}

/** All channels, with what they owe and what they have not been told. */
export function listChannels(sql: Reader): Promise<ChannelFacts[]> {
  return sql.query(
    `select ${CHANNEL}, key_end as "keyEnd", address,
            coalesce((select balance from account_balance
              where account = 'channel-clearing' and subject = 'channel:' || channel.id), 0)::bigint as owed,
            coalesce(waiting.untold, 0)::integer as untold, coalesce(waiting.trouble, '') as trouble
     from channel left join (
       select channel_order.channel_id, count(*) as untold, max(nullif(trouble, '')) as trouble
       from channel_message join channel_order using (promise_id) where told_at is null group by 1) as waiting
       on waiting.channel_id = channel.id
     order by channel.name`,
  );
}

export async function addChannel(
  sql: Writer,
  { name, prefix, pay, leastDeposit, active }: ChannelSettings,
  key: { hash: string; end: string },
): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    `insert into channel (name, prefix, pay, least_deposit, active, key_hash, key_end)
     values ($1, $2, $3, $4, $5, $6, $7) returning id`,
    [name, prefix, pay, leastDeposit, active, key.hash, key.end],
  );
  return one(rows).id;
}

/** Whether a name or a beginning of numbers is another channel's. */
export async function channelTaken(
  sql: Reader,
  { name, prefix }: Pick<ChannelSettings, 'name' | 'prefix'>,
  except: number,
): Promise<{ name: boolean; prefix: boolean }> {
  return one(
    await sql.query<{ name: boolean; prefix: boolean }>(
      `select coalesce(bool_or(lower(name) = lower($1)), false) as name, coalesce(bool_or(prefix = $2), false) as prefix
       from channel where id <> $3`,
      [name, prefix, except],
    ),
  );
}

/** @returns whether there is such a channel */
export async function putChannel(
  sql: Writer,
  id: number,
  { name, prefix, pay, leastDeposit, active }: ChannelSettings,
): Promise<boolean> {
  const rows = await sql.query(
    `update channel set name = $2, prefix = $3, pay = $4, least_deposit = $5, active = $6 where id = $1 returning 1`,
    [id, name, prefix, pay, leastDeposit, active],
  );
  return rows.length > 0;
}

/** Whether orders were placed there: what its numbers begin with stays then. */
export async function hasOrders(sql: Reader, id: number): Promise<boolean> {
  return (await sql.query('select 1 from channel_order where channel_id = $1 limit 1', [id])).length > 0;
}

/** The channel sends with another key from now on. @returns whether there is such a channel */
export async function putChannelKey(
  sql: Writer,
  id: number,
  key: { hash: string; end: string },
): Promise<boolean> {
  const rows = await sql.query('update channel set key_hash = $2, key_end = $3 where id = $1 returning 1', [
    id,
    key.hash,
    key.end,
  ]);
  return rows.length > 0;
}

/** The channel is told elsewhere from now on, and at once what it has not taken. */
export async function putChannelAddress(sql: Writer, id: number, address: string): Promise<void> {
  await sql.query('update channel set address = $2 where id = $1', [id, address]);
  await sql.query(
    `update channel_message set try_at = null where told_at is null
       and promise_id in (select promise_id from channel_order where channel_id = $1)`,
    [id],
  );
}

/** Orders of a channel take turns until the transaction ends. */
export async function lockChannel(sql: Writer, id: number): Promise<void> {
  await sql.query('select 1 from channel where id = $1 for update', [id]);
}

/** An order that a channel has sent before. */
export interface KnownOrder {
  promiseId: string;
  channelId: number;
  requestHash: string;
}

export async function channelOrder(sql: Reader, reference: string): Promise<KnownOrder | undefined> {
  const [row] = await sql.query<KnownOrder>(
    `select promise_id as "promiseId", channel_id as "channelId", request_hash as "requestHash"
     from channel_order where reference = $1`,
    [reference],
  );
  return row;
}

export async function addChannelOrder(
  sql: Writer,
  order: { promiseId: string; channelId: number; reference: string; requestHash: string },
): Promise<void> {
  await sql.query(
    'insert into channel_order (promise_id, channel_id, reference, request_hash) values ($1, $2, $3, $4)',
    [order.promiseId, order.channelId, order.reference, order.requestHash],
  );
}

/** Money of an order moves where it was ordered: what was paid there, or what goes back there below zero. */
export async function moveThere(
  sql: Writer,
  promiseId: string,
  amount: Money,
  reference: string,
  at: Date,
): Promise<void> {
  await sql.query('select move_there($1, $2, $3, $4)', [promiseId, amount, reference, at.toISOString()]);
}

/** Whether a payment that a channel calls so is in the books. @returns what it was, if it is */
export async function channelPayment(
  sql: Reader,
  promiseId: string,
  reference: string,
): Promise<Money | undefined> {
  const [row] = await sql.query<{ amount: Money }>(
    "select amount from promise_move where promise_id = $1 and channel_id is not null and kind = 'deposit' and reference = $2",
    [promiseId, reference],
  );
  return row?.amount;
}

/** What of the payments at the channel has gone back. */
export async function givenBackThere(sql: Reader, promiseId: string): Promise<Money> {
  return one(
    await sql.query<{ amount: Money }>(
      `select coalesce(-sum(amount), 0)::bigint as amount from promise_move
       where promise_id = $1 and channel_id is not null and kind = 'back'`,
      [promiseId],
    ),
  ).amount;
}

/** Whether money was taken at a till for a basket with goods of a promise, and the sale is not finished. */
export async function isBeingPaid(sql: Reader, promiseId: string): Promise<boolean> {
  const rows = await sql.query(
    `select 1 from basket join payment on payment.basket_id = basket.id and payment.state = 'open'
     join payment_tender as tender on tender.basket_id = payment.basket_id
     join tender_state on tender_state.name = tender.state and holds
     where exists (select 1 from jsonb_array_elements(content->'lines') as line
       where line->'promised'->>'promiseId' = $1) limit 1`,
    [promiseId],
  );
  return rows.length > 0;
}

export async function anyChanged(sql: Reader): Promise<boolean> {
  return (await sql.query('select 1 from channel_order where changed limit 1')).length > 0;
}

/** Orders of which something changed since they were looked at, locked. */
export async function changedOrders(sql: Writer, most: number): Promise<string[]> {
  const rows = await sql.query<{ id: string }>(
    `select promise_id as id from channel_order where changed order by promise_id limit $1 for update`,
    [most],
  );
  return rows.map(({ id }) => id);
}

/** What a channel was told last of an order, or is about to be. */
export async function lastMessage(
  sql: Reader,
  promiseId: string,
): Promise<{ state: PromiseState; givenBack: Money } | undefined> {
  const [row] = await sql.query<{ state: PromiseState; givenBack: Money }>(
    `select state, given_back as "givenBack" from channel_message where promise_id = $1 order by id desc limit 1`,
    [promiseId],
  );
  return row;
}

export async function addChannelMessage(
  sql: Writer,
  promiseId: string,
  { state, givenBack }: { state: PromiseState; givenBack: Money },
  at: Date,
): Promise<void> {
  await sql.query('insert into channel_message (promise_id, state, given_back, at) values ($1, $2, $3, $4)', [
    promiseId,
    state,
    givenBack,
    at.toISOString(),
  ]);
}

export async function markLooked(sql: Writer, promiseId: string): Promise<void> {
  await sql.query('update channel_order set changed = false where promise_id = $1', [promiseId]);
}

/** A change of state that a channel has not taken. */
export interface WaitingMessage {
  id: number;
  promiseId: string;
  state: PromiseState;
  givenBack: Money;
  at: string;
  tries: number;
  reference: string;
  address: string;
  keyHash: string;
}

/** Of each order that a channel has not been told of, the change that comes first; channels without an address wait. */
const FIRST_WAITING = `from (
    select distinct on (promise_id) * from channel_message where told_at is null order by promise_id, id) as message
  join channel_order using (promise_id) join channel on channel.id = channel_order.channel_id and address <> ''`;

/** Changes that channels are to be told of now. */
export function dueMessages(sql: Reader, now: Date): Promise<WaitingMessage[]> {
  return sql.query(
    `select message.id, promise_id as "promiseId", state, given_back as "givenBack", at, tries, reference, address,
            key_hash as "keyHash"
     ${FIRST_WAITING} where coalesce(try_at, at) <= $1 order by coalesce(try_at, at), message.id limit 20`,
    [now.toISOString()],
  );
}

/** When the next one is due, if any waits. */
export async function nextMessage(sql: Reader): Promise<string | null> {
  return one(
    await sql.query<{ at: string | null }>(`select min(coalesce(try_at, at)) as at ${FIRST_WAITING}`),
  ).at;
}

export async function markChannelTold(sql: Writer, id: number, at: Date): Promise<void> {
  await sql.query("update channel_message set told_at = $2, trouble = '' where id = $1", [
    id,
    at.toISOString(),
  ]);
}

export async function noteChannelTrouble(
  sql: Writer,
  id: number,
  trouble: string,
  tryAt: Date,
): Promise<void> {
  await sql.query('update channel_message set trouble = $2, tries = tries + 1, try_at = $3 where id = $1', [
    id,
    trouble.slice(0, 300),
    tryAt.toISOString(),
  ]);
}

/** What a channel was told of an order, the latest first. */
export async function messagesOf(sql: Reader, promiseId: string): Promise<ChannelMessageView[]> {
  const rows = await sql.query<ChannelMessageView>(
    `select state, at, told_at as "toldAt", tries, trouble from channel_message where promise_id = $1 order by id desc`,
    [promiseId],
  );
  return rows.map(({ at, toldAt, ...row }) => ({ ...row, at: iso(at), toldAt: toldAt && iso(toldAt) }));
}

/** Goods that can be ordered elsewhere: by the piece, at a price, and nothing has to be asked about them. */
export interface ChannelItem {
  itemId: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  taxCategoryId: number;
  price: Money;
  stocked: boolean;
  weight: number | null;
  /** At all places together. */
  available: number;
}

/** @param numbers of these items; nothing is all */
export function channelItems(sql: Reader, numbers: readonly string[] | null): Promise<ChannelItem[]> {
  return sql.query(
    `select item.id as "itemId", item.number, item.name, item.unit, item.decimals,
      item.tax_category_id as "taxCategoryId", item.price, item.stocked, item.weight,
            coalesce((select sum(greatest(0, quantity - set_aside)) from stock_level
              where item_id = item.id), 0)::bigint as available
     from item where active and price > 0 and kind = 'goods' and not serials and min_age is null and asks_note = ''
       and decimals = 0 and ($1::text[] is null or number = any ($1)) order by item.name, item.id`,
    [numbers],
  );
}

/** What a channel has paid out. @returns whether it is new */
export async function addChannelSettlement(
  sql: Writer,
  settled: { id: string; channelId: number; gross: Money; fees: Money; staffId: number; at: Date },
): Promise<boolean> {
  const { id, channelId, gross, fees, staffId, at } = settled;
  const rows = await sql.query(
    `insert into channel_settlement (id, channel_id, gross, fees, at, staff_id) values ($1, $2, $3, $4, $5, $6)
     on conflict do nothing returning 1`,
    [id, channelId, gross, fees, at.toISOString(), staffId],
  );
  return rows.length > 0;
}
