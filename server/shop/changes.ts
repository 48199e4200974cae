import type { RequestHandler } from 'express';
import type { AnySchema, InferType } from '../../contract/yup.ts';
import type { SetupChange } from '../../contract/setup.ts';
import { settingChanges, type SettingChange } from '../../core/setup/changes.ts';
import type { Reader, Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { write, type WriteContext } from '../http/write.ts';

/** Keeps what a piece of work changes in Setup, in the transaction that changes it. */
export async function keepChanges<T>(
  { settingsInWords }: Pick<House, 'settingsInWords'>,
  sql: Writer,
  { staffId, at }: { staffId: number; at: Date },
  work: () => Promise<T>,
): Promise<T> {
  const before = await settingsInWords(sql, at);
  const made = await work();
  for (const change of settingChanges(before, await settingsInWords(sql, at))) {
    await noteChange(sql, change, { staffId, at });
  }
  return made;
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

/** A route that changes the setup, by who may; what it changes is kept with who did it. */
export function change<Schema extends AnySchema>(
  house: House,
  schema: Schema | null,
  work: (context: WriteContext<InferType<Schema>>) => Promise<unknown>,
): RequestHandler {
  return write(house, 'shop.set-up', schema, (context) =>
    keepChanges(house, context.sql, { staffId: context.person.staffId, at: house.clock.now() }, () =>
      work(context),
    ),
  );
}

const PAGE = 50;

/** Who changed what, newest first. @param before the last one that was shown, if any */
export function listChanges(
  sql: Reader,
  { section, find, before }: { section: string; find: string; before: number | null },
): Promise<SetupChange[]> {
  return sql.query<SetupChange>(
    `select setup_change.id, at, staff.name as who, section, what, was, became
     from setup_change join staff on staff.id = staff_id
     where ($1 = '' or section = $1) and ($2::bigint is null or setup_change.id < $2)
       and ($3 = '' or strpos(lower(concat_ws(' ', staff.name, what, was, became)), lower($3)) > 0)
     order by setup_change.id desc limit ${PAGE}`,
    [section, before, find],
  );
}
