import type { Habit, ShiftEvent } from '../../core/drawer/varianceFinder.ts';
import type { Reader } from '../db/database.ts';

/** Everything that moved cash in a shift, and payments that were recorded as card without a terminal. */
export function shiftEvents(sql: Reader, shiftId: number): Promise<ShiftEvent[]> {
  return sql.query<ShiftEvent>(
    `select * from (
       select sale.id || ':' || tender.position as id,
              case when tender.kind = 'noted-card' then 'card' when tender.amount < 0 then 'refund'
                else 'sale' end as kind,
              tender.amount, tender.handed, receipt_number(till.number, sale.number) as name,
              sale.finished_at as at
       from standing_sale as sale join tender on tender.sale_id = sale.id join till on till.id = sale.till_id
       where sale.shift_id = $1 and tender.kind in ('cash', 'noted-card')
         and not exists (select 1 from tender_correction as correction
                         where correction.sale_id = sale.id and correction.position = tender.position)
       union all
       select id::text, case kind when 'in' then 'cash-in' when 'out' then 'cash-out' else 'drop' end,
              case kind when 'in' then amount else -amount end, 0, reason, at
       from cash_move where shift_id = $1) as event
     order by at, id`,
    [shiftId],
  );
}

const LOOKED_BACK = 12;
const LEAST_SEEN = 3;

/** Cash that was taken out in most of the shifts before, always as much. */
export function habitsOf(sql: Reader, shiftId: number): Promise<Habit[]> {
  return sql.query<Habit>(
    `with before as (
       select id from shift
       where till_id = (select till_id from shift where id = $1) and id < $1 and state = 'closed'
       order by id desc limit ${LOOKED_BACK}
     )
     select reason, amount, count(distinct shift_id)::integer as seen, (select count(*)::integer from before) as of
     from cash_move where kind = 'out' and shift_id in (select id from before)
     group by reason, amount
     having count(distinct shift_id) >= ${LEAST_SEEN} and count(distinct shift_id) * 2 > (select count(*) from before)
     order by seen desc, reason`,
    [shiftId],
  );
}

/** Card payments of a shift by terminal, as they were recorded. */
export function recordedByTerminal(
  sql: Reader,
  shiftId: number,
): Promise<{ serial: string; name: string; reference: string; amount: number }[]> {
  return sql.query(
    `select terminal.serial, terminal.name, payment_tender.id as reference,
            case when payment_tender.refund then -payment_tender.amount
              else payment_tender.amount + payment_tender.tip + payment_tender.round_up end as amount
     from payment_tender join terminal on terminal.id = payment_tender.terminal_id
     join payment using (basket_id) join shift on shift.id = $1
     where payment.till_id = shift.till_id and payment_tender.at >= shift.opened_at
       and (shift.closed_at is null or payment_tender.at <= shift.closed_at) and payment_tender.state = 'approved'`,
    [shiftId],
  );
}
