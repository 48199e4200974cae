// Days of the calendar, written `YYYY-MM-DD`: they have neither hour nor time zone, and are counted as those of UTC.

export const DAY_MS = 86_400_000;

const startOf = (day: string): number => Date.parse(`${day}T00:00:00Z`);

/** Whether a day is in the calendar, written `2026-03-02`. */
export const isDay = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) &&
  !Number.isNaN(startOf(text)) &&
  new Date(startOf(text)).toISOString().startsWith(text);

/** The day so many days, or months, later; a month that is too short ends at its last day. @throws RangeError */
export function dayLater(day: string, by: { days?: number; months?: number }): string {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number);
  const last = new Date(Date.UTC(year, month + (by.months ?? 0), 0)).getUTCDate();
  const at = Date.UTC(year, month - 1 + (by.months ?? 0), Math.min(date, last) + (by.days ?? 0));
  return new Date(at).toISOString().slice(0, 10);
}

/** How many days one day is after another; below zero where it is before. */
export const daysBetween = (from: string, to: string): number => (startOf(to) - startOf(from)) / DAY_MS;

/** The weekday of a day: Monday is 0. */
export const weekdayOf = (day: string): number => (new Date(startOf(day)).getUTCDay() + 6) % 7;

/** The first day of the month of a day. */
export const monthOf = (day: string): string => `${day.slice(0, 8)}01`;

/** The last day of the month of a day. */
export const lastOfMonth = (day: string): string =>
  dayLater(dayLater(monthOf(day), { months: 1 }), { days: -1 });
