import { REPORT_PAGE, type ReportAnswer, type ReportQuery } from '../../contract/figures.ts';
import {
  columnsFor,
  reportOf,
  valueOf,
  type Figures,
  type ReportColumn,
  type ReportName,
} from '../../core/figures/reports.ts';
import { writtenIn } from '../../core/figures/written.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { csv, type CsvCell } from '../csv.ts';
import type { Reader } from '../db/database.ts';
import { makePdf } from '../pdf.ts';
import { readShop } from '../shop/store.ts';
import { lacksOf } from './lacks.ts';
import { ON_PAPER, reportSheet } from './reportSheet.ts';
import { findReport } from './reportStore.ts';

/** Figures that say what goods cost, also where no column of that name stands. */
const COST_KEYS = ['cost', 'margin'];
const shown = (figures: Figures, costs: boolean): Figures =>
  costs ? figures : Object.fromEntries(Object.entries(figures).filter(([key]) => !COST_KEYS.includes(key)));

/** A page of a report. @param costs whether whoever asks sees what goods cost */
export async function reportPage(
  sql: Reader,
  name: ReportName,
  query: ReportQuery,
  costs: boolean,
): Promise<ReportAnswer> {
  const part = { most: REPORT_PAGE, offset: query.page * REPORT_PAGE };
  const shop = await readShop(sql);
  const [{ rows, count, totals, beside }, lacks] = await Promise.all([
    findReport(sql, name, query, shop, part),
    lacksOf(sql, name, costs),
  ]);
  return {
    name,
    rows: rows.map((row) => ({
      ...row,
      now: shown(row.now, costs),
      before: row.before && shown(row.before, costs),
    })),
    count,
    totals: { now: shown(totals.now, costs), before: totals.before && shown(totals.before, costs) },
    period: { from: query.from, to: query.to },
    beside,
    lacks,
  };
}

const UNITS: Readonly<Record<string, string>> = { percent: ' %', days: ' (days)' };

/** All rows of a report as comma-separated values: plain numbers, and those of the period beside it after them. */
export async function reportCsv(
  sql: Reader,
  name: ReportName,
  query: ReportQuery,
  costs: boolean,
): Promise<string> {
  const shop = await readShop(sql);
  const report = reportOf(name);
  const { rows, beside } = await findReport(sql, name, query, shop, null);
  const columns = columnsFor(report, costs, query.without.split(','));
  const { digits } = currencyOf(shop.currency);
  const written = writtenIn(shop.locale, digits);
  const cell = (column: ReportColumn, figures: Figures): CsvCell => {
    const value = valueOf(column, figures);
    if (value === null) return '';
    if (column.kind === 'money') return { amount: value };
    if (column.kind === 'quantity') return formatQuantity(value);
    return column.kind === 'percent' ? value / 10 : value;
  };
  const heading = ({ words, kind }: ReportColumn) =>
    words.endsWith('%') ? words : `${words}${UNITS[kind] ?? ''}`;
  return csv(
    [
      report.first,
      ...(rows.some(({ more }) => more !== '') ? ['More'] : []),
      ...columns.map(heading),
      ...(beside ? columns.map((column) => `${heading(column)} before`) : []),
    ],
    rows.map(({ name: words, more, now, before }) => [
      // A day and a month stay as programs read them; the number of a weekday would say nothing.
      report.rows === 'weekday' ? written.name('weekday', words) : words,
      ...(rows.some((row) => row.more !== '') ? [more] : []),
      ...columns.map((column) => cell(column, now)),
      ...(before ? columns.map((column) => cell(column, before)) : []),
    ]),
    { digits, timezone: shop.timezone },
  );
}

/** A report on paper: what it says, its days, its rows and totals. */
export async function reportPdf(
  sql: Reader,
  name: ReportName,
  query: ReportQuery,
  costs: boolean,
): Promise<Buffer> {
  const shop = await readShop(sql);
  const found = await findReport(sql, name, query, shop, { most: ON_PAPER, offset: 0 });
  const columns = columnsFor(reportOf(name), costs, query.without.split(','));
  return makePdf(reportSheet(reportOf(name), columns, query, found, shop));
}
