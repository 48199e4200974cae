import { lastFour } from '../../../core/giftCards/storedValue.ts';
import type { SaleFacts } from '../../../core/journal/afterTheSale.ts';
import { one, type Reader, type Writer } from '../../db/database.ts';
import { takeLocks } from '../../db/locks.ts';

export interface VoidableSale extends SaleFacts {
  id: string;
  shiftId: number;
  total: number;
}

const FACTS = `sale.id, sale.shift_id as "shiftId", sale.total, till.number as "tillNumber",
  sale.till_id = $2 as "ownTill", shift.state = 'open' as "shiftOpen",
  (select count(distinct back.sale_id)::integer from sale_line as back where back.return_sale = sale.id
     and not exists (select 1 from sale_void where sale_id = back.sale_id and state = 'done')) as returns,
  (select state from sale_void where sale_id = sale.id) as voided,
  (select count(*)::integer from tender_correction where sale_id = sale.id) as corrections,
  refund_under_way(sale.id, null) as refunding
  from sale join shift on shift.id = sale.shift_id join till on till.id = sale.till_id where sale.id = $1`;

/** What may become of a sale is judged by this. @param tillId where it is asked */
export async function saleFacts(
  sql: Reader,
  saleId: string,
  tillId: number,
): Promise<VoidableSale | undefined> {
  const [row] = await sql.query<VoidableSale>(`select ${FACTS}`, [saleId, tillId]);
  return row;
}

/** The same with till, payment and sale locked, so that what is judged by it stands. */
export async function lockSale(
  sql: Writer,
  saleId: string,
  tillId: number,
): Promise<VoidableSale | undefined> {
  const [sale] = await sql.query<{ tillId: number }>('select till_id as "tillId" from sale where id = $1', [
    saleId,
  ]);
  if (!sale) return undefined;
  await takeLocks(sql, { tills: [sale.tillId], payments: [saleId], sales: [saleId] });
  return saleFacts(sql, saleId, tillId);
}

export async function addVoid(
  sql: Writer,
  begun: {
    saleId: string;
    reason: string;
    tillId: number;
    shiftId: number;
    staffId: number;
    countersignId: string | null;
    at: Date;
  },
): Promise<void> {
  await sql.query(
    `insert into sale_void (sale_id, state, reason, till_id, shift_id, staff_id, countersign_id, began_at)
     values ($1, 'begun', $2, $3, $4, $5, $6, $7)`,
    [
      begun.saleId,
      begun.reason,
      begun.tillId,
      begun.shiftId,
      begun.staffId,
      begun.countersignId,
      begun.at.toISOString(),
    ],
  );
}

export interface VoidRow {
  saleId: string;
  state: 'begun' | 'done';
  staffId: number;
  tillId: number;
}

export async function findVoid(sql: Reader, saleId: string): Promise<VoidRow | undefined> {
  const [row] = await sql.query<VoidRow>(
    `select sale_id as "saleId", state, staff_id as "staffId", till_id as "tillId" from sale_void where sale_id = $1`,
    [saleId],
  );
  return row;
}

export async function openVoidIds(sql: Reader): Promise<string[]> {
  const rows = await sql.query<{ id: string }>(`select sale_id as id from sale_void where state = 'begun'`);
  return rows.map(({ id }) => id);
}

/** Card payments of a sale that have not gone back: neither undone nor refunded for its void. */
export function cardsToTakeBack(
  sql: Reader,
  saleId: string,
): Promise<{ id: string; position: number; state: string; refund: boolean; settled: boolean }[]> {
  return sql.query(
    `select payment_tender.id, tender.position, payment_tender.state, payment_tender.refund,
            exists (select 1 from settlement_entry where tender_id = payment_tender.id) as settled
     from tender join payment_tender on payment_tender.id = tender.payment_tender_id
     where tender.sale_id = $1 and tender.kind = 'card' and payment_tender.state <> 'undone'
       and not exists (select 1 from payment_tender as back where back.basket_id = $1 and back.refund
                         and back.refunds_sale = $1 and back.refunds_position = tender.position
                         and back.state in (select name from tender_state where holds))
     order by tender.position`,
    [saleId],
  );
}

/** Whether every card payment of a sale has gone back for certain. */
export async function allTakenBack(sql: Reader, saleId: string): Promise<boolean> {
  const rows = await sql.query<{ open: number }>(
    `select count(*)::integer as open
     from tender join payment_tender on payment_tender.id = tender.payment_tender_id
     where tender.sale_id = $1 and tender.kind = 'card' and payment_tender.state <> 'undone'
       and not exists (select 1 from payment_tender as back where back.basket_id = $1 and back.refund
                         and back.refunds_sale = $1 and back.refunds_position = tender.position
                         and back.state = 'approved')`,
    [saleId],
  );
  return one(rows).open === 0;
}

/**
 * Gift cards that the sale sold are frozen while its card payments go back. @returns the number of one that was used
 */
export async function freezeSoldValue(sql: Writer, saleId: string): Promise<string | null> {
  const sold = await sql.query<{ id: number; number: string; usable: boolean }>(
    `select value.id, value.number, value.state = 'active' and value.balance >= sum(move.amount) as usable
     from stored_value_move as move join stored_value as value on value.id = stored_value_id
     where move.sale_id = $1 and move.kind in ('sold', 'topped up') group by value.id`,
    [saleId],
  );
  const used = sold.find(({ usable }) => !usable);
  if (used) return `The card ·· ${lastFour(used.number)}`;
  await sql.query(`update stored_value set state = 'frozen' where id = any ($1::integer[])`, [
    sold.map(({ id }) => id),
  ]);
  return null;
}

export async function finishVoid(sql: Writer, saleId: string, staffId: number, at: Date): Promise<void> {
  await sql.query('select void_sale($1, $2, $3)', [saleId, staffId, at.toISOString()]);
}

export interface VoidFacts {
  at: string;
  tillNumber: number;
  saleNumber: number;
  total: number;
  reason: string;
  by: string;
  approvedBy: string | null;
  tenders: { name: string; amount: number }[];
}

export async function voidFacts(sql: Reader, saleId: string): Promise<VoidFacts | undefined> {
  const [row] = await sql.query<VoidFacts>(
    `select coalesce(done_at, began_at) as at, till.number as "tillNumber", sale.number as "saleNumber",
            (sale.total + sale.donation + sale.cash_rounding)::bigint as total, sale_void.reason, staff.name as by,
            granter.name as "approvedBy",
            (select coalesce(json_agg(json_build_object('name', name, 'amount', amount + tip)
              order by position), '[]'::json)
             from tender where sale_id = sale.id) as tenders
     from sale_void join sale on sale.id = sale_id join till on till.id = sale.till_id
     join staff on staff.id = sale_void.staff_id
     left join countersign on countersign.id = countersign_id left join staff as granter on granter.id = granted_by
     where sale_id = $1`,
    [saleId],
  );
  return row;
}
