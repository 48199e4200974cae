import { inPieces, type Period } from '../../core/figures/period.ts';
import type { Reader } from '../db/database.ts';

/** So many sales are read at once where whoever sells waits for as long. */
export const MOST_SALES = 2500;

/** A period, in pieces where others would have to wait until all of it is read. */
export async function piecesOf(sql: Reader, { from, to }: Period, atOnce = MOST_SALES): Promise<Period[]> {
  if (!sql.oneByOne) return [{ from, to }];
  const sales = await sql.query<{ day: string; count: number }>(
    `select business_date as day, count(*) as count from sale
     where business_date between $1 and $2 group by 1 order by 1`,
    [from, to],
  );
  return inPieces({ from, to }, sales, atOnce);
}
