import type { CashMove, DeskTill, OpenShift } from '../../contract/drawer.ts';
import type { CashMoveKind } from '../../core/drawer/cashMove.ts';
import type { BagPlan } from '../../core/drawer/bagPlan.ts';
import type { Pieces } from '../../core/drawer/countSheet.ts';
import type { TenderCount, ShiftTender, ShiftReduction } from '../../core/drawer/shiftReport.ts';
import type { CashMovements } from '../../core/drawer/expectedCash.ts';
import type { Opening } from '../../core/drawer/opening.ts';
import type { Money } from '../../core/money.ts';
import type { TaxAmount } from '../../core/pricing/tax.ts';
import { iso } from '../clock.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

export async function openShiftOf(sql: Reader, tillId: number): Promise<OpenShift | null> {
  const [row] = await sql.query<OpenShift>(
    `select shift.id, shift.number, opened_at as "openedAt", staff.name as "openedBy", opening_float as float,
            count_sheet as "countSheet", count_revision as "countRevision"
     from shift join staff on staff.id = shift.opened_by
     where till_id = $1 and state = 'open'`,
    [tillId],
  );
  return row ? { ...row, openedAt: iso(row.openedAt) } : null;
}

export async function addShift(
  sql: Writer,
  shift: { tillId: number; staffId: number; pieces: Pieces; opening: Opening; at: Date },
): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    `with numbered as (
       update till set next_shift = next_shift + 1 where id = $1 returning next_shift - 1 as number
     )
     insert into shift (till_id, number, state, opened_at, opened_by, opening_pieces, opening_float, opening_variance,
       opening_from_safe)
     select $1, number, 'open', $2, $3, $4, $5, $6, $7 from numbered
     returning id`,
    [
      shift.tillId,
      shift.at.toISOString(),
      shift.staffId,
      JSON.stringify(shift.pieces),
      shift.opening.counted,
      shift.opening.variance,
      shift.opening.fromSafe,
    ],
  );
  return one(rows).id;
}

/**
 * Stores the count sheet as far as it is filled in. @returns the new revision, or `undefined` when it was changed
 * elsewhere
 */
export async function putCountSheet(
  sql: Writer,
  shiftId: number,
  pieces: Pieces,
  seen: number,
): Promise<number | undefined> {
  const [row] = await sql.query<{ revision: number }>(
    `update shift set count_sheet = $2, count_revision = count_revision + 1
     where id = $1 and count_revision = $3 returning count_revision as revision`,
    [shiftId, JSON.stringify(pieces), seen],
  );
  return row?.revision;
}

export interface ShiftSales {
  count: number;
  total: Money;
  first: number | null;
  last: number | null;
}

export async function salesOf(sql: Reader, shiftId: number): Promise<ShiftSales> {
  const rows = await sql.query<ShiftSales>(
    `select count(*)::integer as count, coalesce(sum(total), 0)::bigint as total, min(number) as first,
      max(number) as last
     from standing_sale as sale where shift_id = $1`,
    [shiftId],
  );
  return one(rows);
}

const MOVED_AS: Record<string, string> = { in: 'cashIn', out: 'cashOut', drop: 'drops' };
const movedCash = (kind: string) =>
  `(select coalesce(sum(amount), 0)::bigint from cash_move where shift_id = shift.id and kind = '${kind}')
     as "${MOVED_AS[kind] ?? kind}"`;

/**
 * Cash that moved since the shift was opened, from its events. What was voided in the shift is as if it had not been.
 */
export async function movementsOf(sql: Reader, shiftId: number): Promise<CashMovements> {
  const rows = await sql.query<CashMovements>(
    `select shift.opening_float as float,
            coalesce(sum(tender.handed) filter (where tender.kind = 'cash' and tender.amount > 0), 0)::bigint
              + (select coalesce(sum(case when type.kind = 'cash' then -correction.amount
                else correction.amount end), 0)
                 from tender_correction as correction join tender_type as type on type.id = from_type
                 join tender_type as target on target.id = to_type
                 where correction.shift_id = shift.id and (type.kind = 'cash'
                   or target.kind = 'cash'))::bigint as "cashTaken",
            coalesce(sum(tender.handed - tender.amount), 0)::bigint as "changeGiven",
            coalesce(-sum(tender.amount) filter (where tender.kind = 'cash' and tender.amount < 0),
              0)::bigint as refunds,
            ${['in', 'out', 'drop'].map((kind) => movedCash(kind)).join(', ')}
     from shift
     left join standing_sale as sale on sale.shift_id = shift.id
     left join tender on tender.sale_id = sale.id and tender.kind in (select name from tender_kind where in_drawer)
     where shift.id = $1
     group by shift.id, shift.opening_float`,
    [shiftId],
  );
  return one(rows);
}

