/**
 * The thread that owns the data folder. It runs one statement at a time; the other side queues them, so that
 * nothing gets between the statements of a transaction.
 */
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';
import { INT8, parseInt8, PLANS, TEXT_TYPES } from '../database.ts';
import { DurableFolder } from './durableFolder.ts';
import type { Answer, Opened, Question, WorkerData } from './messages.ts';
import { PreparedStatements } from './prepared.ts';

const port = parentPort;
if (!port) throw new Error('this file runs in a worker thread');
const say = (message: Answer | Opened) => port.postMessage(message);

function describe(error: unknown): { message: string; code?: string } {
  const message = error instanceof Error ? error.message : String(error);
  const code = typeof error === 'object' && error && 'code' in error ? error.code : undefined;
  return typeof code === 'string' ? { message, code } : { message };
}

const { folder, sharedBuffers } = workerData as WorkerData;
const asText = (text: string) => text;

async function open(): Promise<PGlite> {
  const database = await PGlite.create({
    fs: new DurableFolder(folder, (error) => say({ broken: describe(error).message })),
    startParams: [
      ...PGlite.defaultStartParams.filter((parameter) => parameter !== '-F'),
      ...['wal_sync_method=fsync', `shared_buffers=${sharedBuffers}`, 'work_mem=64MB', 'random_page_cost=1.1']
        // Every statement is prepared and asked again and again: planning them anew took longer than most of them run.
        .concat(PLANS.kept)
        .concat('timezone=UTC', 'log_timezone=UTC')
        .flatMap((setting) => ['-c', setting]),
    ],
    parsers: { [INT8]: parseInt8, ...Object.fromEntries(TEXT_TYPES.map((type) => [type, asText])) },
  });
  return database;
}

/** A transaction that a failed search ends is undone, and what was set in it. */
async function search<T>(database: PGlite, find: () => Promise<T>): Promise<T> {
  await database.exec(`set ${PLANS.own}`);
  try {
    const found = await find();
    await database.exec(`set ${PLANS.kept}`);
    return found;
  } catch (error) {
    await database.exec(`set ${PLANS.kept}`).catch(() => {});
    throw error;
  }
}

async function answer(
  database: PGlite,
  statements: PreparedStatements,
  question: Question,
): Promise<unknown> {
  switch (question.ask) {
    case 'query':
      return statements.query(question.sql, question.parameters);
    case 'search':
      return search(database, () => statements.query(question.sql, question.parameters));
    case 'script':
      await database.exec(question.sql);
      await statements.forget();
      return null;
    case 'close':
      await database.exec('checkpoint');
      await database.close();
      return null;
  }
}

open().then(
  (database) => {
    const statements = new PreparedStatements(database);
    port.on('message', (question: Question) => {
      answer(database, statements, question).then(
        (result) => say({ to: question.id, result }),
        (error: unknown) => say({ to: question.id, error: describe(error) }),
      );
    });
    say({ open: true });
  },
  (error: unknown) => say({ broken: describe(error).message }),
);
