/** Wrong PINs in a row that cost no waiting. */
const FREE = 2;
const FIRST_SECONDS = 2;
const LONGEST_SECONDS = 300;

/** How many seconds a till waits after so many wrong PINs in a row: 0, 0, 2, 4, 8 … up to five minutes. */
export function pinDelay(wrongInARow: number): number {
  if (wrongInARow <= FREE) return 0;
  return Math.min(LONGEST_SECONDS, FIRST_SECONDS * 2 ** (wrongInARow - FREE - 1));
}

/** A PIN has 4 to 8 digits. */
export const PIN_PATTERN = /^\d{4,8}$/;