export function taxesOf(sql: Reader, shiftId: number): Promise<TaxAmount[]> {
  return sql.query<TaxAmount>(
    `select tax_rate_id as "rateId", sale_tax.name, sale_tax.rate, sum(base)::bigint as base,
      sum(sale_tax.tax)::bigint as tax
     from sale_tax join standing_sale as sale on sale.id = sale_tax.sale_id
     where sale.shift_id = $1
     group by tax_rate_id, sale_tax.name, sale_tax.rate
     order by tax_rate_id`,
    [shiftId],
  );
}

/** What was taken off prices during a shift. */
export function reductionsOf(sql: Reader, shiftId: number): Promise<ShiftReduction[]> {
  return sql.query<ShiftReduction>(
    `select record->>'kind' as kind, record->>'why' as reason, staff.name as person, count(*)::integer as count,
            sum((record->>'amount')::bigint)::bigint as amount
     from standing_sale as sale join sale_line as line on line.sale_id = sale.id join staff on staff.id = sale.staff_id
     cross join jsonb_array_elements(line.records) as record
     where sale.shift_id = $1 and line.quantity > 0
     group by 1, 2, 3 order by 1, 2, 3`,
    [shiftId],
  );
}

/** What sales of a shift were paid with, less what went back; corrections count where they say. */
export function paidWithOf(sql: Reader, shiftId: number): Promise<ShiftTender[]> {
  return sql.query<ShiftTender>(
    `with paid as (
       select coalesce(type_id, (select id from tender_type where kind = 'cash')) as type_id, 1 as count,
              tender.amount, tip, foreign_amount
       from standing_sale as sale join tender on tender.sale_id = sale.id where sale.shift_id = $1
       union all
       select from_type, -1, -amount, 0, null from tender_correction where shift_id = $1
       union all
       select to_type, 1, amount, 0, null from tender_correction where shift_id = $1
     )
     select type.id as "typeId", type.name, type.kind, type.counted, sum(count)::integer as count,
            sum(amount)::bigint as amount, sum(tip)::bigint as tips, sum(foreign_amount)::bigint as "foreignAmount",
            type.foreign_currency as currency
     from paid join tender_type as type on type.id = type_id
     group by type.id having sum(count) <> 0 or sum(amount) <> 0 order by type.position, type.name`,
    [shiftId],
  );
}

/** What sales of a shift gave to funds. */
export function donationsOf(sql: Reader, shiftId: number): Promise<{ fund: string; amount: Money }[]> {
  return sql.query(
    `select fund.name as fund, sum(donation)::bigint as amount from standing_sale as sale join fund on fund.id = fund_id
     where shift_id = $1 group by fund.name order by fund.name`,
    [shiftId],
  );
}

/** Deposits for goods that wait that were paid, used for goods and given back in a shift; all above zero. */
export interface ShiftDeposits {
  paid: Money;
  used: Money;
  back: Money;
}

export async function depositsOf(sql: Reader, shiftId: number): Promise<ShiftDeposits> {
  return one(
    await sql.query<ShiftDeposits>(
      `select coalesce(sum(net) filter (where promise_part = 'deposit'), 0)::bigint as paid,
              coalesce(-sum(net) filter (where promise_part = 'used'), 0)::bigint as used,
              coalesce(-sum(net) filter (where promise_part = 'back'), 0)::bigint as back
       from standing_sale as sale join sale_line on sale_id = sale.id where shift_id = $1 and promise_id is not null`,
      [shiftId],
    ),
  );
}

/**
 * What was charged to house accounts in a shift less what came back onto them, what was paid onto them, and out of
 * them.
 */
export interface ShiftAccounts {
  charged: Money;
  paid: Money;
  out: Money;
}

