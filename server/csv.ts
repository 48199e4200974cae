import { stringify } from 'csv-stringify/sync';
import { DateTime } from 'luxon';
import { plainAmount } from '../core/books/accountingJournal.ts';
import type { Money } from '../core/money.ts';

/** What stands in a cell: words, a number, an amount of money, or a point in time (ISO 8601, UTC). */
export type CsvCell = string | number | null | { amount: Money } | { at: string };

/** What amounts and times are written by: decimals of the shop's currency, and its time zone. */
export interface CsvPlace {
  digits: number;
  timezone: string;
}

/** A spreadsheet would take words that begin so for a formula. */
const FORMULA = /^[=+\-@\t\r]/;

/**
 * Comma-separated values as RFC 4180 has them, the only way in which the shop writes them: amounts without thousands
 * marks and with a plain minus, times as the shop's clock shows them with their offset from UTC, and no words that a
 * spreadsheet would compute.
 */
export function csv(
  headings: readonly string[],
  rows: readonly (readonly CsvCell[])[],
  { digits, timezone }: CsvPlace,
): string {
  const written = (cell: CsvCell): string | number => {
    if (cell === null) return '';
    if (typeof cell === 'object') {
      if ('amount' in cell) return plainAmount(cell.amount, digits);
      return DateTime.fromISO(cell.at, { zone: timezone }).toISO({ suppressMilliseconds: true }) ?? cell.at;
    }
    return typeof cell === 'string' && FORMULA.test(cell) ? `'${cell}` : cell;
  };
  return stringify([[...headings], ...rows.map((row) => row.map(written))], { record_delimiter: 'windows' });
}
