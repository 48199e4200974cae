import { pinDelay, stillCounted, type TriesOf } from '../../core/staff/pinDelay.ts';
import type { Database } from '../db/database.ts';
import * as store from './triesStore.ts';

/** Who tries what: the till, and the address that the request comes from. */
export interface Trier {
  what: 'pin' | 'number';
  tillId: number;
  source: string;
}

/**
 * Counts wrong tries at PINs and numbers, of tills and of addresses, and makes them wait longer with each. A right one
 * forgives none: only time does. Time is the process's own, so that a clock that jumps changes nothing.
 */
export interface Tries {
  /** Counts a try as wrong until it is said to be right. @returns how many seconds to wait; 0 where it may be judged */
  begin(trier: Trier): Promise<number>;
  right(trier: Trier): void;
  /** It was wrong: that is stored, so that it outlives a restart. @returns how many seconds to wait now */
  wrong(trier: Trier): Promise<number>;
}

interface Counted {
  of: TriesOf;
  wrong: number;
  /** When it was counted last, and until when to wait, by the process's own clock in milliseconds. */
  at: number;
  until: number;
}

/** @param elapsed milliseconds since some moment; never goes back */
export function countTries(database: Database, elapsed: () => number = () => performance.now()): Tries {
  const started = elapsed();
  const counted = new Map<string, Counted>();
  const keysOf = ({ what, tillId, source }: Trier): [string, TriesOf][] => [
    [`${what} till ${tillId}`, `${what} till`],
    [`${what} source ${source}`.slice(0, 120), `${what} source`],
  ];

  /** What was counted before the server started waits from its start. */
  async function recall(trier: Trier): Promise<Counted[]> {
    const keys = keysOf(trier);
    const unknown = keys.filter(([key]) => !counted.has(key)).map(([key]) => key);
    if (unknown.length > 0) {
      const stored = new Map(
        (await database.ask((sql) => store.triesOf(sql, unknown))).map((one) => [one.key, one.wrong]),
      );
      for (const [key, of] of keys) {
        const wrong = stored.get(key) ?? 0;
        if (!counted.has(key))
          counted.set(key, { of, wrong, at: started, until: started + pinDelay(wrong, of) * 1000 });
      }
    }
    return keys.flatMap(([key]) => counted.get(key) ?? []);
  }

  const secondsLeft = (all: readonly Counted[]): number =>
    Math.ceil(Math.max(0, ...all.map(({ until }) => until - elapsed())) / 1000);

  return {
    async begin(trier) {
      const all = await recall(trier);
      // From here on nothing is waited for: of many tries at once only so many are judged.
      const wait = secondsLeft(all);
      if (wait > 0) return wait;
      const now = elapsed();
      for (const one of all) {
        one.wrong = stillCounted(one.wrong, now - one.at) + 1;
        one.at = now;
        one.until = now + pinDelay(one.wrong, one.of) * 1000;
      }
      return 0;
    },
    right(trier) {
      for (const [key] of keysOf(trier)) {
        const one = counted.get(key);
        if (!one) continue;
        one.wrong = Math.max(0, one.wrong - 1);
        one.until = elapsed();
      }
    },
    async wrong(trier) {
      const all = await recall(trier);
      await database.write((sql) =>
        store.keepTries(
          sql,
          keysOf(trier).map(([key]) => ({ key, wrong: counted.get(key)?.wrong ?? 0 })),
        ),
      );
      return secondsLeft(all);
    },
  };
}
