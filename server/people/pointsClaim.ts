import type { UsedUpProblem } from '../../contract/counter.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';

/** What is said when points that a basket takes went, or are about to go, elsewhere. */
export function pointsUsed(): Problem {
  const data: UsedUpProblem = { codes: [], points: true };
  return new Problem(
    'offer-used-up',
    'The points of this customer are used at another till. Nothing was taken.',
    { detail: 'The basket is priced without them now. Tell the customer the new total.', data },
  );
}

/**
 * Holds the points that a basket takes of its customer while it is being paid, in the place of what it held before.
 * @param shown points that the screen shows as taken
 * @throws Problem 409 `offer-used-up` where they are not there, or other baskets hold them
 */
export async function claimPoints(
  sql: Writer,
  { id: basketId, customer }: Basket,
  { points, shown }: { points: number; shown: number },
  at: Date,
): Promise<void> {
  if (points < shown) throw pointsUsed();
  await dropPointsClaim(sql, basketId);
  if (!customer || points === 0) return;
  await sql.query('select 1 from customer where id = $1 for no key update', [customer.id]);
  const rows = await sql.query(
    `insert into points_claim (basket_id, customer_id, points, at)
     select $1, id, $3, $4 from customer where id = $2 and points - points_claimed(id, $1, $4) >= $3
     returning basket_id`,
    [basketId, customer.id, points, at.toISOString()],
  );
  if (rows.length === 0) throw pointsUsed();
}

/** Lets go the points that a basket holds. */
export async function dropPointsClaim(sql: Writer, basketId: string): Promise<void> {
  await sql.query('delete from points_claim where basket_id = $1', [basketId]);
}
