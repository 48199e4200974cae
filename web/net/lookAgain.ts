import type { HouseEvent } from '../../contract/events.ts';
import { hear } from './houseEvents.ts';

/**
 * Looks whenever it is called: one look at a time, and once more for all that happened meanwhile. So who calls more
 * often than answers come neither asks for more than is answered, nor keeps every answer from being shown.
 */
export function oneLook(look: () => Promise<unknown>): () => void {
  let looking = false;
  let more = false;
  async function lookOn(): Promise<void> {
    looking = true;
    do {
      more = false;
      // It is looked again with whatever happens next.
      await look().catch(() => {});
    } while (more);
    looking = false;
  }
  return () => {
    if (looking) more = true;
    else void lookOn();
  };
}

/**
 * Looks again when something happens in the house, however much does, and when the line is there again: nobody knows
 * what happened meanwhile.
 * @param concerns the kinds of events for which, or which events
 * @returns what ends it
 */
export function lookAgain(
  concerns: readonly HouseEvent['kind'][] | ((event: HouseEvent) => boolean),
  look: () => Promise<unknown>,
): () => void {
  let follows = true;
  /** A page that is left looks no more. */
  const lookOn = async () => {
    if (follows) await look();
  };
  let again = oneLook(lookOn);
  const does = typeof concerns === 'function' ? concerns : ({ kind }: HouseEvent) => concerns.includes(kind);
  const stop = hear((event) => {
    // What was asked before the line was lost may never be answered.
    if (event.kind === 'connected') again = oneLook(lookOn);
    else if (!does(event)) return;
    again();
  });
  return () => {
    follows = false;
    stop();
  };
}
