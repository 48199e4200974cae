import { AsyncLocalStorage } from 'node:async_hooks';
import { Client, Pool, types, type PoolClient, type CustomTypesConfig } from 'pg';
import {
  INT8,
  InUseError,
  NestedUseError,
  parseInt8,
  PLANS,
  sqlState,
  TEXT_TYPES,
  type Database,
  type Parameter,
  type Reader,
  type Writer,
} from '../database.ts';

import { dump } from './dump.ts';
import { SILENT_MS, watchHeartbeat } from './heartbeat.ts';

/** Thrown when another process serves the same database. */
export class DatabaseInUseError extends InUseError {
  constructor() {
    super('Another Mondrel is running on this database. Stop it first, or set DATABASE_URL to another one.');
  }
}

/** Taken for as long as the application runs; any number will do as long as it stays the same. */
const OWNER_LOCK = 4_717_201;

/** So many statements are kept prepared by each connection; the shop has fewer. */
const MOST_PREPARED = 2000;

/**
 * What each connection starts with. Statements keep the plan they have, as on the embedded engine: planning took
 * longer than most of them run.
 */
const SESSION = `-c timezone=UTC -c ${PLANS.kept}`;

/**
 * The owner's server notices as well when this end falls silent: what it holds is free for who comes after it. Not
 * for a socket of the same machine, which cannot fall silent.
 */
const OWNER_SESSION = '-c tcp_keepalives_idle=10 -c tcp_keepalives_interval=5 -c tcp_keepalives_count=4';

const RETRY = new Set(['40001', '40P01']);
const TRIES = 5;

const textTypes = new Set<number>(TEXT_TYPES);
const parsers: CustomTypesConfig = {
  getTypeParser: ((type: number, format: 'text' | 'binary') => {
    if (type === INT8) return parseInt8;
    if (textTypes.has(type)) return (text: string) => text;
    return types.getTypeParser(type, format as 'text');
  }) as CustomTypesConfig['getTypeParser'],
};

export interface PostgresOptions {
  url: string;
  prepare: (database: Database) => Promise<void>;
  onBroken: (message: string) => void;
}

/**
 * Opens a PostgreSQL server's database.
 * @throws DatabaseInUseError when another process serves it
 */
export async function openPostgres({ url, prepare, onBroken }: PostgresOptions): Promise<Database> {
  const owner = new Client({
    connectionString: url,
    options: OWNER_SESSION,
    connectionTimeoutMillis: SILENT_MS,
  });
  await owner.connect();
  const { rows } = await owner.query<{ mine: boolean }>('select pg_try_advisory_lock($1) as mine', [
    OWNER_LOCK,
  ]);
  if (!rows[0]?.mine) {
    await owner.end();
    throw new DatabaseInUseError();
  }
  owner.on('error', (error) => onBroken(error.message));
  const stopBeat = watchHeartbeat(() => owner.query('select 1'), onBroken);

  const pool = new Pool({ connectionString: url, max: 10, types: parsers, options: SESSION });
  pool.on('error', () => {
    // An idle connection was closed by the server; the pool makes a new one when it is needed.
  });
  const inside = new AsyncLocalStorage<true>();

  /** Names of statements that connections keep prepared, by their text; tables of another shape make them anew. */
  const names = new Map<string, string>();
  let shape = 0;
  const nameOf = (sql: string): string | undefined => {
    if (!names.has(sql) && names.size < MOST_PREPARED) names.set(sql, `s${shape}_${names.size}`);
    return names.get(sql);
  };

  async function query<T extends object>(
    connection: Pool | PoolClient,
    sql: string,
    parameters: readonly Parameter[] = [],
  ): Promise<T[]> {
    const name = nameOf(sql);
    const statement = { text: sql, values: [...parameters], ...(name && { name }) };
    return (await connection.query<T & Record<string, unknown>>(statement)).rows;
  }

  async function search<T extends object>(
    connection: PoolClient,
    sql: string,
    parameters: readonly Parameter[] = [],
  ): Promise<T[]> {
    await connection.query(`set ${PLANS.own}`);
    const found = await query<T>(connection, sql, parameters);
    await connection.query(`set ${PLANS.kept}`);
    return found;
  }

  const on = (connection: PoolClient): Reader => ({
    query: (sql, parameters) => query(connection, sql, parameters),
    search: (sql, parameters) => search(connection, sql, parameters),
    oneByOne: false,
  });

  /** Searches with a connection of its own, which is thrown away where it may be left with plans of another kind. */
  async function searchAlone<T extends object>(sql: string, parameters?: readonly Parameter[]): Promise<T[]> {
    const connection = await pool.connect();
    try {
      const found = await search<T>(connection, sql, parameters);
      connection.release();
      return found;
    } catch (error) {
      connection.release(true);
      throw error;
    }
  }

  async function attempt<T>(work: (writer: Writer) => Promise<T>): Promise<T> {
    const connection = await pool.connect();
    try {
      await connection.query('begin');
      const result = await inside.run(true, () => work(on(connection) as Writer));
      const { command } = await connection.query('commit');
      // An error that was caught inside makes the server undo everything without saying so.
      if (command !== 'COMMIT') throw new Error('the transaction was undone by an earlier error');
      connection.release();
      return result;
    } catch (error) {
      const lost = await connection.query('rollback').then(
        () => false,
        () => true,
      );
      connection.release(lost);
      throw error;
    }
  }

  /** What was undone for another one's sake is done again: nothing of it was stored. */
  async function again<T>(work: () => Promise<T>): Promise<T> {
    for (let tries = 1; ; tries++) {
      try {
        return await work();
      } catch (error) {
        if (tries === TRIES || !RETRY.has(sqlState(error) ?? '')) throw error;
      }
    }
  }

  const single: Reader = {
    query: (sql, parameters) => again(() => query(pool, sql, parameters)),
    search: (sql, parameters) => again(() => searchAlone(sql, parameters)),
    oneByOne: false,
  };
  const database: Database = {
    engine: 'postgres',
    ask: (work) => (inside.getStore() ? Promise.reject(new NestedUseError()) : work(single)),
    write: async (work) => {
      if (inside.getStore()) throw new NestedUseError();
      return again(() => attempt(work));
    },
    script: async (sql) => {
      const connection = await pool.connect();
      try {
        await connection.query(`begin;\n${sql}\ncommit;`);
        shape += 1;
        names.clear();
      } catch (error) {
        await connection.query('rollback');
        throw error;
      } finally {
        connection.release();
      }
    },
    copyTo: (folder) => dump(url, folder),
    close: async () => {
      stopBeat();
      await pool.end();
      await owner.end();
    },
  };
  await prepare(database);
  return database;
}