export async function accountMoneyOf(sql: Reader, shiftId: number): Promise<ShiftAccounts> {
  return one(
    await sql.query<ShiftAccounts>(
      `select (select coalesce(sum(tender.amount), 0) from standing_sale as sale join tender on sale_id = sale.id
               where shift_id = $1 and account_id is not null)::bigint as charged,
              coalesce(sum(net) filter (where net > 0), 0)::bigint as paid,
              coalesce(-sum(net) filter (where net < 0), 0)::bigint as out
       from standing_sale as sale join sale_line on sale_id = sale.id where shift_id = $1 and account_id is not null`,
      [shiftId],
    ),
  );
}

/** Returns and voids of a shift. */
export interface ShiftUndone {
  returns: number;
  refunded: Money;
  voids: number;
  voided: Money;
}

export async function undoneOf(sql: Reader, shiftId: number): Promise<ShiftUndone> {
  return one(
    await sql.query<ShiftUndone>(
      `select count(*) filter (where back.net is not null and not voided)::integer as returns,
              coalesce(-sum(back.net) filter (where not voided), 0)::bigint as refunded,
              count(*) filter (where voided)::integer as voids,
              coalesce(sum(total) filter (where voided), 0)::bigint as voided
       from (select sale.*, exists (select 1 from sale_void where sale_id = sale.id and state = 'done') as voided
             from sale where shift_id = $1) as sale
       left join lateral (
         select sum(net + case sale.tax_mode when 'on-top'
                    then (select coalesce(sum((part.value->>'tax')::bigint), 0)
                      from jsonb_array_elements(taxes) as part) else 0 end) as net
         from sale_line where sale_id = sale.id and quantity < 0) as back on true`,
      [shiftId],
    ),
  );
}

/** What is kept of a closed shift, as its report shows it. */
export interface Closing {
  pieces: Pieces;
  counted: Money;
  expected: Money;
  variance: Money;
  movements: CashMovements;
  sales: ShiftSales;
  taxes: TaxAmount[];
  /** How often the drawer was opened without a sale. */
  openings: number;
  reductions: ShiftReduction[];
  /** Shifts that were closed before these were kept have none. */
  paidWith?: ShiftTender[];
  donations?: { fund: string; amount: Money }[];
  counts?: TenderCount[];
  /** Sales that came back and were voided. */
  undone?: ShiftUndone;
  deposits?: ShiftDeposits;
  accounts?: ShiftAccounts;
  witness?: { name: string; path: string } | null;
  plan: BagPlan;
  bagNumber: string;
  note: string;
  signature: { name: string; path: string };
}

export async function closeShift(
  sql: Writer,
  shiftId: number,
  closing: Closing,
  by: { staffId: number; at: Date },
): Promise<void> {
  await sql.query(
    "update shift set state = 'closed', closed_at = $2, closed_by = $3, closing = $4 where id = $1",
    [shiftId, by.at.toISOString(), by.staffId, JSON.stringify(closing)],
  );
}

/** How many drawers are open in the whole shop. */
export async function openShifts(sql: Reader): Promise<number> {
  return one(
    await sql.query<{ count: number }>("select count(*)::integer as count from shift where state = 'open'"),
  ).count;
}

export interface ClosedShiftRow {
  id: number;
  tillId: number;
  number: number;
  openedAt: string;
  openedBy: string;
  closedAt: string;
  closedBy: string;
  /** What was counted at the opening beyond what was left and came from the safe. */
  openingVariance: number;
  closing: Closing;
}

export async function closedShift(sql: Reader, shiftId: number): Promise<ClosedShiftRow | undefined> {
  const [row] = await sql.query<ClosedShiftRow>(
    `select shift.id, till_id as "tillId", shift.number, opened_at as "openedAt", opener.name as "openedBy",
            closed_at as "closedAt", closer.name as "closedBy", closing,
            opening_variance as "openingVariance"
     from shift
     join staff as opener on opener.id = shift.opened_by
     join staff as closer on closer.id = shift.closed_by
     where shift.id = $1 and state = 'closed'`,
    [shiftId],
  );
  return row;
}

