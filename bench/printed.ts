import type { Database } from '../server/db/database.ts';

/** Waits until nothing waits for its printer: it comes out while the next customer is greeted. */
export async function printed(database: Database): Promise<void> {
  const waiting = () =>
    database.ask((sql) => sql.query("select 1 from print_job where state <> 'printed' limit 1"));
  while ((await waiting()).length > 0) await new Promise((go) => setTimeout(go, 2));
}
