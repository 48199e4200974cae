import { formatDay } from '../../core/locale.ts';
import { REPORT_PAGE, type ReportAnswer, type ReportQuery } from '../../contract/figures.ts';
import {
  columnsFor,
  reportOf,
  valueOf,
  type Figures,
  type ReportColumn,
  type ReportName,
} from '../../core/figures/reports.ts';
import { formatMoneyIn } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { csv, type CsvCell } from '../csv.ts';
import type { Reader } from '../db/database.ts';
import { makePdf } from '../pdf.ts';
import { readShop } from '../shop/store.ts';
import { lacksOf } from './lacks.ts';
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
      words,
      ...(rows.some((row) => row.more !== '') ? [more] : []),
      ...columns.map((column) => cell(column, now)),
      ...(before ? columns.map((column) => cell(column, before)) : []),
    ]),
    { digits: currencyOf(shop.currency).digits, timezone: shop.timezone },
  );
}

/** The most rows that a report has on paper. */
const ON_PAPER = 1000;

/** A report on paper: what it says, its days, its rows and totals. */
export async function reportPdf(
  sql: Reader,
  name: ReportName,
  query: ReportQuery,
  costs: boolean,
): Promise<Buffer> {
  const shop = await readShop(sql);
  const report = reportOf(name);
  const { digits } = currencyOf(shop.currency);
  const { rows, count, totals, beside } = await findReport(sql, name, query, shop, {
    most: ON_PAPER,
    offset: 0,
  });
  const columns = columnsFor(report, costs, query.without.split(','));
  const day = (one: string) => formatDay(one, shop.receiptLocale);
  const text = (column: ReportColumn, figures: Figures): string => {
    const value = valueOf(column, figures);
    if (value === null) return '';
    if (column.kind === 'money') return formatMoneyIn(shop.receiptLocale, value, digits);
    if (column.kind === 'quantity') return formatQuantity(value);
    return column.kind === 'percent' ? `${(value / 10).toFixed(1)} %` : String(value);
  };
  const line = (words: string, now: Figures, before: Figures | null, bold: boolean) => [
    { text: words, bold },
    ...columns.flatMap((column) => [
      { text: text(column, now), alignment: 'right' as const, bold },
      ...(before ? [{ text: text(column, before), alignment: 'right' as const, color: '#555555' }] : []),
    ]),
  ];
  const heads = columns.flatMap(({ words }) => [words, ...(beside ? ['before'] : [])]);
  return makePdf({
    pageOrientation: heads.length > 5 ? 'landscape' : 'portrait',
    pageMargins: [36, 36, 36, 36],
    defaultStyle: { font: 'Mono', fontSize: heads.length > 8 ? 6.5 : 8 },
    footer: (page, pages) => ({ text: `${page} of ${pages}`, alignment: 'center', fontSize: 8 }),
    content: [
      { text: `${shop.name}: ${report.title}`, fontSize: 14, bold: true },
      {
        text: report.asOf
          ? `At the end of ${day(query.to)}`
          : `${day(query.from)} to ${day(query.to)}${beside ? `, beside ${day(beside.from)} to ${day(beside.to)}` : ''}`,
        margin: [0, 4],
      },
      { text: report.says, margin: [0, 0, 0, 8] },
      {
        layout: 'lightHorizontalLines',
        table: {
          headerRows: 1,
          widths: ['*', ...heads.map(() => 'auto')],
          body: [
            [report.first, ...heads].map((words, at) => ({
              text: words,
              bold: true,
              alignment: at === 0 ? ('left' as const) : ('right' as const),
            })),
            ...rows.map((row) =>
              line(row.more ? `${row.name} (${row.more})` : row.name, row.now, row.before, false),
            ),
            line('Together', totals.now, totals.before, true),
          ],
        },
      },
      ...(count > ON_PAPER
        ? [{ text: `${count - ON_PAPER} rows more are in the CSV.`, margin: [0, 8] as [number, number] }]
        : []),
    ],
  });
}
