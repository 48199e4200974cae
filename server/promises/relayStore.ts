import type {
  PartnerSettings,
  RelayAlert,
  RelayMessageView,
  RelayTryView,
  RelayView,
  RelayWanted,
} from '../../contract/relay.ts';
import type { Money } from '../../core/money.ts';
import { promiseNumber, type PromiseKind } from '../../core/promises/promiseNumber.ts';
import type { Partner, RelaySaying, RelayState } from '../../core/promises/relay.ts';
import type { ShopSaying } from '../../devices/relayHub/driver.ts';
import { iso } from '../clock.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

const PARTNER = `id, code, name, city, phone, postcodes, timezone, cut_offs as "cutOffs", takes, rate, active`;

export function listPartners(sql: Reader): Promise<Partner[]> {
  return sql.query(`select ${PARTNER} from partner order by name`);
}

export async function findPartner(sql: Reader, id: number): Promise<Partner | undefined> {
  const [row] = await sql.query<Partner>(`select ${PARTNER} from partner where id = $1`, [id]);
  return row;
}

const values = ({
  code,
  name,
  city,
  phone,
  postcodes,
  timezone,
  cutOffs,
  takes,
  rate,
  active,
}: PartnerSettings) => [
  code,
  name,
  city,
  phone,
  postcodes,
  timezone,
  JSON.stringify(cutOffs),
  takes,
  rate,
  active,
];

export async function addPartner(sql: Writer, partner: PartnerSettings): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    `insert into partner (code, name, city, phone, postcodes, timezone, cut_offs, takes, rate, active)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) returning id`,
    values(partner),
  );
  return one(rows).id;
}

/** @returns whether there is such a partner */
export async function putPartner(sql: Writer, id: number, partner: PartnerSettings): Promise<boolean> {
  const rows = await sql.query(
    `update partner set code = $1, name = $2, city = $3, phone = $4, postcodes = $5, timezone = $6, cut_offs = $7,
       takes = $8, rate = $9, active = $10 where id = $11 returning 1`,
    [...values(partner), id],
  );
  return rows.length > 0;
}

