import type { UsedUpProblem } from '../../contract/counter.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { dropPointsClaim, holdPoints } from './pointsClaimStore.ts';

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
  const held = { basketId, customerId: customer.id, points };
  if (!(await holdPoints(sql, held, at))) throw pointsUsed();
}
