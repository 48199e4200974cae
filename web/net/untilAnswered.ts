import { promiseTimeout } from '@vueuse/core';

/** So long after something could not be had it is asked for again. */
const AGAIN_MS = 1000;

/**
 * Asks for something until it is answered.
 * @param failed hears why it was not; what it throws ends the asking
 * @param wanted whether somebody still waits for it
 * @returns the answer, or nothing once nobody waits for it
 */
export async function untilAnswered<T>(
  ask: () => T | Promise<T>,
  failed: (error: unknown) => void,
  wanted: () => boolean = () => true,
): Promise<T | undefined> {
  do {
    try {
      return await ask();
    } catch (error) {
      if (!wanted()) return undefined;
      failed(error);
      await promiseTimeout(AGAIN_MS);
    }
  } while (wanted());
  return undefined;
}
