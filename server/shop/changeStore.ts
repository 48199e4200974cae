import type { SetupChange } from '../../contract/setup.ts';
import type { SettingChange } from '../../core/setup/changes.ts';
import type { Reader, Writer } from '../db/database.ts';
import { says } from '../db/words.ts';

/** Keeps one change that has no value to show, as a new PIN. */
export async function noteChange(
  sql: Writer,
  { section, what, was, became }: SettingChange,
  { staffId, at }: { staffId: number; at: Date },
): Promise<void> {
  await sql.query(
    `insert into setup_change (at, staff_id, section, what, was, became) values ($1, $2, $3, $4, $5, $6)`,
    [at.toISOString(), staffId, section, what, was, became],
  );
}

const PAGE = 50;

/** Who changed what, newest first. @param before the last one that was shown, if any */
export function listChanges(
  sql: Reader,
  { section, find, before }: { section: string; find: string; before: number | null },
): Promise<SetupChange[]> {
  const given: (string | number | null)[] = [section, before];
  const said = says(
    "concat_ws(' ', staff.name, what, was, became)",
    find,
    (value) => `$${given.push(value)}`,
  );
  return sql.query<SetupChange>(
    `select setup_change.id, at, staff.name as who, section, what, was, became
     from setup_change join staff on staff.id = staff_id
     where ($1 = '' or section = $1) and ($2::bigint is null or setup_change.id < $2)
       and ${said}
     order by setup_change.id desc limit ${PAGE}`,
    given,
  );
}
