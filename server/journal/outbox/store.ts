import type { Reader } from '../../db/database.ts';

export interface OutboxMessage {
  id: number;
  kind: 'mail' | 'text';
  recipient: string;
  subject: string;
  saleId: string | null;
  storedValueId: number | null;
  shiftId: number | null;
}

export function waitingMessages(sql: Reader, most: number): Promise<OutboxMessage[]> {
  return sql.query<OutboxMessage>(
    `select id, kind, recipient, subject, sale_id as "saleId", stored_value_id as "storedValueId", shift_id as "shiftId"
     from outbox where state = 'waiting' order by trouble <> '', id limit $1`,
    [most],
  );
}

export async function addMessage(
  sql: Reader,
  message: Omit<OutboxMessage, 'id' | 'shiftId'> & { shiftId?: number; at: Date },
): Promise<void> {
  await sql.query(
    `insert into outbox (kind, recipient, subject, sale_id, stored_value_id, asked_at, shift_id)
     values ($1, $2, $3, $4, $5, $6, $7)`,
    [
      message.kind,
      message.recipient,
      message.subject,
      message.saleId,
      message.storedValueId,
      message.at.toISOString(),
      message.shiftId ?? null,
    ],
  );
}

export async function markSent(sql: Reader, id: number, at: Date): Promise<void> {
  await sql.query(`update outbox set state = 'sent', trouble = '', sent_at = $2 where id = $1`, [
    id,
    at.toISOString(),
  ]);
}

export async function noteTrouble(sql: Reader, id: number, trouble: string): Promise<void> {
  await sql.query('update outbox set trouble = $2 where id = $1', [id, trouble.slice(0, 300)]);
}

/** What went out, or is to go out, for a sale. */
export function messagesOf(
  sql: Reader,
  saleId: string,
): Promise<{ kind: 'mail' | 'text'; recipient: string; state: string; trouble: string }[]> {
  return sql.query('select kind, recipient, state, trouble from outbox where sale_id = $1 order by id', [
    saleId,
  ]);
}
