import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { Client } from 'pg';

const run = promisify(execFile);
const DUMP = 'shop.dump';

/** Thrown where PostgreSQL's own programs for copies are missing or fail. */
export class DumpFailed extends Error {}

async function program(name: string, parameters: readonly string[]): Promise<void> {
  await run(name, [...parameters]).catch((error: unknown) => {
    if (error instanceof Error && 'code' in error && error.code === 'ENOENT')
      throw new DumpFailed(`${name} is missing: install PostgreSQL's client programs on this computer.`);
    const said = error instanceof Error && 'stderr' in error ? String(error.stderr).trim() : String(error);
    throw new DumpFailed(`${name} failed: ${said}`);
  });
}

/** Writes the database as it is at one moment, while others go on writing. */
export const dump = (url: string, folder: string): Promise<void> =>
  program('pg_dump', ['--format=custom', '--no-owner', `--file=${join(folder, DUMP)}`, `--dbname=${url}`]);

/** Loads into an empty database what `dump` wrote, whole or not at all. */
export const load = (url: string, folder: string): Promise<void> =>
  program('pg_restore', [
    '--no-owner',
    '--single-transaction',
    '--exit-on-error',
    `--dbname=${url}`,
    join(folder, DUMP),
  ]);

export async function isEmpty(url: string): Promise<boolean> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query("select 1 from pg_tables where schemaname = 'public' limit 1");
    return rows.length === 0;
  } finally {
    await client.end();
  }
}
