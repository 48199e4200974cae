import type { ShiftHistory } from '../../contract/drawer.ts';
import type { Reader } from '../db/database.ts';
import type { Closing } from './store.ts';

/** Which closed shifts are looked at. */
export interface ShiftFilter {
  from: string | null;
  to: string | null;
  tillId: number | null;
  staffId: number | null;
}

export interface ClosedRow {
  id: number;
  number: number;
  till: number;
  openedAt: string;
  closedAt: string;
  closedBy: string;
  closing: Closing;
  explained: number;
}

const PIECE = 500;

/** Closed shifts, newest first, so many at a time: others go between. @param timezone in which days begin and end */
export async function* closedShifts(
  sql: Reader,
  filter: ShiftFilter,
  timezone: string,
): AsyncGenerator<ClosedRow[]> {
  let before: number | undefined;
  do {
    const piece: ClosedRow[] = await shiftsBefore(sql, filter, timezone, before);
    yield piece;
    before = piece.length === PIECE ? piece.at(-1)?.id : undefined;
  } while (before !== undefined);
}

function shiftsBefore(
  sql: Reader,
  filter: ShiftFilter,
  timezone: string,
  before: number | undefined,
): Promise<ClosedRow[]> {
  return sql.query<ClosedRow>(
    `select shift.id, shift.number, till.number as till, opened_at as "openedAt", closed_at as "closedAt",
            staff.name as "closedBy", closing,
            coalesce((select sum(amount) from variance_note where shift_id = shift.id), 0)::bigint as explained
     from shift join till on till.id = shift.till_id join staff on staff.id = shift.closed_by
     where state = 'closed'
       and ($1::date is null or (closed_at at time zone $5)::date >= $1)
       and ($2::date is null or (closed_at at time zone $5)::date <= $2)
       and ($3::integer is null or shift.till_id = $3)
       and ($4::integer is null or shift.closed_by = $4 or shift.opened_by = $4)
       and ($6::bigint is null or (closed_at, shift.id) < (select closed_at, id from shift where id = $6))
     order by closed_at desc, shift.id desc limit ${PIECE}`,
    [filter.from, filter.to, filter.tillId, filter.staffId, timezone, before ?? null],
  );
}

/** Cash that moved without a sale in some shifts, by why. */
export function movesOfShifts(sql: Reader, shiftIds: readonly number[]): Promise<ShiftHistory['moves']> {
  return sql.query(
    `select kind, reason, count(*)::integer as count, sum(amount)::bigint as amount from cash_move
     where shift_id = any ($1::bigint[]) group by kind, reason order by kind, amount desc`,
    [shiftIds],
  );
}
