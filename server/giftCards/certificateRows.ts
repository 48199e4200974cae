import { parse } from 'csv-parse/sync';
import { fieldProblem } from '../http/problem.ts';

/** A line of a list of certificates, as it is written. */
export interface CertificateRow {
  /** `Line 3`. */
  line: string;
  number: string;
  amount: string;
  expires: string;
  once: string;
}

type Column = Exclude<keyof CertificateRow, 'line'>;

/** What headings may say; without any, the columns stand in this order. */
const HEADINGS: Readonly<Record<Column, readonly string[]>> = {
  number: ['number', 'certificate', 'code'],
  amount: ['amount', 'balance', 'value'],
  expires: ['expires', 'until', 'last day'],
  once: ['once', 'single'],
};
const COLUMNS = Object.keys(HEADINGS) as Column[];

/**
 * Reads a list with commas, semicolons or tabs between its columns. The first line is headings only where it names the
 * number and the amount; columns with other names are passed over.
 * @throws Problem 422
 */
export function certificateRows(text: string): CertificateRow[] {
  let rows: string[][];
  try {
    rows = parse(text, {
      trim: true,
      skipEmptyLines: true,
      relaxColumnCount: true,
      bom: true,
      delimiter: [',', ';', '\t'],
    });
  } catch (error) {
    throw fieldProblem('csv', `The file cannot be read: ${(error as Error).message}`);
  }
  const first = (rows[0] ?? []).map((heading) => heading.toLowerCase());
  const named = (column: Column) => first.findIndex((heading) => HEADINGS[column].includes(heading));
  const headed = named('number') >= 0 && named('amount') >= 0;
  const placeOf = (column: Column) => (headed ? named(column) : COLUMNS.indexOf(column));
  const cell = (row: readonly string[], column: Column) => row[placeOf(column)] ?? '';
  return rows.slice(headed ? 1 : 0).map((row, at) => ({
    line: `Line ${at + (headed ? 2 : 1)}`,
    number: cell(row, 'number'),
    amount: cell(row, 'amount'),
    expires: cell(row, 'expires'),
    once: cell(row, 'once'),
  }));
}
