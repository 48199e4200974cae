import type { Figures } from '../../core/figures/reports.ts';
import { one, type Reader } from '../db/database.ts';
import { AMOUNT, GOODS } from './reportSql.ts';

const atPlace = (place: number, column: string) => (place ? `and ${column} = ${Number(place)}` : '');
const ALL = `coalesce(sum(count), 0)::bigint as count, coalesce(sum(quantity), 0)::bigint as quantity,
  coalesce(sum(amount), 0)::bigint as sold, coalesce(sum(more), 0)::bigint as cost`;

/** What was sold on a day until a moment of it: whole hours as they are kept, the last one from its sales. */
export async function soldUntil(
  sql: Reader,
  {
    day,
    hour,
    moment,
    place,
    dayEnds,
  }: { day: string; hour: number; moment: string; place: number; dayEnds: number },
): Promise<Figures> {
  return one(
    await sql.query<Record<string, number>>(
      `select ${ALL} from (
         select count, quantity, amount, more from day_figure join till on till.id = till_id
         where kind = 'sale' and day = $1 and (hour - $4 + 24) % 24 < ($2 - $4 + 24) % 24 ${atPlace(place, 'place_id')}
         union all
         select count, quantity, amount, more from figures_of((
           select array_agg(sale.id) from standing_sale as sale join till on till.id = till_id
           where business_date = $1 and hour = $2 and finished_at <= $3 ${atPlace(place, 'place_id')}))
         where kind = 'sale') as part`,
      [day, hour, moment, dayEnds],
    ),
  );
}

export async function soldOn(sql: Reader, day: string, place: number): Promise<Figures> {
  return one(
    await sql.query<Record<string, number>>(
      `select ${ALL},
         (select coalesce(sum(amount), 0)::bigint from day_figure join till on till.id = till_id
          where kind = 'return' and day = $1 ${atPlace(place, 'place_id')}) as returned
       from day_figure join till on till.id = till_id where kind = 'sale' and day = $1 ${atPlace(place, 'place_id')}`,
      [day],
    ),
  );
}

/** What was sold in each hour of some days. */
export function soldByHour(
  sql: Reader,
  days: readonly string[],
  place: number,
): Promise<{ day: string; hour: number; sold: number; count: number }[]> {
  return sql.query(
    `select day::text as day, hour, sum(amount)::bigint as sold, sum(count)::bigint as count from day_figure
      join till on till.id = till_id
     where kind = 'sale' and day = any ($1::date[]) ${atPlace(place, 'place_id')} group by 1, 2`,
    [days],
  );
}

/** What was sold on each day of a period; days without a sale have no row. */
export function soldByDay(
  sql: Reader,
  { from, to }: { from: string; to: string },
  { place, till }: { place: number; till: number },
): Promise<{ day: string; sold: number }[]> {
  return sql.query(
    `select day::text as day, sum(amount)::bigint as sold from day_figure join till on till.id = till_id
     where kind = 'sale' and day between $1 and $2 ${atPlace(place, 'place_id')} ${atPlace(till, 'till.id')}
       group by 1`,
    [from, to],
  );
}

export function soldByWeek(
  sql: Reader,
  { from, to }: { from: string; to: string },
  { place, till }: { place: number; till: number },
): Promise<{ weekday: number; hour: number; sold: number; count: number }[]> {
  return sql.query(
    `select extract(isodow from day)::integer - 1 as weekday, hour, sum(amount)::bigint as sold,
      sum(count)::bigint as count
     from day_figure join till on till.id = till_id
     where kind = 'sale' and day between $1 and $2 ${atPlace(place, 'place_id')} ${atPlace(till, 'till.id')}
       group by 1, 2`,
    [from, to],
  );
}

export function meansOn(
  sql: Reader,
  day: string,
  place: number,
): Promise<{ name: string; amount: number }[]> {
  return sql.query(
    `select type.name, sum(amount)::bigint as amount from day_figure as figure join till on till.id = till_id
     join tender_type as type on type.id = figure.subject::integer
     where figure.kind = 'means' and day = $1 ${atPlace(place, 'place_id')} group by type.id having sum(amount) <> 0
       order by 2 desc, 1`,
    [day],
  );
}

