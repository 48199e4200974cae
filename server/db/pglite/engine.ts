import { AsyncLocalStorage } from 'node:async_hooks';
import {
  closeSync,
  existsSync,
  fsyncSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { join } from 'node:path';
import { DB_FOLDER } from '../copy.ts';
import { NestedUseError, type Database, type Parameter, type Reader, type Writer } from '../database.ts';
import { copyFolder } from './copyFolder.ts';
import { lockFolder } from './lock.ts';
import type { Answer, Opened, Question, WorkerData } from './messages.ts';
import { startUpkeep } from './upkeep.ts';
import { startThread } from '../../thread.ts';

export interface PgliteOptions {
  /** The data folder; the database lies in `db` below it. */
  folder: string;
  sharedBuffers?: string;
  /** Brings a database up to date before it is used; a new folder appears only once this is done. */
  prepare: (database: Database) => Promise<void>;
  /** Called when the disk has failed: the process must end, nothing more can be stored. */
  onBroken: (message: string) => void;
}

type QuestionWithoutId = Question extends infer Q ? (Q extends Question ? Omit<Q, 'id'> : never) : never;

/**
 * Opens the embedded database. A new one is made beside its place and moved there when complete, so that
 * a kill in the middle leaves nothing half made.
 * @throws FolderInUseError when another process works on the folder
 */
export async function openPglite(options: PgliteOptions): Promise<Database> {
  const release = await lockFolder(options.folder);
  try {
    const place = join(options.folder, DB_FOLDER);
    if (!existsSync(place)) {
      const beside = join(options.folder, 'db.new');
      rmSync(beside, { recursive: true, force: true });
      const fresh = await openFolder(beside, options, async () => {});
      await options.prepare(fresh);
      await fresh.close();
      syncFolder(beside);
      renameSync(beside, place);
      syncOne(options.folder);
    }
    removeEmptyPidFile(place);
    const database = await openFolder(place, options, release);
    await options.prepare(database);
    return database;
  } catch (error) {
    await release();
    throw error;
  }
}

/** Laying a database down does not sync what it writes: a power cut soon after would leave holes in it. */
function syncFolder(folder: string): void {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) syncFolder(path);
    else if (entry.isFile()) syncOne(path);
  }
  syncOne(folder);
}

function syncOne(path: string): void {
  const file = openSync(path, 'r');
  fsyncSync(file);
  closeSync(file);
}

/** An empty file left by a power cut would keep the database from opening; we hold the lock, so it is stale. */
function removeEmptyPidFile(place: string): void {
  const file = join(place, 'postmaster.pid');
  if (existsSync(file) && statSync(file).size === 0) rmSync(file);
}

async function openFolder(
  folder: string,
  { sharedBuffers = '128MB', onBroken }: PgliteOptions,
  onClosed: () => Promise<void>,
): Promise<Database> {
  const worker = startThread('pgliteWorker', { folder, sharedBuffers } satisfies WorkerData);
  const waiting = new Map<number, { resolve: (result: unknown) => void; reject: (error: Error) => void }>();
  const inside = new AsyncLocalStorage<true>();
  let nextId = 1;
  let lastInLine: Promise<unknown> = Promise.resolve();
  let writes = 0;
  let closing = false;

  await new Promise<void>((resolve, reject) => {
    worker.on('message', (message: Answer | Opened) => {
      if ('open' in message) return resolve();
      if ('broken' in message) {
        reject(new Error(message.broken));
        return onBroken(message.broken);
      }
      const question = waiting.get(message.to);
      waiting.delete(message.to);
      if ('error' in message)
        question?.reject(Object.assign(new Error(message.error.message), message.error));
      else question?.resolve(message.result);
    });
    const ended = (error: Error) => {
      reject(error);
      for (const { reject: refuse } of waiting.values()) refuse(error);
      waiting.clear();
      if (!closing) onBroken(error.message);
    };
    worker.on('error', ended);
    worker.on('exit', () => ended(new Error('the database thread has ended')));
  });

  function ask(question: QuestionWithoutId): Promise<unknown> {
    return new Promise((resolve, reject) => {
      const id = nextId++;
      waiting.set(id, { resolve, reject });
      worker.postMessage({ ...question, id } as Question);
    });
  }

  /** One after the other: the thread has a single connection. */
  function inLine<T>(work: () => Promise<T>): Promise<T> {
    if (inside.getStore()) return Promise.reject(new NestedUseError());
    const turn = lastInLine.then(() => inside.run(true, work));
    lastInLine = turn.catch(() => {});
    return turn;
  }

  const asking =
    (how: 'query' | 'search') =>
    async <T extends object>(sql: string, parameters: readonly Parameter[] = []): Promise<T[]> =>
      (await ask({ ask: how, sql, parameters })) as T[];
  const [query, search] = [asking('query'), asking('search')];

  const transaction = { query, search, oneByOne: false } as Writer;
  const single: Reader = {
    query: (sql, parameters) => inLine(() => query(sql, parameters)),
    search: (sql, parameters) => inLine(() => search(sql, parameters)),
    oneByOne: true,
  };

  const database: Database = {
    engine: 'pglite',
    ask: (work) => work(single),
    write: (work) =>
      inLine(async () => {
        writes += 1;
        await query('begin');
        try {
          const result = await work(transaction);
          await query('commit');
          return result;
        } catch (error) {
          await query('rollback');
          throw error;
        }
      }),
    script: async (sql) => {
      await inLine(() =>
        ask({ ask: 'script', sql: `begin;\n${sql}\ncommit;` }).catch(async (error: unknown) => {
          await query('rollback');
          throw error;
        }),
      );
    },
    copyTo: (target) => upkeep.pausedFor(() => copyFolder(folder, join(target, DB_FOLDER), single)),
    close: async () => {
      upkeep.stop();
      await inLine(async () => {
        closing = true;
        await ask({ ask: 'close' });
        await worker.terminate();
      });
      await onClosed();
    },
  };
  const upkeep = startUpkeep(single, () => writes);
  return database;
}
