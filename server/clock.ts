import { DateTime } from 'luxon';
import { dayOfSale } from '../core/figures/period.ts';

/** Tells the time; tests and pictures use one that stands still. */
export interface Clock {
  now(): Date;
}

export function clockOf(fixed: Date | undefined): Clock {
  return { now: () => fixed ?? new Date() };
}

/** A timestamp as SQL writes it, by itself or in JSON, as a point in time. @throws RangeError where it is none */
export function instant(sqlTimestamp: string): DateTime<true> {
  const bySql = DateTime.fromSQL(sqlTimestamp, { zone: 'UTC' });
  const at = bySql.isValid ? bySql : DateTime.fromISO(sqlTimestamp, { zone: 'UTC' });
  // A time that is none would be reckoned with: whoever waits for it would not wait at all.
  if (!at.isValid) throw new RangeError(`${sqlTimestamp} is no point in time.`);
  return at;
}

/** The same, where there may be none. */
export const momentOf = (sqlTimestamp: string | null): Date | null =>
  sqlTimestamp === null ? null : instant(sqlTimestamp).toJSDate();

/** A point in time as JSON carries it. */
export function iso(sqlTimestamp: string): string {
  return instant(sqlTimestamp).toJSDate().toISOString();
}

/** The shop's calendar day, `YYYY-MM-DD`. */
export function businessDate(at: Date, timezone: string): string {
  return DateTime.fromJSDate(at, { zone: timezone }).toISODate() ?? '';
}

/**
 * The shop's day that a moment belongs to, `YYYY-MM-DD`: until it ends, so many hours after midnight, it is that of
 * before.
 */
export function saleDay(at: Date, { timezone, dayEnds }: { timezone: string; dayEnds: number }): string {
  const there = DateTime.fromJSDate(at, { zone: timezone });
  return dayOfSale(there.toISODate() ?? '', there.hour, dayEnds);
}

/** When the shop's next day begins. */
export const nextDay = (at: Date, timezone: string): Date =>
  DateTime.fromJSDate(at, { zone: timezone }).plus({ days: 1 }).startOf('day').toJSDate();

/** The shop's time of day, `HH:MM`. */
export function timeOfDay(at: Date, timezone: string): string {
  return DateTime.fromJSDate(at, { zone: timezone }).toFormat('HH:mm');
}

/** Date and time as the shop writes them, for paper. */
export function shopTime(
  at: Date | string,
  { locale, timezone }: { locale: string; timezone: string },
): string {
  const time = typeof at === 'string' ? instant(at) : DateTime.fromJSDate(at);
  return time
    .setZone(timezone)
    .reconfigure({ locale, outputCalendar: 'gregory' })
    .toLocaleString(DateTime.DATETIME_SHORT)
    .replaceAll('\u202f', ' ');
}