export async function customersOn(
  sql: Reader,
  day: string,
  place: number,
): Promise<{ known: number; new: number; none: number }> {
  const rows = await sql.query<{ subject: string; count: number }>(
    `select subject, sum(count)::bigint as count from day_figure join till on till.id = till_id
     where kind = 'customer' and day = $1 ${atPlace(place, 'place_id')} group by 1`,
    [day],
  );
  const of = (subject: string) => rows.find((row) => row.subject === subject)?.count ?? 0;
  return { known: of('known'), new: of('new'), none: of('none') };
}

const BEST = 6;

export function bestItems(
  sql: Reader,
  day: string,
  place: number,
): Promise<{ id: number; name: string; quantity: number; amount: number }[]> {
  return sql.query(
    `select item.id, item.name, sum(line.quantity)::bigint as quantity,
       sum(${AMOUNT})::bigint as amount
     from standing_sale as sale join till on till.id = sale.till_id join sale_line as line on line.sale_id = sale.id
     join item on item.id = line.item_id
     where business_date = $1 ${atPlace(place, 'till.place_id')} and ${GOODS}
     group by item.id order by 4 desc, 2 limit ${BEST}`,
    [day],
  );
}

export function drawersNow(
  sql: Reader,
  place: number,
): Promise<{ till: number; place: string; open: boolean; by: string; since: string }[]> {
  return sql.query(
    `select till.number as till, place.name as place, coalesce(shift.state = 'open', false) as open,
      coalesce(staff.name, '') as by,
       coalesce(case shift.state when 'open' then shift.opened_at else shift.closed_at end, now()) as since
     from till join place on place.id = till.place_id
     left join lateral (select * from shift where till_id = till.id order by id desc limit 1) as shift on true
     left join staff on staff.id = coalesce(shift.closed_by, shift.opened_by)
     where true ${atPlace(place, 'place.id')} order by till.number`,
  );
}

interface Waiting {
  held: number;
  promises: number;
  late: number;
  deliveries: number;
}

/** What somebody has to see to. */
export async function waitingNow(sql: Reader, day: string): Promise<Waiting> {
  return one(
    await sql.query<Waiting>(
      `select (select count(*)::integer from held_basket where taken_at is null) as held,
         (select count(*)::integer from promise where cancelled_at is null and handed < units) as promises,
         (select count(*)::integer from promise where cancelled_at is null and handed < units
           and next_due < $1) as late,
         (select count(*)::integer from purchase_order where state = 'sent' and expected_on <= $1) as deliveries`,
      [day],
    ),
  );
}

const RUNS_OUT = 8;

/** Goods of which less is left than their reorder point. */
export function runsOut(
  sql: Reader,
  place: number,
): Promise<{ id: number; name: string; quantity: number; unit: string; point: number }[]> {
  return sql.query(
    `select item.id, item.name, item.unit, coalesce(level.quantity, 0)::bigint as quantity, wanted.point
     from reorder_point as wanted join item on item.id = wanted.item_id and item.active
     left join stock_level as level on level.item_id = wanted.item_id and level.place_id = wanted.place_id
     where coalesce(level.quantity, 0) <= wanted.point ${atPlace(place, 'wanted.place_id')}
     order by coalesce(level.quantity, 0)::numeric / greatest(wanted.point, 1), item.name limit ${RUNS_OUT}`,
  );
}

/** Figures of days at each place by which odd ones are found. */
export function habitFigures(
  sql: Reader,
  days: readonly string[],
): Promise<{ placeId: number; place: string; day: string; what: string; value: number }[]> {
  return sql.query(
    `select place.id as "placeId", place.name as place, day::text as day,
       case figure.kind when 'sale' then 'sold' when 'off-by' then 'discounts' when 'return' then 'returns'
         else 'voids' end as what,
       sum(case figure.kind when 'return' then count when 'void' then count else amount end)::bigint as value
     from day_figure as figure join till on till.id = till_id join place on place.id = till.place_id
     where figure.kind in ('sale', 'off-by', 'return', 'void') and day = any ($1::date[]) group by 1, 2, 3, 4
     union all
     select place.id, place.name, sale.day, 'sales', sale.count from (
       select till.place_id, day::text as day, sum(count)::bigint as count from day_figure
         join till on till.id = till_id
       where kind = 'sale' and day = any ($1::date[]) group by 1, 2) as sale join place on place.id = sale.place_id`,
    [days],
  );
}
