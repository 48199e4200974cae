import { DateTime } from 'luxon';
import type { Period } from '../../core/figures/period.ts';

/** Where the shop's clock stands, and how many hours after midnight its day ends. */
export interface ShopClock {
  timezone: string;
  dayEnds: number;
}

/** When a day of the shop begins, also where clocks are put on or back that night. */
const beginOf = (day: string, after: number, { timezone, dayEnds }: ShopClock): string =>
  DateTime.fromISO(day, { zone: timezone }).plus({ days: after }).set({ hour: dayEnds }).toUTC().toISO() ??
  day;

/** The first moment of a period of the shop's days, and the first after it; ISO 8601, UTC. */
export const businessDays = ({ from, to }: Period, clock: ShopClock): { since: string; until: string } => ({
  since: beginOf(from, 0, clock),
  until: beginOf(to, 1, clock),
});
