import { changeOf, type ReportColumn, type RowKind } from '../../core/figures/reports.ts';
import { formatCount } from '../../core/locale.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** In tenths of a per cent. */
const TENFOLD = 10_000;

/** How figures and what they are of are written where the shop is. */
export function useWritten() {
  const till = useTillStore();
  const locale = till.facts?.shop.locale ?? 'en-US';
  const of = (options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(locale, { ...options, calendar: 'gregory', timeZone: 'UTC' });
  const weekday = of({ weekday: 'long' });
  const month = of({ month: 'long', year: 'numeric' });
  const short = of({ weekday: 'short', day: 'numeric', month: 'short' });
  const long = of({ weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' });
  const tenths = new Intl.NumberFormat(locale, { minimumFractionDigits: 1, maximumFractionDigits: 1 });
  const at = (day: string) => new Date(`${day}T00:00Z`);

  function number(column: Pick<ReportColumn, 'kind'>, value: number | null): string {
    if (value === null) return '–';
    if (column.kind === 'money') return till.money(value);
    if (column.kind === 'quantity') return formatQuantity(value);
    if (column.kind === 'percent') return `${tenths.format(value / 10)} %`;
    return column.kind === 'days' ? `${formatCount(value)} days` : formatCount(value);
  }
  /** How much more than before, with its sign: `+12.0 %`; from ten times more on how many times: `×12.5`. */
  function change(now: number | null, before: number | null): string {
    const part = changeOf(now, before);
    if (part === null) return '';
    if (part >= TENFOLD) return `×${tenths.format(part / 1000 + 1)}`;
    return `${part > 0 ? '+' : ''}${tenths.format(part / 10)} %`;
  }
  function name(kind: RowKind, words: string): string {
    if (kind === 'day') return long.format(at(words));
    if (kind === 'month') return month.format(at(`${words}-01`));
    // The first of January 2024 was a Monday.
    if (kind === 'weekday') return weekday.format(at(`2024-01-0${words}`));
    return words;
  }
  /** A weekday by its number, Monday as 0, in a few letters. */
  const shortWeekday = (nth: number) => of({ weekday: 'short' }).format(at(`2024-01-0${nth + 1}`));

  return {
    number,
    change,
    name,
    shortDay: (day: string) => short.format(at(day)),
    day: (day: string) => long.format(at(day)),
    shortWeekday,
  };
}
