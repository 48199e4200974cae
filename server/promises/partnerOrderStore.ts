import type { PartnerOrderView } from '../../contract/relay.ts';
import type { RelaySaying } from '../../core/promises/relay.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { messagesAbout } from './relayStore.ts';

/** An order that a partner has passed to the shop, beside what all orders have. */
export interface NewPartnerOrder {
  promiseId: string;
  partnerId: number;
  /** What the hub calls it, and the partner. */
  reference: string;
  number: string;
  day: string;
  goods: string;
  card: string;
}

export async function addPartnerOrder(sql: Writer, order: NewPartnerOrder): Promise<void> {
  const { promiseId, partnerId, reference, number, day, goods, card } = order;
  await sql.query(
    `insert into partner_order (promise_id, partner_id, reference, number, day, goods, card)
     values ($1, $2, $3, $4, $5, $6, $7)`,
    [promiseId, partnerId, reference, number, day, goods, card],
  );
}

/** The order that the hub calls so, if it is here. @returns its id */
export async function partnerOrderOf(sql: Reader, reference: string): Promise<string | undefined> {
  const [row] = await sql.query<{ id: string }>(
    'select promise_id as id from partner_order where reference = $1',
    [reference],
  );
  return row?.id;
}

/** The latest order that a partner calls so. @returns its id */
export async function partnerOrderNumbered(sql: Reader, number: string): Promise<string | undefined> {
  const [row] = await sql.query<{ id: string }>(
    `select promise_id as id from partner_order join promise on promise.id = promise_id
     where upper(partner_order.number) = upper($1) order by made_at desc limit 1`,
    [number],
  );
  return row?.id;
}

export async function markAccepted(sql: Writer, promiseId: string, at: Date): Promise<void> {
  await sql.query('update partner_order set accepted_at = $2 where promise_id = $1', [
    promiseId,
    at.toISOString(),
  ]);
}

/** What a partner has asked for, with all that was said. */
export async function partnerOrderView(sql: Reader, promiseId: string): Promise<PartnerOrderView> {
  const order = one(
    await sql.query<Omit<PartnerOrderView, 'messages'>>(
      `select partner.name as partner, day::text as day, goods, card
       from partner_order join partner on partner.id = partner_id where promise_id = $1`,
      [promiseId],
    ),
  );
  const messages = (await messagesAbout(sql, promiseId)).map(({ tryId: _none, ...message }) => message);
  return { ...order, messages };
}

/** The partner who has passed an order on is told something of it; nothing is said of other promises. */
export async function tellPartner(
  sql: Writer,
  said: { promiseId: string; kind: RelaySaying; words: string; staffId: number | null; at: Date },
): Promise<void> {
  await sql.query('select tell_partner($1, $2, $3, $4, $5)', [
    said.promiseId,
    said.kind,
    said.words,
    said.at.toISOString(),
    said.staffId,
  ]);
}

/** That a partner asks is no alert any more: it was answered, or taken back. */
export async function closeAsking(
  sql: Writer,
  promiseId: string,
  { staffId, at }: { staffId: number | null; at: Date },
): Promise<void> {
  await sql.query(
    `update relay_message set opened = true, closed_by = $2, closed_at = $3
     where order_id = $1 and kind = 'order' and closed_at is null`,
    [promiseId, staffId, at.toISOString()],
  );
}

/** As whom a partner orders here, if it ever has; its row is locked. */
export async function partnerCustomer(sql: Writer, partnerId: number): Promise<number | null> {
  const [known] = await sql.query<{ id: number | null }>(
    'select customer_id as id from partner where id = $1 for update',
    [partnerId],
  );
  return known?.id ?? null;
}

export async function putPartnerCustomer(sql: Writer, partnerId: number, customerId: number): Promise<void> {
  await sql.query('update partner set customer_id = $2 where id = $1', [partnerId, customerId]);
}
