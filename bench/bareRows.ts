import { v4 as newId } from 'uuid';
import type { Writer } from '../server/db/database.ts';

/** What a sale of the first till comes to, for the rows that every sale writes. */
export interface BareSale {
  id: string;
  receipt: number;
  at: string;
  /** Money of the goods, in minor units. */
  total: number;
}

/** The till's turn, and the sale itself. */
export async function bareSale(sql: Writer, { id, receipt, at, total }: BareSale): Promise<void> {
  await sql.query('update till set next_receipt = next_receipt where id = 1');
  await sql.query(
    `insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, hour, currency,
      tax_mode, regular, reductions, tax, total)
     values ($1, 1, 1, 1, $2, ($3::timestamptz)::date, $3, 12, 'USD', 'on-top', $4, 0, 0, $4)`,
    [id, receipt, at, total],
  );
}

/** That the payment of a basket is done. */
export async function barePayment(sql: Writer, { id, at, total }: BareSale): Promise<void> {
  await sql.query(
    `insert into payment (basket_id, till_id, staff_id, due, state, began_at) values ($1, 1, 1, $2, 'finished', $3)
     on conflict (basket_id) do update set state = excluded.state`,
    [id, total, at],
  );
}

/** The key of a request that was carried out. */
export async function bareKey(sql: Writer, at: string): Promise<void> {
  await sql.query(
    `insert into idempotency (key, route, request_hash, at)
     values ($1, 'POST /api/counter/sales', 'lTxAYwWzCTNXub1mv9EzdlFob1qwl+mzIs8CqSnhlck=', $2)`,
    [newId(), at],
  );
}

/** What happened, in the books. @param entries account, subject and amount */
export async function barePosting(
  sql: Writer,
  { id, at }: BareSale,
  entries: readonly (readonly [account: string, subject: string, amount: number])[],
): Promise<void> {
  const [event] = await sql.query<{ id: number }>(
    `insert into ledger_event (kind, at, staff_id, till_id, sale_id, shift_id) values ('sale', $2, 1, 1, $1, 1)
     returning id`,
    [id, at],
  );
  await sql.query(
    `insert into ledger_entry (event_id, position, account, subject, amount)
     select $1, position, account, subject, amount
     from unnest($2::text[], $3::text[], $4::bigint[]) with ordinality as entry (account, subject, amount, position)`,
    [
      event?.id ?? 0,
      entries.map(([account]) => account),
      entries.map(([, subject]) => subject),
      entries.map(([, , amount]) => amount),
    ],
  );
}

/** What is kept of a day, for each kind and subject that the sale counts for. */
export async function bareFigures(
  sql: Writer,
  { at, total }: BareSale,
  figures: readonly (readonly [kind: string, subject: string])[],
): Promise<void> {
  await sql.query(
    `insert into day_figure (kind, day, till_id, hour, subject, count, quantity, amount, more)
     select kind, ($1::timestamptz)::date, 1, 12, subject, 1, 1000, $2, 0
     from unnest($3::text[], $4::text[]) as counted (kind, subject)
     on conflict (kind, day, till_id, hour, subject) do update set count = day_figure.count + excluded.count,
       quantity = day_figure.quantity + excluded.quantity, amount = day_figure.amount + excluded.amount,
       more = day_figure.more + excluded.more`,
    [at, total, figures.map(([kind]) => kind), figures.map(([, subject]) => subject)],
  );
}

/** A receipt: kept as printed, so that no printer works beside the floor. */
export async function bareReceipt(sql: Writer, { id, at }: BareSale): Promise<void> {
  await sql.query(
    `insert into print_job (till_id, kind, sale_id, open_drawer, asked_at, state)
     values (1, 'receipt', $1, true, $2, 'printed')`,
    [id, at],
  );
}
