import type { HandOver } from '../../contract/drawer.ts';
import type { Person } from '../../contract/staff.ts';
import { worth, type Pieces } from '../../core/drawer/countSheet.ts';
import { expectedCash } from '../../core/drawer/expectedCash.ts';
import { handoverSlip } from '../../core/drawer/handoverSlip.ts';
import type { Paper } from '../../core/journal/paper.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { shopTime } from '../clock.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import { readShop } from '../shop/store.ts';
import { checkPieces } from './checks.ts';
import * as store from './store.ts';

/**
 * Hands the drawer to the next person without closing it: what is in it is counted and noted, with a slip for both.
 * @param id of the hand over; asking again hands over once
 */
export async function handOver(
  sql: Writer,
  person: Person,
  id: string,
  { pieces, toStaffId, note }: HandOver,
  at: Date,
): Promise<{ counted: number; expected: number }> {
  const { tillId, staffId } = person;
  await takeLocks(sql, { tills: [tillId] });
  const shift = await store.openShiftOf(sql, tillId);
  if (!shift) throw new Problem('no-open-drawer', 'The drawer of this till is not open.');
  if (toStaffId === staffId) throw fieldProblem('toStaffId', 'To whom? Choose somebody else.');
  const [next] = await sql.query('select 1 from staff where id = $1 and active', [toStaffId]);
  if (!next) throw fieldProblem('toStaffId', 'There is no such person.');
  checkPieces(pieces, currencyOf((await readShop(sql)).currency));
  const expected = expectedCash(await store.movementsOf(sql, shift.id));
  const counted = worth(pieces);
  await sql.query(
    `insert into shift_handover (id, shift_id, at, from_staff, to_staff, pieces, counted, expected, note)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [id, shift.id, at.toISOString(), staffId, toStaffId, JSON.stringify(pieces), counted, expected, note],
  );
  await addPrintJob(sql, { tillId, kind: 'handover-slip', handoverId: id, at });
  return { counted, expected };
}

/** People to whom a drawer may be handed. */
export function peopleToHandTo(sql: Reader, except: number): Promise<{ id: number; name: string }[]> {
  return sql.query('select id, name from staff where active and id <> $1 order by name', [except]);
}

export interface HandoverRow {
  at: string;
  from: string;
  to: string;
  pieces: Pieces;
  counted: number;
  expected: number;
  note: string;
  till: number;
}

/** Hand overs of a shift, oldest first. */
export function handoversOf(sql: Reader, shiftId: number): Promise<HandoverRow[]> {
  return sql.query(`${HANDOVER} where shift_handover.shift_id = $1 order by shift_handover.at`, [shiftId]);
}

const HANDOVER = `select shift_handover.at, giver.name as from, taker.name as to, pieces, counted, expected, note, till.number as till
  from shift_handover join staff as giver on giver.id = from_staff join staff as taker on taker.id = to_staff
  join shift on shift.id = shift_handover.shift_id join till on till.id = shift.till_id`;

/** The slip of a hand over. */
export async function handoverPaper(sql: Reader, id: string): Promise<Paper> {
  const row = one(await sql.query<HandoverRow>(`${HANDOVER} where shift_handover.id = $1`, [id]));
  const shop = await readShop(sql);
  return handoverSlip({
    ...row,
    shop: shop.name,
    till: `Till ${row.till}`,
    when: shopTime(row.at, shop),
    currency: currencyOf(shop.currency),
  });
}
