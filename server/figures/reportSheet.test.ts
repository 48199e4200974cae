import { expect, it } from 'vitest';
import { columnsFor, reportOf, type ReportName } from '../../core/figures/reports.ts';
import { reportSheet } from './reportSheet.ts';

const DAYS = { from: '2026-02-01', to: '2026-03-01' };

/** The first cells of the rows of a report on paper, and its sheet. */
function onPaper(name: ReportName, key: string, receiptLocale: string, more = '') {
  const report = reportOf(name);
  const columns = columnsFor(report, true);
  const now = Object.fromEntries(columns.map((column) => [column.key, 12_345]));
  const row = { key, name: key, more, now, before: null };
  const found = { rows: [row], count: 1, totals: { now, before: null }, beside: null };
  const shop = { name: 'Quayside Strings', currency: 'EUR', receiptLocale };
  const sheet = reportSheet(report, columns, DAYS, found, shop);
  const text = JSON.stringify(sheet.content);
  return { pageSize: sheet.pageSize, text };
}

it('a report on paper calls its days, months, weekdays and hours what people call them', () => {
  expect(onPaper('days', '2026-03-01', 'en-US').text).toContain('"Sun, Mar 1, 2026"');
  expect(onPaper('months', '2026-03', 'en-US').text).toContain('"March 2026"');
  expect(onPaper('weekdays', '7', 'en-US').text).toContain('"Sunday"');
  expect(onPaper('hours', '14:00', 'en-US').text).toContain('"2:00 PM"');
  expect(onPaper('hours', '14:00', 'de-DE').text).toContain('"14:00"');
  expect(onPaper('taxes', 'Sales tax 7.5 %', 'de-DE').text).toContain('"Sales tax 7,5 %"');
  const shift = onPaper('over-short', 'Till 1, shift 4', 'en-US', 'Quayside, 2026-02-28, Teo V.');
  expect(shift.text).toContain('"Till 1, shift 4 (Quayside, Feb 28, 2026, Teo V.)"');
});

it('a report on paper is of the size of the sheets where the shop is, and its figures are written as there', () => {
  const [here, there] = [onPaper('items', 'MET-W', 'en-US'), onPaper('items', 'MET-W', 'de-DE')];
  expect([here.pageSize, there.pageSize]).toEqual(['LETTER', 'A4']);
  expect(here.text).toContain('"123.45"');
  expect(there.text).toContain('"123,45"');
});
