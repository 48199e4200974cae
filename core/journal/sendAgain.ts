import { DAY_MS } from '../day.ts';

const FIRST_WAIT_MS = 30_000;
const LONGEST_WAIT_MS = 3_600_000;
/** RFC 5321, 4.5.4.1: a sender gives up after four to five days. */
const GIVE_UP_MS = 4 * DAY_MS;

/**
 * When a message that could not be sent is tried again: after half a minute, then twice as long each time, up to an
 * hour.
 * @param tries how often it was tried, the last time included
 * @returns nothing when it has been tried for so long that it is given up
 */
export function sendAgainAt(askedAt: Date, now: Date, tries: number): Date | undefined {
  if (now.getTime() - askedAt.getTime() >= GIVE_UP_MS) return undefined;
  const wait = Math.min(FIRST_WAIT_MS * 2 ** (tries - 1), LONGEST_WAIT_MS);
  return new Date(now.getTime() + wait);
}
