import type { NewPointsMore, PointsMore, PointsMove } from '../../contract/points.ts';
import type { Ending, JoinedSale, PointsOfSale, Programme } from '../../core/people/loyalty.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

const PROGRAMME = `points_on as "on", points_word as word, points_given as given, points_per as per,
  points_months as months, points_back_days as "backDays", points_join_days as "joinDays", points_worth as worth,
  points_use as "use", points_off_points as "offPoints", points_off_amount as "offAmount",
  points_off_most as "offMost"`;

/** What the shop gives points for. */
export async function readProgramme(sql: Reader): Promise<Programme> {
  return one(await sql.query<Programme>(`select ${PROGRAMME} from shop`));
}

export async function putProgramme(sql: Writer, programme: Programme, at: Date): Promise<void> {
  const { on, word, given, per, months, backDays, joinDays, worth, use } = programme;
  const { offPoints, offAmount, offMost } = programme;
  await sql.query(
    `update shop set points_on = $1, points_word = $2, points_given = $3, points_per = $4, points_months = $5,
       points_back_days = $6, points_join_days = $7, points_worth = $8, points_use = $9, points_off_points = $10,
       points_off_amount = $11, points_off_most = $12`,
    [on, word, given, per, months, backDays, joinDays, worth, use, offPoints, offAmount, offMost],
  );
  // What customers have so far is worth more or less from now on.
  await sql.query('select book_points(null, $1)', [at.toISOString()]);
}

/** A sale that somebody may get the points of, by its id or its number. */
export async function saleToJoin(
  sql: Reader,
  by: { id: string | null; till: number; number: number },
): Promise<(JoinedSale & { id: string }) | undefined> {
  const [row] = await sql.query<JoinedSale & { id: string }>(
    `select sale.id, coalesce(customer.merged_into, customer.id) as "customerId", business_date as day,
       exists (select 1 from sale_void where sale_id = sale.id) as voided,
       (select given.name from sale_points join customer as given on given.id = sale_points.customer_id
        where sale_id = sale.id) as "givenTo",
       exists (select 1 from lines_left(sale.id) as rest where rest.net > 0) as goods
     from sale join till on till.id = sale.till_id left join customer on customer.id = sale.customer_id
     where sale.id = $1 or $1::uuid is null and till.number = $2 and sale.number = $3`,
    [by.id, by.till, by.number],
  );
  return row;
}

/**
 * Lets a customer have the points of a sale, as the programme is now. @returns false where it has given them already
 */
export async function joinSale(
  sql: Writer,
  saleId: string,
  customerId: number,
  { staffId, at }: { staffId: number; at: Date },
): Promise<boolean> {
  // A void or a return of it, and this, take turns.
  await sql.query('select 1 from sale where id = $1 for update', [saleId]);
  const rows = await sql.query(
    `insert into sale_points (sale_id, customer_id, given, per, months, at, joined_by, more)
     select $1, $2, points_given, points_per, points_months, $3, $4, more_points($1, $2)
       from shop on conflict do nothing returning sale_id`,
    [saleId, customerId, at.toISOString(), staffId],
  );
  if (rows.length > 0) await sql.query('select settle_points($1, $2)', [saleId, at.toISOString()]);
  return rows.length > 0;
}

export async function pointsOfSale(sql: Reader, saleId: string): Promise<PointsOfSale | null> {
  return one(
    await sql.query<{ points: PointsOfSale | null }>('select points_of_sale($1) as points', [saleId]),
  ).points;
}

/** Gives points by hand, or takes them: never more than there are. @throws DatabaseError MH005 */
export async function correctPoints(
  sql: Writer,
  customerId: number,
  { amount, words, ends }: { amount: number; words: string; ends: string | null },
  { staffId, at }: { staffId: number; at: Date },
): Promise<void> {
  if (amount > 0) {
    await sql.query("select add_points($1, $2, 'corrected', null, $3, $4, $5, $6)", [
      customerId,
      amount,
      at.toISOString(),
      ends,
      staffId,
      words,
    ]);
  } else {
    await sql.query("select take_points($1, $2, 'corrected', null, $3, false, null, $4, $5)", [
      customerId,
      -amount,
      at.toISOString(),
      staffId,
      words,
    ]);
  }
}

/** What is left in the lots of a customer that end, by their days. */
export function endingsOf(sql: Reader, customerId: number): Promise<Ending[]> {
  return sql.query<Ending>(
    `select ends_on as day, remaining as points from points_lot
     where customer_id = $1 and remaining > 0 and ends_on is not null`,
    [customerId],
  );
}

/** Some years of a customer who comes every week. */
const MOVES = 200;

/** How points moved, newest first. */
export function movesOf(sql: Reader, id: number): Promise<PointsMove[]> {
  return sql.query<PointsMove>(
    `select move.id, move.at, amount, reason, words, coalesce(staff.name, '') as by, move.sale_id as "saleId",
       receipt_number(till.number, sale.number) as sale
     from points_move as move left join staff on staff.id = move.staff_id
     left join sale on sale.id = move.sale_id left join till on till.id = sale.till_id
     where move.customer_id = $1 order by move.id desc limit ${MOVES}`,
    [id],
  );
}

/** Lots whose day is over end. @returns how many */
export async function endPoints(sql: Writer, today: string, at: Date): Promise<number> {
  return one(
    await sql.query<{ ended: number }>('select end_points($1, $2) as ended', [today, at.toISOString()]),
  ).ended;
}

/** When and for whom purchases give more points. */
export function pointsMore(sql: Reader): Promise<PointsMore[]> {
  return sql.query<PointsMore>(
    `select more.id, more.name, times, group_id as "groupId", customer_group.name as group, category_id as "categoryId",
       category.name as category, coalesce(weekdays, '{}') as weekdays, coalesce(from_day::text, '') as "from",
       coalesce(to_day::text, '') as "to"
     from points_more as more left join customer_group on customer_group.id = group_id
     left join category on category.id = category_id where ended_at is null order by more.id`,
  );
}

export async function addPointsMore(sql: Writer, more: NewPointsMore): Promise<number> {
  const { name, times, groupId, categoryId, weekdays, from, to } = more;
  return one(
    await sql.query<{ id: number }>(
      `insert into points_more (name, times, group_id, category_id, weekdays, from_day, to_day)
       values ($1, $2, $3, $4, $5, nullif($6, '')::date, nullif($7, '')::date) returning id`,
      [name, times, groupId, categoryId, weekdays.length > 0 ? weekdays : null, from, to],
    ),
  ).id;
}

/** From now on purchases give no more by it; sales keep what they gave. */
export async function endPointsMore(sql: Writer, id: number, at: Date): Promise<void> {
  await sql.query('update points_more set ended_at = $2 where id = $1 and ended_at is null', [
    id,
    at.toISOString(),
  ]);
}

/** Categories that purchases may give more points for. */
export function categoriesOfGoods(sql: Reader): Promise<{ id: number; name: string }[]> {
  return sql.query('select id, name from category order by name');
}
