import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { fillNewDemo } from '../../demo/fill.ts';
import type { Database } from '../db/database.ts';
import { openDatabase } from '../db/open.ts';
import { readSettings } from '../settings.ts';
import { layOnce } from './laidShop.ts';
import { startPostgres, type PostgresServer } from './postgresServer.ts';

declare module 'vitest' {
  export interface ProvidedContext {
    /** Where the prepared databases are: a folder, or a server's address without a database. */
    prepared: { folder: string; postgres: string };
  }
}

/** The day on which all tests happen: a Monday morning in the shop. */
export const TEST_NOW = '2026-03-02T15:00:00.000Z';

async function prepare(
  environment: NodeJS.ProcessEnv,
  fill: (database: Database) => Promise<unknown>,
): Promise<void> {
  const database = await openDatabase(
    readSettings(environment),
    () => {},
    () => {},
    null,
  );
  await fill(database);
  await database.close();
}

/** Makes an empty and a demo database; every test file starts from a copy. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  execFileSync(process.execPath, ['setup/build.mjs', 'server'], { stdio: 'inherit' });
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-test-'));
  const demo = (database: Database) => fillNewDemo(database, new Date(TEST_NOW));
  let server: PostgresServer | undefined;
  if (project.config.env.MONDREL_TEST_ENGINE === 'postgres') {
    server = await startPostgres();
    for (const [name, fill] of [
      ['empty', async () => {}],
      ['demo', demo],
    ] as const) {
      await createDatabase(server, name, 'template1');
      await prepare({ MONDREL_DATA: folder, DATABASE_URL: server.urlOf(name) }, fill);
    }
  } else {
    await layOnce('empty', join(folder, 'empty'), (empty) =>
      prepare({ MONDREL_DATA: empty }, async () => {}),
    );
    await layOnce('demo', join(folder, 'demo'), async (filled) => {
      cpSync(join(folder, 'empty'), filled, { recursive: true });
      await prepare({ MONDREL_DATA: filled }, demo);
    });
  }
  project.provide('prepared', { folder, postgres: server?.urlOf('DATABASE') ?? '' });
  return async () => {
    await server?.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}

async function createDatabase(server: PostgresServer, name: string, template: string): Promise<void> {
  const { Client } = await import('pg');
  const client = new Client({ connectionString: server.urlOf('postgres') });
  await client.connect();
  await client.query(`create database "${name}" template "${template}"`);
  await client.end();
}
