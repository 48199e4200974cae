import { pinDelay, stillCounted, type TriesOf } from '../../core/staff/pinDelay.ts';
import type { Database } from '../db/database.ts';
import * as store from './triesStore.ts';

/** Who tries what: the till, and the address that the request comes from. */
export interface Trier {
  what: 'pin' | 'number';
  tillId: number;
  source: string;
}

/** What came of a try: who or what was found, or how many seconds to wait now, and whether it was judged at all. */
export type Tried<Found> = { found: Found } | { wait: number; judged: boolean };

/**
 * Counts wrong tries at PINs and numbers, of tills and of addresses, and makes them wait longer with each. A right one
 * forgives none: only time does. Time is the process's own, so that a clock that jumps changes nothing.
 */
export interface Tries {
  /**
   * Judges a try unless one has to wait. Of many at once only so many are judged at the same time as are free; the
   * others come after them, so that right ones are never refused for their number.
   * @param judge gives what was found, or `null` where the try was wrong: that is stored, and outlives a restart
   */
  attempt<Found>(trier: Trier, judge: () => Promise<Found | null>): Promise<Tried<Found>>;
}

interface Counted {
  of: TriesOf;
  wrong: number;
  /** Being judged just now. */
  pending: number;
  /** When it was counted last, and until when to wait, by the process's own clock in milliseconds. */
  at: number;
  until: number;
}

/** @param elapsed milliseconds since some moment; never goes back */
export function countTries(database: Database, elapsed: () => number = () => performance.now()): Tries {
  const started = elapsed();
  const counted = new Map<string, Counted>();
  let waiting: (() => void)[] = [];
  const keysOf = ({ what, tillId, source }: Trier): [string, TriesOf][] => [
    [`${what} till ${tillId}`, `${what} till`],
    [`${what} source ${source}`.slice(0, 120), `${what} source`],
  ];

  /** What was counted before the server started waits from its start. */
  async function recall(trier: Trier): Promise<Counted[]> {
    const keys = keysOf(trier);
    const unknown = keys.filter(([key]) => !counted.has(key)).map(([key]) => key);
    if (unknown.length > 0) {
      const rows = await database.ask((sql) => store.triesOf(sql, unknown));
      const stored = new Map(rows.map((one) => [one.key, one.wrong]));
      for (const [key, of] of keys) {
        const wrong = stored.get(key) ?? 0;
        const until = started + pinDelay(wrong, of) * 1000;
        if (!counted.has(key)) counted.set(key, { of, wrong, pending: 0, at: started, until });
      }
    }
    return keys.flatMap(([key]) => counted.get(key) ?? []);
  }

  const secondsLeft = (all: readonly Counted[]): number =>
    Math.ceil(Math.max(0, ...all.map(({ until }) => until - elapsed())) / 1000);

  /** Whether one more may be judged now: were all of them wrong, nothing would have to be waited for yet. */
  const mayBeJudged = ({ of, wrong, pending, at }: Counted): boolean =>
    pending === 0 || pinDelay(stillCounted(wrong, elapsed() - at) + pending, of) === 0;

  const nextIsJudged = () => new Promise<void>((resolve) => waiting.push(resolve));

  function countWrong(all: readonly Counted[]): void {
    const now = elapsed();
    for (const one of all) {
      one.wrong = stillCounted(one.wrong, now - one.at) + 1;
      one.at = now;
      one.until = now + pinDelay(one.wrong, one.of) * 1000;
    }
  }

  return {
    async attempt(trier, judge) {
      const all = await recall(trier);
      for (;;) {
        const wait = secondsLeft(all);
        if (wait > 0) return { wait, judged: false };
        if (all.every(mayBeJudged)) break;
        await nextIsJudged();
      }
      for (const one of all) one.pending += 1;
      try {
        const found = await judge();
        if (found !== null) return { found };
        countWrong(all);
      } finally {
        for (const one of all) one.pending -= 1;
        const others = waiting;
        waiting = [];
        for (const wake of others) wake();
      }
      const kept = keysOf(trier).map(([key]) => ({ key, wrong: counted.get(key)?.wrong ?? 0 }));
      await database.write((sql) => store.keepTries(sql, kept));
      return { wait: secondsLeft(all), judged: true };
    },
  };
}