/** The newest closed shifts of a till. */
export function closedShifts(sql: Reader, tillId: number, most: number) {
  return sql.query<{
    id: number;
    number: number;
    closedAt: string;
    closedBy: string;
    variance: number;
    banked: number;
  }>(
    `select shift.id, shift.number, closed_at as "closedAt", staff.name as "closedBy",
            (closing->>'variance')::bigint as variance, (closing->'plan'->>'banked')::bigint as banked
     from shift join staff on staff.id = shift.closed_by
     where till_id = $1 and state = 'closed'
     order by shift.id desc limit $2`,
    [tillId, most],
  );
}

/** Stores cash that moved without a sale. */
export async function addCashMove(
  sql: Writer,
  move: CashMove & { id: string; at: Date; tillId: number; shiftId: number; staffId: number },
): Promise<void> {
  await sql.query(
    `insert into cash_move (id, at, till_id, shift_id, kind, amount, reason, person, asked_by, countersign_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
    [
      move.id,
      move.at.toISOString(),
      move.tillId,
      move.shiftId,
      move.kind,
      move.amount,
      move.reason,
      move.person,
      move.staffId,
      move.countersign ?? null,
    ],
  );
}

export interface CashMoveRow extends OpeningRow {
  kind: CashMoveKind;
  amount: Money;
  person: string;
}

export async function findCashMove(sql: Reader, id: string): Promise<CashMoveRow | undefined> {
  const [row] = await sql.query<CashMoveRow>(
    `select move.at, move.till_id as "tillId", move.reason, asker.name as by, granter.name as "approvedBy",
            move.kind, move.amount, move.person
     from cash_move as move
     join staff as asker on asker.id = move.asked_by
     left join countersign on countersign.id = move.countersign_id
     left join staff as granter on granter.id = countersign.granted_by
     where move.id = $1`,
    [id],
  );
  return row;
}

/** Notes that the drawer was opened without a sale. */
export async function addOpening(
  sql: Writer,
  opening: {
    id: string;
    at: Date;
    tillId: number;
    shiftId: number;
    reason: string;
    staffId: number;
    countersignId: string | null;
  },
): Promise<void> {
  await sql.query(
    `insert into drawer_opening (id, at, till_id, shift_id, reason, asked_by, countersign_id)
     values ($1, $2, $3, $4, $5, $6, $7)`,
    [
      opening.id,
      opening.at.toISOString(),
      opening.tillId,
      opening.shiftId,
      opening.reason,
      opening.staffId,
      opening.countersignId,
    ],
  );
}

export interface OpeningRow {
  at: string;
  tillId: number;
  reason: string;
  by: string;
  approvedBy: string | null;
}

export async function findOpening(sql: Reader, id: string): Promise<OpeningRow | undefined> {
  const [row] = await sql.query<OpeningRow>(
    `select opening.at, opening.till_id as "tillId", opening.reason, asker.name as by, granter.name as "approvedBy"
     from drawer_opening as opening
     join staff as asker on asker.id = opening.asked_by
     left join countersign on countersign.id = opening.countersign_id
     left join staff as granter on granter.id = countersign.granted_by
     where opening.id = $1`,
    [id],
  );
  return row;
}

/** How often the drawer was opened without a sale during a shift. */
export async function countOpenings(sql: Reader, shiftId: number): Promise<number> {
  const rows = await sql.query<{ count: number }>(
    'select count(*)::integer as count from drawer_opening where shift_id = $1',
    [shiftId],
  );
  return one(rows).count;
}

/** The note that the last closed shift of a till left for the next. */
export async function noteBefore(sql: Reader, tillId: number): Promise<string> {
  const [row] = await sql.query<{ note: string }>(
    `select coalesce(closing->>'note', '') as note from shift where till_id = $1 and state = 'closed'
      order by id desc limit 1`,
    [tillId],
  );
  return row?.note ?? '';
}

/** Every till with its open shift, for whoever counts several drawers at a desk. */
export function deskTills(sql: Reader): Promise<DeskTill[]> {
  return sql.query(
    `select till.id as "tillId", till.number, place.name as place,
            case when shift.id is not null then json_build_object('number', shift.number, 'openedAt', shift.opened_at,
              'openedBy', staff.name) end as shift
     from till join place on place.id = till.place_id
     left join shift on shift.till_id = till.id and shift.state = 'open'
     left join staff on staff.id = shift.opened_by
     order by till.number`,
  );
}
