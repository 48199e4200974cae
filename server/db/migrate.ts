import { createHash } from 'node:crypto';
import type { Database } from './database.ts';
import { layStates } from './states.ts';

const files = import.meta.glob<string>('./migrations/*.sql', {
  query: '?raw',
  import: 'default',
  eager: true,
});

const functions = import.meta.glob<string>('./functions/*.sql', {
  query: '?raw',
  import: 'default',
  eager: true,
});

/** Thrown when the data was written by a newer version than this one. */
export class NewerDataError extends Error {}

/** @param applied the number of the last migration that ran on the data */
export type BeforeMigrating = (database: Database, applied: number) => Promise<void>;

interface Migration {
  number: number;
  name: string;
  sql: string;
}

const MIGRATIONS: readonly Migration[] = Object.entries(files)
  .map(([path, sql]) => {
    const match = /(\d{4})_(\w+)\.sql$/.exec(path);
    if (!match?.[1] || !match[2]) throw new Error(`${path} is not named like a migration`);
    return { number: Number(match[1]), name: match[2], sql };
  })
  .sort((a, b) => a.number - b.number);

/**
 * Brings the schema up to date, each migration in a transaction of its own together with the note that it ran.
 * @param onStep called before each migration with its name
 * @param before called once before data of an earlier version are changed
 * @throws NewerDataError
 */
export async function migrate(
  database: Database,
  onStep?: (name: string) => void,
  before?: BeforeMigrating | null,
): Promise<void> {
  const applied = await appliedNumber(database);
  const newest = MIGRATIONS.at(-1)?.number ?? 0;
  if (applied > newest) {
    throw new NewerDataError(
      'The data was written by a newer version of Mondrel. Install that version again.',
    );
  }
  if (applied > 0 && applied < newest) await before?.(database, applied);
  for (const { number, name, sql } of MIGRATIONS) {
    if (number <= applied) continue;
    onStep?.(name);
    await database.script(`${sql}\ninsert into migration (number, name) values (${number}, '${name}');`);
  }
  await layFunctions(database);
  await layStates(database);
  await database.write((sql) => sql.query('select lay_figures()'));
}

/** Lays down every function whose file is another one than last time. */
async function layFunctions(database: Database): Promise<void> {
  const laid = await database.ask((sql) =>
    sql.query<{ name: string; hash: string }>('select name, hash from stored_function'),
  );
  const known = new Map(laid.map(({ name, hash }) => [name, hash]));
  for (const [path, sql] of Object.entries(functions).toSorted()) {
    const name = path.replace(/^.*\/(\w+)\.sql$/, '$1');
    const hash = createHash('sha256').update(sql).digest('hex');
    if (known.get(name) === hash) continue;
    // One may call another that comes after it.
    await database.script(
      `set local check_function_bodies = off;
       ${sql}
       insert into stored_function values ('${name}', '${hash}')
       on conflict (name) do update set hash = excluded.hash;`,
    );
  }
}

async function appliedNumber(database: Database): Promise<number> {
  const [found] = await database.ask((sql) =>
    sql.query<{ there: boolean }>("select to_regclass('migration') is not null as there"),
  );
  if (!found?.there) {
    await database.script(
      'create table migration (number integer primary key, name text not null, applied_at timestamptz not null default now());',
    );
    return 0;
  }
  const [last] = await database.ask((sql) =>
    sql.query<{ number: number | null }>('select max(number) as number from migration'),
  );
  return last?.number ?? 0;
}
