import type { Pieces } from '../../core/drawer/countSheet.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

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

const HANDOVER = `select shift_handover.at, giver.name as
  from, taker.name as to, pieces, counted, expected, note, till.number as till
  from shift_handover join staff as giver on giver.id = from_staff join staff as taker on taker.id = to_staff
  join shift on shift.id = shift_handover.shift_id join till on till.id = shift.till_id`;

/** Hand overs of a shift, oldest first. */
export function handoversOf(sql: Reader, shiftId: number): Promise<HandoverRow[]> {
  return sql.query(`${HANDOVER} where shift_handover.shift_id = $1 order by shift_handover.at`, [shiftId]);
}

export async function handover(sql: Reader, id: string): Promise<HandoverRow> {
  return one(await sql.query<HandoverRow>(`${HANDOVER} where shift_handover.id = $1`, [id]));
}

/** People to whom a drawer may be handed. */
export function peopleToHandTo(sql: Reader, except: number): Promise<{ id: number; name: string }[]> {
  return sql.query('select id, name from staff where active and id <> $1 order by name', [except]);
}

export async function addHandover(
  sql: Writer,
  made: Pick<HandoverRow, 'pieces' | 'counted' | 'expected' | 'note'> & {
    id: string;
    shiftId: number;
    at: Date;
    fromStaffId: number;
    toStaffId: number;
  },
): Promise<void> {
  const { id, shiftId, at, fromStaffId, toStaffId, pieces, counted, expected, note } = made;
  await sql.query(
    `insert into shift_handover (id, shift_id, at, from_staff, to_staff, pieces, counted, expected, note)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [id, shiftId, at.toISOString(), fromStaffId, toStaffId, JSON.stringify(pieces), counted, expected, note],
  );
}
