import { vi } from 'vitest';

/** Long after this, nothing comes any more, however much else the machine has to do. */
const MOST_MS = 60_000;

/** Waits until something neither throws nor rejects, asking again and again. @returns what it answers */
export const eventually = <T>(holds: () => T | Promise<T>): Promise<T> =>
  vi.waitFor(holds, { timeout: MOST_MS, interval: 20 });
