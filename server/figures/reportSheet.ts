import type { ReportQuery } from '../../contract/figures.ts';
import { valueOf, type Figures, type Report, type ReportColumn } from '../../core/figures/reports.ts';
import { writtenIn } from '../../core/figures/written.ts';
import { counted, formatDay } from '../../core/locale.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { pageSizeOf, type Sheet } from '../pdf.ts';
import type { ShopRow } from '../shop/store.ts';
import type { FoundReport } from './reportStore.ts';

/** The most rows that a report has on paper. */
export const ON_PAPER = 1000;

/** What stands on the paper of a report. */
export function reportSheet(
  report: Report,
  columns: readonly ReportColumn[],
  { from, to }: Pick<ReportQuery, 'from' | 'to'>,
  { rows, count, totals, beside }: FoundReport,
  shop: Pick<ShopRow, 'name' | 'currency' | 'receiptLocale'>,
): Sheet {
  const written = writtenIn(shop.receiptLocale, currencyOf(shop.currency).digits);
  const day = (one: string) => formatDay(one, shop.receiptLocale);
  const text = (column: ReportColumn, figures: Figures): string => {
    const value = valueOf(column, figures);
    return value === null ? '' : written.number(column, value);
  };
  const line = (words: string, now: Figures, before: Figures | null, bold: boolean) => [
    { text: words, bold },
    ...columns.flatMap((column) => [
      { text: text(column, now), alignment: 'right' as const, bold },
      ...(before ? [{ text: text(column, before), alignment: 'right' as const, color: '#555555' }] : []),
    ]),
  ];
  const heads = columns.flatMap(({ words }) => [words, ...(beside ? ['before'] : [])]);
  return {
    pageSize: pageSizeOf(shop.receiptLocale),
    pageOrientation: heads.length > 5 ? 'landscape' : 'portrait',
    pageMargins: [36, 36, 36, 36],
    defaultStyle: { font: 'Mono', fontSize: heads.length > 8 ? 6.5 : 8 },
    numbered: true,
    content: [
      { text: `${shop.name}: ${report.title}`, fontSize: 14, bold: true },
      {
        text: report.asOf
          ? `At the end of ${day(to)}`
          : `${day(from)} to ${day(to)}${beside ? `, beside ${day(beside.from)} to ${day(beside.to)}` : ''}`,
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
            ...rows.map(({ name, more, now, before }) => {
              const words = written.name(report.rows, name);
              return line(more ? `${words} (${written.more(more)})` : words, now, before, false);
            }),
            line('Together', totals.now, totals.before, true),
          ],
        },
      },
      ...(count > ON_PAPER
        ? [
            {
              text: `${counted(count - ON_PAPER, 'row more is', 'rows more are')} in the CSV.`,
              margin: [0, 8] as [number, number],
            },
          ]
        : []),
    ],
  };
}
