import type { ShallowRef } from 'vue';
import { shown } from './shown.ts';

/**
 * What has the number that somebody types or scans: whatever is answered or refused first, it is that of the number
 * that was looked up last.
 * @param ask what has a number @throws what is refused about it
 */
export function lookedUp<T>(ask: (number: string) => Promise<T>): {
  /** Nothing before that is known, and once another number is typed. */
  found: Readonly<ShallowRef<T | null>>;
  /** @returns the answer, or nothing where another number counts by then @throws what is refused about this one */
  look: (number: string) => Promise<T | undefined>;
  /** Another number is typed. */
  forget: () => void;
} {
  const [found, show, put] = shown<T | null>(null);
  let turn = 0;
  function forget(): void {
    turn += 1;
    put(null);
  }
  async function look(number: string): Promise<T | undefined> {
    forget();
    const mine = turn;
    try {
      return await show(ask(number));
    } catch (error) {
      if (mine === turn) throw error;
      return undefined;
    }
  }
  return { found, look, forget };
}
