import type { Writer } from '../db/database.ts';

/** Points go along by counter-moves, with the lots that they lie in. */
export async function movePoints(sql: Writer, goes: number, stays: number, at: Date): Promise<void> {
  await sql.query(
    `with had as (select points from customer where id = $1),
     noted as (
       insert into points_move (customer_id, amount, reason, at)
       select side.id, side.sign * had.points, 'merged', $3
       from had, (values ($1::integer, -1), ($2::integer, 1)) as side (id, sign) where had.points <> 0)
     update customer set points = customer.points + case id when $1 then 0 - had.points else had.points end
     from had where id in ($1, $2)`,
    [goes, stays, at.toISOString()],
  );
  await sql.query('select book_points($1, $2)', [[goes, stays], at.toISOString()]);
}

/** Cards, stored value and what waits belong to the record that stays. */
export async function moveBelongings(sql: Writer, goes: number, stays: number): Promise<void> {
  for (const change of [
    'update points_lot set customer_id = $2 where customer_id = $1',
    'update customer_card set customer_id = $2 where customer_id = $1',
    'update stored_value set customer_id = $2 where customer_id = $1',
    'update card_on_file set customer_id = $2 where customer_id = $1',
    'update partner set customer_id = $2 where customer_id = $1',
    'update promise set customer_id = $2 where customer_id = $1 and cancelled_at is null and handed < units',
    'update customer set merged_into = $2 where merged_into = $1',
  ])
    await sql.query(change, [goes, stays]);
}

/** From now on the record is found under the one that stays; it is in no group any more. */
export async function markMerged(sql: Writer, goes: number, stays: number): Promise<void> {
  await sql.query('delete from customer_membership where customer_id = $1', [goes]);
  await sql.query('update customer set merged_into = $2, version = version + 1 where id = $1', [goes, stays]);
  await sql.query(
    `update customer set seen_at = greatest(customer.seen_at, other.seen_at)
     from customer as other where customer.id = $2 and other.id = $1`,
    [goes, stays],
  );
}
