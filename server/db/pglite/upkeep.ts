import type { Reader } from '../database.ts';

const CHECKPOINT_EVERY_MS = 60_000;
const VACUUM_EVERY = 10;

/**
 * The embedded database has no background work: without this its log grows without end and its statistics age.
 * @param writes how many transactions have been written so far; nothing happens while that stands still
 * @returns a function that stops it
 */
export function startUpkeep(database: Reader, writes: () => number): () => void {
  let seen = writes();
  let rounds = 0;
  const timer = setInterval(() => {
    const now = writes();
    if (now === seen) return;
    seen = now;
    rounds += 1;
    const work = rounds % VACUUM_EVERY === 0 ? ['vacuum analyze', 'checkpoint'] : ['checkpoint'];
    void (async () => {
      for (const statement of work) await database.query(statement);
    })().catch(() => {
      // A failed upkeep is tried again next time; a failing disk is reported by the folder itself.
    });
  }, CHECKPOINT_EVERY_MS);
  timer.unref();
  return () => clearInterval(timer);
}
