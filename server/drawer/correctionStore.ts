import type { Money } from '../../core/money.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** Means of payment that stand for cards on other terminals. */
export async function notedCardTypes(sql: Reader): Promise<number[]> {
  const rows = await sql.query<{ id: number }>("select id from tender_type where kind = 'noted-card'");
  return rows.map(({ id }) => id);
}

export interface TenderToCorrect {
  tillId: number;
  shiftId: number;
  shiftOpen: boolean;
  kind: string;
  typeId: number;
  amount: Money;
  voided: 'begun' | 'done' | null;
  corrected: boolean;
  refunded: boolean;
}

/** The till that rang a sale up. */
export async function tillOfSale(sql: Reader, saleId: string): Promise<number | undefined> {
  const [sale] = await sql.query<{ tillId: number }>('select till_id as "tillId" from sale where id = $1', [
    saleId,
  ]);
  return sale?.tillId;
}

export async function tenderToCorrect(
  sql: Reader,
  saleId: string,
  position: number,
): Promise<TenderToCorrect | undefined> {
  const [row] = await sql.query<TenderToCorrect>(
    `select sale.till_id as "tillId", sale.shift_id as "shiftId", shift.state = 'open' as "shiftOpen", tender.kind,
            coalesce(tender.type_id, (select id from tender_type where kind = 'cash')) as "typeId", tender.amount,
            (select state from sale_void where sale_id = sale.id) as voided,
            exists (select 1 from tender as back where back.refunds_sale = sale.id
              and back.refunds_position = tender.position)
              as refunded,
            exists (select 1 from tender_correction as done
              where done.sale_id = sale.id and done.position = tender.position)
              as corrected
     from tender join sale on sale.id = tender.sale_id join shift on shift.id = sale.shift_id
     where tender.sale_id = $1 and tender.position = $2`,
    [saleId, position],
  );
  return row;
}

/** The means of payment that a corrected payment becomes. */
export async function correctionType(sql: Reader, to: 'cash' | 'card'): Promise<number | undefined> {
  const [row] = await sql.query<{ id: number }>(
    'select id from tender_type where kind = $1 order by active desc, position limit 1',
    [to === 'cash' ? 'cash' : 'noted-card'],
  );
  return row?.id;
}

export async function addCorrection(
  sql: Writer,
  correction: {
    id: string;
    at: Date;
    shiftId: number;
    saleId: string;
    position: number;
    from: number;
    to: number;
    amount: Money;
    reason: string;
    staffId: number;
  },
): Promise<void> {
  await sql.query(
    `insert into tender_correction (id, at, shift_id, sale_id, position, from_type, to_type, amount, reason, staff_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
    [
      correction.id,
      correction.at.toISOString(),
      correction.shiftId,
      correction.saleId,
      correction.position,
      correction.from,
      correction.to,
      correction.amount,
      correction.reason,
      correction.staffId,
    ],
  );
  await sql.query('select count_correction($1)', [correction.id]);
}

/** How much of a closed shift's difference was explained since. */
export async function explainedOf(sql: Reader, shiftId: number): Promise<Money> {
  return one(
    await sql.query<{ amount: number }>(
      'select coalesce(sum(amount), 0)::bigint as amount from variance_note where shift_id = $1',
      [shiftId],
    ),
  ).amount;
}

export async function addVarianceNote(
  sql: Writer,
  note: { id: string; shiftId: number; at: Date; amount: Money; reason: string; staffId: number },
): Promise<void> {
  await sql.query(
    'insert into variance_note (id, shift_id, at, amount, reason, staff_id) values ($1, $2, $3, $4, $5, $6)',
    [note.id, note.shiftId, note.at.toISOString(), note.amount, note.reason, note.staffId],
  );
}

/** Notes that somebody looked at what a count is compared with. */
export async function noteCompared(
  sql: Writer,
  compared: { staffId: number; tillId: number; shiftId: number; counted: Money; at: Date },
): Promise<void> {
  await sql.query(
    "insert into audit (at, staff_id, till_id, what, details) values ($1, $2, $3, 'drawer-compared', $4)",
    [
      compared.at.toISOString(),
      compared.staffId,
      compared.tillId,
      JSON.stringify({ shiftId: compared.shiftId, counted: compared.counted }),
    ],
  );
}

/** How often a shift's count was compared before it was closed, and what was counted each time. */
export async function comparisonsOf(sql: Reader, shiftId: number): Promise<Money[]> {
  const rows = await sql.query<{ counted: number }>(
    `select (details->>'counted')::bigint as counted from audit
     where what = 'drawer-compared' and (details->>'shiftId')::bigint = $1 order by id`,
    [shiftId],
  );
  // Comparing the same count again says nothing new.
  return rows.map(({ counted }) => counted).filter((counted, at, all) => counted !== all[at - 1]);
}

/** What was said later about a closed shift's difference. */
export function varianceNotes(
  sql: Reader,
  shiftId: number,
): Promise<{ at: string; amount: Money; reason: string; by: string }[]> {
  return sql.query(
    `select at, amount, reason, staff.name as by from variance_note join staff on staff.id = staff_id
     where shift_id = $1 order by at`,
    [shiftId],
  );
}
