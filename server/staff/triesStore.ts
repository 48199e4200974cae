import type { Reader, Writer } from '../db/database.ts';

export interface KeptTries {
  key: string;
  wrong: number;
}

export function triesOf(sql: Reader, keys: readonly string[]): Promise<KeptTries[]> {
  return sql.query<KeptTries>('select key, wrong from wrong_try where key = any ($1::text[])', [keys]);
}

/** Keeps how many tries were wrong. */
export async function keepTries(sql: Writer, tries: readonly KeptTries[]): Promise<void> {
  await sql.query(
    `insert into wrong_try (key, wrong)
     select key, wrong from jsonb_to_recordset($1) as one (key text, wrong integer) order by key
     on conflict (key) do update set wrong = excluded.wrong`,
    [JSON.stringify(tries)],
  );
}
