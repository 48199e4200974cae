import type { Writer } from '../db/database.ts';

/**
 * Holds points of a customer for a basket. @returns false where they are not there, or other baskets hold them
 */
export async function holdPoints(
  sql: Writer,
  held: { basketId: string; customerId: number; points: number },
  at: Date,
): Promise<boolean> {
  const { basketId, customerId, points } = held;
  await sql.query('select 1 from customer where id = $1 for no key update', [customerId]);
  const rows = await sql.query(
    `insert into points_claim (basket_id, customer_id, points, at)
     select $1, id, $3, $4 from customer where id = $2 and points - points_claimed(id, $1, $4) >= $3
     returning basket_id`,
    [basketId, customerId, points, at.toISOString()],
  );
  return rows.length > 0;
}

/** Lets go the points that a basket holds. */
export async function dropPointsClaim(sql: Writer, basketId: string): Promise<void> {
  await sql.query('delete from points_claim where basket_id = $1', [basketId]);
}
