import { afterEach, beforeEach, vi } from 'vitest';
import { memoryStorage } from './memoryStorage.ts';

const timers = new Set<ReturnType<typeof setTimeout>>();
const set = globalThis.setTimeout;

/** What a test leaves to be done later is done in no other: a store that is gone would send into its answers. */
globalThis.setTimeout = Object.assign((...given: Parameters<typeof set>) => {
  const timer = set(...given);
  timers.add(timer);
  return timer;
}, set);

afterEach(() => {
  timers.forEach(clearTimeout);
  timers.clear();
});

/** Nor is what one keeps in the browser found by another. */
beforeEach(() => {
  vi.stubGlobal('localStorage', memoryStorage());
});
