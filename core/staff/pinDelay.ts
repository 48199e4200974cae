/**
 * Wrong tries that cost no waiting: of a till, and of an address behind which several tills may stand. Numbers that
 * nobody knows are looked up whenever a new gift card is sold, too: more of them are free.
 */
const FREE = { 'pin till': 2, 'pin source': 8, 'number till': 10, 'number source': 30 } as const;
const FIRST_SECONDS = 2;
const LONGEST_SECONDS = 300;
/** So long without a wrong try, and one is forgotten. */
const FORGOTTEN_AFTER_MS = 300_000;

/** Whose wrong tries are counted. */
export type TriesOf = keyof typeof FREE;

/** How many seconds to wait after so many wrong tries: none at first, then 2, 4, 8 … up to five minutes. */
export function pinDelay(wrong: number, of: TriesOf = 'pin till'): number {
  const counted = wrong - FREE[of];
  return counted <= 0 ? 0 : Math.min(LONGEST_SECONDS, FIRST_SECONDS * 2 ** (counted - 1));
}

/** How many of the wrong tries count after some time without another one. */
export function stillCounted(wrong: number, quietMs: number): number {
  return Math.max(0, wrong - Math.floor(Math.max(0, quietMs) / FORGOTTEN_AFTER_MS));
}

/** A PIN has 4 to 8 digits; six are what is suggested. */
export const PIN_PATTERN = /^\d{4,8}$/;
export const PIN_DIGITS = 6;
