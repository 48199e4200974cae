import { stringify } from 'csv-stringify/sync';
import { plainAmount } from '../core/ledger/accountingJournal.ts';
import type { Money } from '../core/money.ts';

/** What stands in a cell: words, a number, or an amount of money. */
export type CsvCell = string | number | null | { amount: Money };

/** A spreadsheet would take words that begin so for a formula. */
const FORMULA = /^[=+\-@\t\r]/;

/**
 * Comma-separated values as RFC 4180 has them, the only way in which the shop writes them: amounts without thousands
 * marks and with a plain minus, and no words that a spreadsheet would compute.
 * @param digits of the shop's currency
 */
export function csv(
  headings: readonly string[],
  rows: readonly (readonly CsvCell[])[],
  digits: number,
): string {
  const written = (cell: CsvCell): string | number => {
    if (cell === null) return '';
    if (typeof cell === 'object') return plainAmount(cell.amount, digits);
    return typeof cell === 'string' && FORMULA.test(cell) ? `'${cell}` : cell;
  };
  return stringify([[...headings], ...rows.map((row) => row.map(written))], { record_delimiter: 'windows' });
}
