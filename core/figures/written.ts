import {
  counted,
  formatCount,
  formatDay,
  formatMonth,
  formatTenths,
  formatThousandths,
  signsOf,
} from '../locale.ts';
import { formatMoneyIn } from '../money.ts';
import { ONE } from '../quantity.ts';
import { formatTimeOfDay } from '../timeOfDay.ts';
import { changeOf, type ReportColumn, type RowKind } from './reports.ts';

/** In tenths of a per cent. */
const TENFOLD = 10_000;

/** How figures, and what they are of, are written in a language, on screens as on paper. */
export function writtenIn(locale: string, digits: number) {
  const of = (options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(locale, { ...options, calendar: 'gregory', timeZone: 'UTC' });
  const weekday = of({ weekday: 'long' });
  const shortWeekday = of({ weekday: 'short' });
  const short = of({ weekday: 'short', day: 'numeric', month: 'short' });
  const long = of({ weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' });
  const at = (day: string) => new Date(`${day}T00:00Z`);
  /** The first of January 2024 was a Monday. */
  const nthWeekday = (nth: number) => at(`2024-01-0${nth}`);

  function number(column: Pick<ReportColumn, 'kind'>, value: number | null): string {
    if (value === null) return '–';
    if (column.kind === 'money') return formatMoneyIn(locale, value, digits);
    if (column.kind === 'quantity') return formatThousandths(value / ONE, locale);
    if (column.kind === 'percent') return `${formatTenths(value / 10, locale)} %`;
    return column.kind === 'days' ? counted(value, 'day') : formatCount(value);
  }
  /** How much more than before, with its sign: `+12.0 %`; from ten times more on how many times: `×12.5`. */
  function change(now: number | null, before: number | null): string {
    const part = changeOf(now, before);
    if (part === null) return '';
    if (part >= TENFOLD) return `×${formatTenths(part / 1000 + 1, locale)}`;
    return `${part > 0 ? '+' : ''}${formatTenths(part / 10, locale)} %`;
  }
  /**
   * What a row is called.
   * @param key as the report has it: `2026-03-02`, `2026-03`, `1` for Monday, `14:00`, `Tax 7.5 %`
   */
  function name(kind: RowKind, key: string): string {
    if (kind === 'day') return long.format(at(key));
    if (kind === 'month') return formatMonth(key, locale);
    if (kind === 'weekday') return weekday.format(nthWeekday(Number(key)));
    if (kind === 'rate') return key.replace(/\.(?=\d+ %$)/, signsOf(locale).decimal);
    return kind === 'hour' ? formatTimeOfDay(key, locale) : key;
  }
  /** What is said beneath its name, with its days as they are written. */
  const more = (words: string) => words.replaceAll(/\b\d{4}-\d{2}-\d{2}\b/g, (day) => formatDay(day, locale));

  return {
    number,
    change,
    name,
    more,
    shortDay: (day: string) => short.format(at(day)),
    day: (day: string) => long.format(at(day)),
    /** A weekday in a few letters. @param nth Monday as 0 */
    shortWeekday: (nth: number) => shortWeekday.format(nthWeekday(nth + 1)),
  };
}
