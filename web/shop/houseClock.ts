import type { TillFacts } from '../../contract/setup.ts';

/** How far the clock of this device is behind the server's, in milliseconds. */
let behind = 0;

/** Sets the clock by what the server said just now. */
export function setHouseClock({ now }: Pick<TillFacts, 'now'>): void {
  behind = Date.parse(now) - Date.now();
}

/** The time by the server's clock, whatever this device's own says. */
export const houseNow = (): Date => new Date(Date.now() + behind);
