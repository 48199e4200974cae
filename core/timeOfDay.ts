import { localeOfShop, plainSpaces } from './locale.ts';

// Times of day, written `14:30`: they have neither day nor time zone.

const formats = new Map<string, Intl.DateTimeFormat>();
function formatOf(locale: string): Intl.DateTimeFormat {
  let format = formats.get(locale);
  if (!format) {
    format = new Intl.DateTimeFormat(locale, { hour: 'numeric', minute: '2-digit', timeZone: 'UTC' });
    formats.set(locale, format);
  }
  return format;
}

/** A time of day, `14:30`, as it is written where the shop is, e.g. `2:30 PM`; what is none stays as it is. */
export function formatTimeOfDay(time: string, locale = localeOfShop()): string {
  const at = Date.parse(`1970-01-01T${time}:00Z`);
  // The end of a day has a number of its own: written as a time it would be its beginning.
  return Number.isNaN(at) || time === '24:00' ? time : plainSpaces(formatOf(locale).format(at));
}

/** What a locale calls the half of the day of an hour; nothing where it counts to 24. */
const halfOf = (hour: number, locale: string): string =>
  formatOf(locale)
    .formatToParts(Date.UTC(1970, 0, 1, hour))
    .find(({ type }) => type === 'dayPeriod')
    ?.value.toLowerCase() ?? '';
const letters = (text: string): string => text.toLowerCase().replaceAll(/[^\p{L}]/gu, '');

/**
 * Reads a time of day as people type it: `9`, `930`, `9:30`, `9.30`, `9:30 pm`.
 * @returns `09:30`, or `null` where the text is no time
 */
export function parseTimeOfDay(text: string, locale = localeOfShop()): string | null {
  const match = /^(\D*)(\d{1,2})[:.h\s]*(\d{2})?(\D*)$/u.exec(plainSpaces(text.trim()));
  if (!match) return null;
  const [, before = '', hours = '', minutes = '00', after = ''] = match;
  const half = letters(before + after);
  // Whatever else a language calls its hours, times are written with the words of 9 and of 21 o'clock.
  const is = (hour: number, latin: string) =>
    half !== '' && (half === latin || half === latin[0] || half === letters(halfOf(hour, locale)));
  const [morning, evening] = [is(9, 'am'), is(21, 'pm')];
  if (half !== '' && !morning && !evening) return null;
  const typed = Number(hours);
  if ((morning || evening) && (typed === 0 || typed > 12)) return null;
  const hour = morning || evening ? (typed % 12) + (evening ? 12 : 0) : typed;
  const time = `${String(hour).padStart(2, '0')}:${minutes}`;
  return /^(?:[01]\d|2[0-3]):[0-5]\d$|^24:00$/.test(time) ? time : null;
}
