import type { Database } from '../server/db/database.ts';
import { correctPoints, endingsOf } from '../server/people/loyaltyStore.ts';
import type { Serving } from '../server/serve.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, quantile, type Figure } from './measure.ts';

const CUSTOMERS = 100_000;
const MOVES_EACH = 20;
const ROUNDS = 100;
const TAKEN = 5;

/**
 * What a customer has of points, and taking some of them, among 100,000 customers with 2,000,000 moves; the floor is
 * plain SQL that reads and changes the same rows.
 */
export const points100k = (): Promise<Figure[]> => onBothEngines(measure);

const goal = { words: 'at most 1.5 times the floor', met: (_value: number, ratio: number) => ratio <= 1.5 };

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const { database } = serving.house;
  const first = await fill(database);
  const of = (round: number) => first + ((Math.abs(round) * 997) % CUSTOMERS);
  const at = new Date();
  const [staff] = await database.ask((sql) => sql.query<{ id: number }>('select min(id) as id from staff'));
  const by = { staffId: staff?.id ?? 0, at };

  const balance = await inTurn(
    ROUNDS,
    (round) => database.ask((sql) => endingsOf(sql, of(round))),
    (round) =>
      database.ask((sql) =>
        sql.query(
          'select ends_on, remaining from points_lot where customer_id = $1 and remaining > 0 and ends_on is not null',
          [of(round)],
        ),
      ),
  );
  const redeem = await inTurn(
    ROUNDS,
    (round) =>
      database.write((sql) =>
        correctPoints(sql, of(round), { amount: 0 - TAKEN, words: 'bench', ends: null }, by),
      ),
    (round) => database.write((sql) => sql.query(BARE, [of(round) + 1, TAKEN, at.toISOString()])),
  );
  return [
    figure(
      `points-100k balance ${engine}`,
      'ms p95',
      quantile(balance[0], 0.95),
      quantile(balance[1], 0.95),
      ROUNDS,
      goal,
    ),
    figure(
      `points-100k redeem ${engine}`,
      'ms p95',
      quantile(redeem[0], 0.95),
      quantile(redeem[1], 0.95),
      ROUNDS,
      goal,
    ),
  ];
}

/** Takes from the lot that ends first, and keeps balance, move and use, in one statement. */
const BARE = `with lot as (
    select id from points_lot where customer_id = $1 and remaining >= $2::bigint
      order by ends_on nulls last, id limit 1 for update
  ), taken as (
    update points_lot set remaining = remaining - $2::bigint from lot where points_lot.id = lot.id
      returning points_lot.id
  ), held as (
    update customer set points = points - $2::bigint where id = $1 returning id
  ), move as (
    insert into points_move (customer_id, amount, reason, at) select id, -$2::bigint, 'corrected', $3 from held
      returning id
  )
  insert into points_use (move_id, lot_id, amount) select move.id, taken.id, -$2::bigint from move, taken`;

/** Customers with twenty moves each, every one a lot that is not used yet. @returns the id of the first */
async function fill(database: Database): Promise<number> {
  return database.write(async (sql) => {
    await sql.query(
      `insert into customer (name, phone, mail, words, sort_name, added_at, points)
       select 'Made-up Person ' || nth, 'x', 'x', ' made-up', 'made-up', now(), ${MOVES_EACH} * 10
       from generate_series(1, ${CUSTOMERS}) as nth`,
    );
    const [made] = await sql.query<{ first: number }>(
      "select min(id) as first from customer where words = ' made-up'",
    );
    const first = made?.first ?? 0;
    for (let from = first; from < first + CUSTOMERS; from += 10_000) {
      await sql.query(
        `with lot as (
           insert into points_lot (customer_id, amount, remaining, ends_on, at)
           select id, 10, 10, current_date + nth * 30, now()
           from customer, generate_series(1, ${MOVES_EACH}) as nth where id >= $1 and id < $1 + 10000
           returning id, customer_id
         ), move as (
           insert into points_move (customer_id, amount, reason, at)
           select customer_id, 10, 'earned', now() from lot returning id, customer_id
         )
         insert into points_use (move_id, lot_id, amount)
         select move.id, lot.id, 10
         from (select id, row_number() over (order by customer_id, id) as nth from move) as move
         join (select id, row_number() over (order by customer_id, id) as nth from lot) as lot using (nth)`,
        [from],
      );
    }
    for (const table of ['customer', 'points_lot', 'points_move', 'points_use'])
      await sql.query(`analyze ${table}`);
    return first;
  });
}
