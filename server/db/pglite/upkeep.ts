import type { Reader } from '../database.ts';

const CHECKPOINT_EVERY_MS = 60_000;
const VACUUM_EVERY = 10;

export interface Upkeep {
  stop(): void;
  /** Does something during which the log must not be cut. */
  pausedFor<T>(work: () => Promise<T>): Promise<T>;
}

/**
 * The embedded database has no background work: without this its log grows without end and its statistics age.
 * @param writes how many transactions have been written so far; nothing happens while that stands still
 */
export function startUpkeep(database: Reader, writes: () => number): Upkeep {
  let seen = writes();
  let rounds = 0;
  let pauses = 0;
  /** The round that is under way. */
  let round: Promise<void> = Promise.resolve();
  const timer = setInterval(() => {
    const now = writes();
    if (now === seen || pauses > 0) return;
    seen = now;
    rounds += 1;
    const work = rounds % VACUUM_EVERY === 0 ? ['vacuum analyze', 'checkpoint'] : ['checkpoint'];
    round = (async () => {
      for (const statement of work) await database.query(statement);
    })().catch(() => {
      // A failed upkeep is tried again next time; a failing disk is reported by the folder itself.
    });
  }, CHECKPOINT_EVERY_MS);
  timer.unref();
  return {
    stop: () => clearInterval(timer),
    async pausedFor(work) {
      pauses += 1;
      try {
        await round;
        return await work();
      } finally {
        pauses -= 1;
      }
    },
  };
}
