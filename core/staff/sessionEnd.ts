/** The night is over at this hour of the shop's day: nobody is still signed in from the evening before. */
const NIGHT_ENDS_HOUR = 4;
const HOUR_MS = 3_600_000;

/**
 * Whether a night has passed since somebody signed in.
 * @param dayOf the shop's calendar day at an instant
 */
export function nightPassed(startedAt: Date, now: Date, dayOf: (at: Date) => string): boolean {
  const shiftDay = (at: Date) => dayOf(new Date(at.getTime() - NIGHT_ENDS_HOUR * HOUR_MS));
  return shiftDay(now) > shiftDay(startedAt);
}