/** Stores what a relay has beside what all promises have. */
export async function addRelay(sql: Writer, promiseId: string, wanted: RelayWanted): Promise<void> {
  const { recipient, street, postcode, city, phone, wishes, card, goods } = wanted;
  await sql.query(
    `insert into relay (promise_id, recipient, street, postcode, city, phone, wishes, card, goods)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [promiseId, recipient, street, postcode, city, phone, wishes, card, goods],
  );
}

/** Stores that it is to be sent, before anybody is asked; a try before it is taken back. */
export async function addTry(
  sql: Writer,
  made: {
    id: string;
    promiseId: string;
    partnerId: number;
    day: string;
    part: Money;
    staffId: number;
    at: Date;
  },
): Promise<void> {
  const { id, promiseId, partnerId, day, part, staffId, at } = made;
  await withdrawRelay(sql, promiseId, staffId, at);
  await sql.query(
    `insert into relay_try (id, promise_id, nth, partner_id, day, part, staff_id, made_at)
     select $1, $2, coalesce(max(nth), 0) + 1, $3, $4, $5, $6, $7 from relay_try where promise_id = $2`,
    [id, promiseId, partnerId, day, part, staffId, at.toISOString()],
  );
  await sql.query(`update promise set relay_state = 'waiting', next_due = $2 where id = $1`, [
    promiseId,
    day,
  ]);
}

/** What a relay has, with all that was said. */
export async function relayOf(sql: Reader, promiseId: string): Promise<RelayView | null> {
  const [row] = await sql.query<Omit<RelayView, 'tries' | 'partner' | 'day'>>(
    `select recipient, street, postcode, city, phone, wishes, card, goods,
            (select relay_state from promise where id = promise_id) as state
     from relay where promise_id = $1`,
    [promiseId],
  );
  if (!row) return null;
  const tries = await sql.query<Omit<RelayTryView, 'messages'>>(
    `select relay_try.id, partner.name as partner, partner_id as "partnerId", day::text as day, part, state,
            made_at as "madeAt", staff.name as by, trouble
     from relay_try join partner on partner.id = partner_id join staff on staff.id = staff_id
     where promise_id = $1 order by nth desc`,
    [promiseId],
  );
  const messages = await messagesAbout(sql, promiseId);
  const [last] = tries;
  return {
    ...row,
    partner: last?.partner ?? '',
    day: last?.day ?? '',
    tries: tries.map((one) => ({
      ...one,
      madeAt: iso(one.madeAt),
      messages: messages.filter(({ tryId }) => tryId === one.id).map(({ tryId: _of, ...message }) => message),
    })),
  };
}

/** What was said both ways of a relay, or of an order that a partner has passed on, in order. */
export async function messagesAbout(
  sql: Reader,
  promiseId: string,
): Promise<(RelayMessageView & { tryId: string | null })[]> {
  const rows = await sql.query<RelayMessageView & { tryId: string | null }>(
    `select message.id, try_id as "tryId", kind, words, at, staff.name as by, hub_id is null as ours,
            hub_id is not null or sent_at is not null as sent
     from relay_message as message left join staff on staff.id = message.staff_id
     where try_id in (select id from relay_try where promise_id = $1) or order_id = $1 order by message.id`,
    [promiseId],
  );
  return rows.map((row) => ({ ...row, at: iso(row.at) }));
}

/** A try, and the relay that it belongs to. */
export interface TryRow {
  id: string;
  promiseId: string;
  partnerId: number;
  part: Money;
  state: RelayState | 'withdrawn';
}

export async function findTry(sql: Reader, id: string): Promise<TryRow | undefined> {
  const [row] = await sql.query<TryRow>(
    `select id, promise_id as "promiseId", partner_id as "partnerId", part, state from relay_try where id = $1`,
    [id],
  );
  return row;
}

/** A relay that waits to go out: it is paid, and not given up. */
export interface WaitingRelay {
  id: string;
  promiseId: string;
  count: number;
  partner: string;
  day: string;
  part: Money;
  madeAt: string;
  tries: number;
  recipient: string;
  street: string;
  postcode: string;
  city: string;
  phone: string;
  wishes: string;
  card: string;
  goods: string;
}

const OUT = `from relay_try join promise on promise.id = promise_id and cancelled_at is null and paid >= first_payment
  join relay using (promise_id) join partner on partner.id = relay_try.partner_id where relay_try.state = 'waiting'`;

/** Relays that the hub is to be given now. */
export function dueRelays(sql: Reader, now: Date): Promise<WaitingRelay[]> {
  return sql.query(
    `select relay_try.id, promise_id as "promiseId", promise.number as count, partner.code as partner, day::text as day,
            part, relay_try.made_at as "madeAt", tries, recipient, relay.street, relay.postcode, relay.city,
            relay.phone, wishes, card, goods
     ${OUT} and coalesce(try_at, relay_try.made_at) <= $1 order by relay_try.made_at limit 20`,
    [now.toISOString()],
  );
}

/** Something said that the hub has not got. */
export interface WaitingReply {
  id: number;
  /** What the hub calls the order that it is about. */
  reference: string;
  kind: ShopSaying;
  words: string;
  at: string;
  tries: number;
}

export function dueReplies(sql: Reader, now: Date): Promise<WaitingReply[]> {
  return sql.query(
    `select id, coalesce(try_id::text, (select reference from partner_order where promise_id = order_id)) as reference,
            kind, words, at, tries from relay_message
     where hub_id is null and sent_at is null and coalesce(try_at, at) <= $1 order by id limit 20`,
    [now.toISOString()],
  );
}

/** When the next relay, or the next thing said, is to go out. */
export async function nextRelay(sql: Reader): Promise<string | null> {
  return one(
    await sql.query<{ at: string | null }>(
      `select least((select min(coalesce(try_at, relay_try.made_at)) ${OUT}),
         (select min(coalesce(try_at, at)) from relay_message where hub_id is null and sent_at is null)) as at`,
    ),
  ).at;
}

/** The hub is asked from now on: it may have it, whatever it answers. @returns whether it is still wanted */
export async function noteHubAsked(sql: Writer, id: string): Promise<boolean> {
  const rows = await sql.query(
    `update relay_try set tries = tries + 1 from promise
     where relay_try.id = $1 and state = 'waiting' and promise.id = promise_id and cancelled_at is null
       and paid >= first_payment returning 1`,
    [id],
  );
  return rows.length > 0;
}

export async function noteRelayTrouble(sql: Writer, id: string, trouble: string, tryAt: Date): Promise<void> {
  await sql.query('update relay_try set trouble = $2, try_at = $3 where id = $1', [
    id,
    trouble.slice(0, 300),
    tryAt.toISOString(),
  ]);
}

export async function noteReplyTrouble(sql: Writer, id: number, tryAt: Date): Promise<void> {
  await sql.query('update relay_message set tries = tries + 1, try_at = $2 where id = $1', [
    id,
    tryAt.toISOString(),
  ]);
}

export async function markReplySent(sql: Writer, id: number, at: Date): Promise<void> {
  await sql.query('update relay_message set sent_at = $2 where id = $1', [id, at.toISOString()]);
}

/** The last try stands so from now on. */
export async function putRelayState(
  sql: Writer,
  tryId: string,
  state: RelayState | 'withdrawn',
  at: Date,
): Promise<void> {
  await sql.query('select put_relay_state($1, $2, $3)', [tryId, state, at.toISOString()]);
}

/** A relay that is given up is taken back from its partner. */
export async function withdrawRelay(
  sql: Writer,
  promiseId: string,
  staffId: number | null,
  at: Date,
): Promise<void> {
  await sql.query('select withdraw_relay($1, $2, $3)', [promiseId, staffId, at.toISOString()]);
}

/** Something is said to the partner; it goes out with the next run. */
export async function addReply(
  sql: Writer,
  said: { tryId: string; words: string; staffId: number; at: Date },
): Promise<void> {
  await sql.query(
    `insert into relay_message (try_id, kind, words, at, staff_id) values ($1, 'reply', $2, $3, $4)`,
    [said.tryId, said.words, said.at.toISOString(), said.staffId],
  );
}

/**
 * What a partner has said is kept as it came.
 * @param heard of which try of a relay, or of which order that it has passed on
 * @returns whether it is new
 */
export async function addHeard(
  sql: Writer,
  heard: { hubId: string; kind: RelaySaying; words: string; at: Date } & (
    { tryId: string } | { orderId: string }
  ),
): Promise<boolean> {
  const rows = await sql.query(
    `insert into relay_message (hub_id, try_id, order_id, kind, words, at) values ($1, $2, $3, $4, $5, $6)
     on conflict (hub_id) do nothing returning 1`,
    [
      heard.hubId,
      'tryId' in heard ? heard.tryId : null,
      'orderId' in heard ? heard.orderId : null,
      heard.kind,
      heard.words,
      heard.at.toISOString(),
    ],
  );
  return rows.length > 0;
}

/** What partners have said and nobody has looked at, the first one first. */
export async function openAlerts(sql: Reader): Promise<RelayAlert[]> {
  const rows = await sql.query<Omit<RelayAlert, 'number'> & { count: number; of: PromiseKind }>(
    `select message.id, promise.id as "promiseId", promise.kind as of, promise.number as count, partner.name as partner,
            message.kind, message.words, message.at
     from relay_message as message left join relay_try on relay_try.id = try_id
     join promise on promise.id = coalesce(relay_try.promise_id, order_id)
     join partner on partner.id = coalesce(relay_try.partner_id, promise.partner_id)
     where hub_id is not null and closed_at is null order by message.id limit 50`,
  );
  return rows.map(({ of, count, at, ...row }) => ({
    ...row,
    number: promiseNumber(of, count),
    at: iso(at),
  }));
}

/** Somebody has opened an alert, or put it away for all. @returns whether nobody had before */
export async function closeAlert(
  sql: Writer,
  id: number,
  { opened, staffId, at }: { opened: boolean; staffId: number; at: Date },
): Promise<boolean> {
  const rows = await sql.query(
    `update relay_message set opened = $2, closed_by = $3, closed_at = $4
     where id = $1 and hub_id is not null and closed_at is null returning 1`,
    [id, opened, staffId, at.toISOString()],
  );
  return rows.length > 0;
}
