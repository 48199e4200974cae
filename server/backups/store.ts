import { momentOf } from '../clock.ts';
import { one, type Reader } from '../db/database.ts';

/** What decides whether a backup is due. */
export async function backupMoment(
  sql: Reader,
): Promise<{ sold: Date | null; drawerOpen: boolean; since: Date | null }> {
  const { sold, drawerOpen, since } = one(
    await sql.query<{ sold: string | null; drawerOpen: boolean; since: string | null }>(
      `select (select max(finished_at) from sale) as sold,
              exists (select from shift where state = 'open') as "drawerOpen",
              (select min(applied_at) from migration where exists (select from shop)) as since`,
    ),
  );
  return { sold: momentOf(sold), drawerOpen, since: momentOf(since) };
}
