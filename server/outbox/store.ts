import type { JournalSale } from '../../contract/journal.ts';
import type { Reader, Writer } from '../db/database.ts';

export interface OutboxMessage {
  id: number;
  kind: 'mail' | 'text';
  recipient: string;
  subject: string;
  tries: number;
  askedAt: string;
  saleId: string | null;
  storedValueId: number | null;
  shiftId: number | null;
  promiseId: string | null;
  accountId: number | null;
  customerId: number | null;
  purchaseOrderId: number | null;
  /** Of an account: its statement for some days, or a reminder; of a shift: that its day is told of. */
  about: AboutAccount | AboutDay | null;
}

/** What the day was like that the last drawer was closed on. */
export interface AboutDay {
  kind: 'day';
  day: string;
}

export type AboutAccount =
  | { kind: 'statement'; from: string; to: string; buyer: number | null }
  | { kind: 'reminder'; step: number; day: string };

/** What is due to be sent, the longest waiting first. */
export function dueMessages(sql: Reader, now: Date, most: number): Promise<OutboxMessage[]> {
  return sql.query<OutboxMessage>(
    `select id, kind, recipient, subject, tries, asked_at as "askedAt", sale_id as "saleId",
            stored_value_id as "storedValueId", shift_id as "shiftId", promise_id as "promiseId",
            account_id as "accountId", customer_id as "customerId", purchase_order_id as "purchaseOrderId", about
     from outbox where state = 'waiting' and coalesce(try_at, asked_at) <= $2
       order by coalesce(try_at, asked_at), id limit $1`,
    [most, now.toISOString()],
  );
}

/** When the next message is due, if any waits. */
export async function nextTry(sql: Reader): Promise<string | null> {
  const [first] = await sql.query<{ at: string | null }>(
    "select min(coalesce(try_at, asked_at)) as at from outbox where state = 'waiting'",
  );
  return first?.at ?? null;
}

export async function addMessage(
  sql: Reader,
  message: Omit<
    OutboxMessage,
    | 'id'
    | 'shiftId'
    | 'promiseId'
    | 'accountId'
    | 'customerId'
    | 'purchaseOrderId'
    | 'about'
    | 'tries'
    | 'askedAt'
  > & {
    shiftId?: number;
    promiseId?: string;
    accountId?: number;
    customerId?: number;
    purchaseOrderId?: number;
    about?: AboutAccount | AboutDay;
    at: Date;
  },
): Promise<void> {
  await sql.query(
    `insert into outbox (kind, recipient, subject, sale_id, stored_value_id, asked_at, shift_id, promise_id,
       account_id, about, customer_id, purchase_order_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
    [
      message.kind,
      message.recipient,
      message.subject,
      message.saleId,
      message.storedValueId,
      message.at.toISOString(),
      message.shiftId ?? null,
      message.promiseId ?? null,
      message.accountId ?? null,
      message.about ? JSON.stringify(message.about) : null,
      message.customerId ?? null,
      message.purchaseOrderId ?? null,
    ],
  );
}

export async function markSent(sql: Reader, id: number, at: Date): Promise<void> {
  await sql.query(`update outbox set state = 'sent', trouble = '', sent_at = $2 where id = $1`, [
    id,
    at.toISOString(),
  ]);
}

/** It could not be sent: it waits for another try, or is given up where there is none. */
export async function noteTrouble(
  sql: Reader,
  id: number,
  trouble: string,
  tryAt: Date | undefined,
): Promise<void> {
  await sql.query(
    `update outbox set trouble = $2, tries = tries + 1, try_at = $3::timestamptz,
            state = case when $3::timestamptz is null then 'failed' else 'waiting' end
     where id = $1`,
    [id, trouble.slice(0, 300), tryAt?.toISOString() ?? null],
  );
}

/** What waits is tried now: whoever changed the sender, say, need not wait for it. */
export async function tryAllNow(sql: Writer, now: Date): Promise<void> {
  await sql.query("update outbox set try_at = $1 where state = 'waiting' and try_at > $1", [
    now.toISOString(),
  ]);
}

/** What went out, or is to go out, for a sale. */
export function messagesOf(sql: Reader, saleId: string): Promise<JournalSale['sent']> {
  return sql.query<JournalSale['sent'][number]>(
    `select kind, recipient, state, trouble, coalesce(sent_at, asked_at) as at
     from outbox where sale_id = $1 order by id`,
    [saleId],
  );
}
