import type { SetupChange } from '../../contract/setup.ts';
import type { KeptChange, SettingChange } from '../../core/setup/changes.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { asking } from '../db/asked.ts';
import { says } from '../db/words.ts';

/** Whoever changes Setup next waits until this is stored: what was changed before is known then. */
export async function takeTurns(sql: Writer): Promise<void> {
  await sql.query('lock table setup_change in share row exclusive mode');
}

/** The last change of Setup that there is; 0 where there is none. */
export async function lastChange(sql: Reader): Promise<number> {
  return one(
    await sql.query<{ last: number }>('select coalesce(max(id), 0)::bigint as last from setup_change'),
  ).last;
}

/** What was changed after a change that was seen, the oldest first. */
export function changesSince(sql: Reader, seen: number): Promise<KeptChange[]> {
  return sql.query<KeptChange>(
    `select section, what, was, became, staff.name as who from setup_change join staff on staff.id = staff_id
     where setup_change.id > $1 order by setup_change.id`,
    [seen],
  );
}

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
  const { given, ask } = asking(section, before);
  const said = says("concat_ws(' ', staff.name, what, was, became)", find, ask);
  return sql.query<SetupChange>(
    `select setup_change.id, at, staff.name as who, section, what, was, became
     from setup_change join staff on staff.id = staff_id
     where ($1 = '' or section = $1) and ($2::bigint is null or setup_change.id < $2)
       and ${said}
     order by setup_change.id desc limit ${PAGE}`,
    given,
  );
}
