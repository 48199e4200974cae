import { counted } from '../../core/locale.ts';
import type { TillFacts } from '../../contract/setup.ts';
import { daysToBirthday } from '../../core/people/birthday.ts';
import { houseNow } from '../shop/houseClock.ts';
import { shopDay } from '../shop/shopDay.ts';

/** A birthday nearer than this is worth saying. */
const SOON_DAYS = 14;

/** The day of a birthday as it is typed: nothing where nothing is typed, and no day where it is none. */
export const typedDay = (text: string): number | null => (text.trim() ? Number(text) || 0 : null);

/** The months of the year as the shop calls them. */
export function monthNames(facts: TillFacts | null): string[] {
  const format = new Intl.DateTimeFormat(facts?.shop.locale ?? 'en-US', { month: 'long', timeZone: 'UTC' });
  return Array.from({ length: 12 }, (_, month) => format.format(Date.UTC(2000, month, 1)));
}

/** A birthday as the shop writes it, and how near it is. */
export function birthdayWords(month: number, day: number, facts: TillFacts | null): string {
  const { locale = 'en-US', timezone = 'UTC' } = facts?.shop ?? {};
  // A leap year has every day.
  const at = new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'long', timeZone: 'UTC' }).format(
    Date.UTC(2000, month - 1, day),
  );
  const days = daysToBirthday({ month, day }, shopDay(houseNow(), timezone));
  if (days === 0) return `${at}, today`;
  return days <= SOON_DAYS ? `${at}, in ${counted(days, 'day')}` : at;
}
