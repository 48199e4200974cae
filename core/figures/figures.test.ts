import { weekdayOf } from '../day.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { oddAmong, quantileOf, usualOf } from './likeDays.ts';
import {
  comparedWith,
  COMPARISONS,
  dayOfSale,
  daysOf,
  eachDay,
  inPieces,
  likeDays,
  nthHour,
  PERIODS,
  type Comparison,
} from './period.ts';
import { changeOf, columnsFor, REPORT_NAMES, reportOf, valueOf } from './reports.ts';

const days = fc
  .tuple(fc.integer({ min: 0, max: 20_000 }), fc.integer({ min: 0, max: 800 }))
  .map(([first, many]) => ({
    from: new Date(first * 86_400_000).toISOString().slice(0, 10),
    to: new Date((first + many) * 86_400_000).toISOString().slice(0, 10),
  }));

describe('a period', () => {
  it('is put beside one as long that ends before it, by weekdays on the same weekdays', () => {
    fc.assert(
      fc.property(days, (period) => {
        for (const how of ['before', 'weekdays'] satisfies Comparison[]) {
          const beside = comparedWith(period, how);
          expect(beside && daysOf(beside)).toBe(daysOf(period));
          expect(beside && beside.to < period.from).toBe(true);
        }
        const weekdays = comparedWith(period, 'weekdays');
        expect(weekdays && weekdayOf(weekdays.from)).toBe(weekdayOf(period.from));
        expect(comparedWith(period, 'none')).toBeNull();
        expect(eachDay(period)).toHaveLength(daysOf(period));
        expect(eachDay(period).at(-1)).toBe(period.to);
      }),
    );
  });

  it('comes in pieces that hold all its days once, each with no more sales than wanted, or of one day', () => {
    const busy = days.chain((period) =>
      fc.record({
        period: fc.constant(period),
        sales: fc
          .subarray(eachDay(period))
          .chain((some) =>
            fc.tuple(...some.map((day) => fc.record({ day: fc.constant(day), count: fc.nat(60) }))),
          ),
        most: fc.integer({ min: 1, max: 100 }),
      }),
    );
    fc.assert(
      fc.property(busy, ({ period, sales, most }) => {
        const pieces = inPieces(period, sales, most);
        expect(pieces.flatMap(eachDay)).toEqual(eachDay(period));
        for (const piece of pieces) {
          const within = sales.filter(({ day, count }) => day >= piece.from && day <= piece.to && count > 0);
          const together = within.reduce((all, { count }) => all + count, 0);
          expect(together <= most || within.length === 1).toBe(true);
        }
      }),
      { numRuns: 50 },
    );
  });

  it('stands beside the year before by the calendar, also from a leap day', () => {
    expect(comparedWith({ from: '2028-02-29', to: '2028-03-31' }, 'year')).toEqual({
      from: '2027-02-28',
      to: '2027-03-31',
    });
    expect(Object.keys(COMPARISONS)).toContain('year');
  });

  it('is asked for by a word', () => {
    const day = '2026-03-02';
    expect(weekdayOf(day)).toBe(0);
    expect(Object.fromEntries(Object.entries(PERIODS).map(([name, { of }]) => [name, of(day)]))).toEqual({
      today: { from: day, to: day },
      yesterday: { from: '2026-03-01', to: '2026-03-01' },
      week: { from: day, to: day },
      'last-week': { from: '2026-02-23', to: '2026-03-01' },
      month: { from: '2026-03-01', to: day },
      'last-month': { from: '2026-02-01', to: '2026-02-28' },
      'last-quarter': { from: '2025-10-01', to: '2025-12-31' },
      'twelve-weeks': { from: '2025-12-09', to: day },
      year: { from: '2026-01-01', to: day },
    });
  });

  it('has its hours after midnight last, where it ends after midnight', () => {
    expect([9, 23, 0, 2].map((hour) => nthHour(hour, 3))).toEqual([6, 20, 21, 23]);
    expect([0, 9, 23].map((hour) => nthHour(hour, 0))).toEqual([0, 9, 23]);
  });

  it('is of the day before until the day ends', () => {
    expect([
      dayOfSale('2026-03-01', 2, 3),
      dayOfSale('2026-03-01', 3, 3),
      dayOfSale('2026-03-01', 0, 0),
    ]).toEqual(['2026-02-28', '2026-03-01', '2026-03-01']);
  });

  it('has like days on the same weekday before', () => {
    expect(likeDays('2026-03-02', 3)).toEqual(['2026-02-23', '2026-02-16', '2026-02-09']);
  });
});

describe('what is usual', () => {
  it('is said of eight like days or more', () => {
    expect(usualOf([1, 2, 3, 4, 5, 6, 7])).toBeNull();
    expect(usualOf([1, 1, 2, 2, 2, 2, 3, 90])).toEqual({ low: 2, median: 2, high: 2 });
  });

  it('lies between the least and the most, in order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer(), { minLength: 1 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (all, part) => {
          const value = quantileOf(all, part);
          expect(value).toBeGreaterThanOrEqual(Math.min(...all));
          expect(value).toBeLessThanOrEqual(Math.max(...all));
        },
      ),
    );
    expect([0, 0.25, 0.5, 1].map((part) => quantileOf([1, 2, 3, 4, 5], part))).toEqual([1, 2, 3, 5]);
  });

  it('is not moved by a strange day, and says so of another one', () => {
    const returns = [1, 2, 1, 1, 2, 40, 1, 2, 1];
    expect(oddAmong(7, returns, 2)).toEqual({ low: 1, median: 1, high: 2 });
    expect(oddAmong(2, returns, 2)).toBeNull();
    // One instead of none is no news.
    expect(oddAmong(1, [0, 0, 0, 0, 0, 0, 0, 0], 1)).toBeNull();
    expect(oddAmong(7, [1, 2, 1], 2)).toBeNull();
  });
});

describe('a report', () => {
  it('works ratios out of its figures, and says nothing where there are none', () => {
    const report = reportOf('days');
    const column = (key: string) => report.columns.find((one) => one.key === key);
    const figures = { count: 3, sold: 10_000, margin: 3_333 };
    expect(report.columns.map((one) => valueOf(one, figures))).toEqual([
      3,
      null,
      10_000,
      3333,
      null,
      3333,
      333,
    ]);
    const average = column('average');
    expect(average && valueOf(average, { count: 0, sold: 5 })).toBeNull();
  });

  it('is sorted by one of its columns, and ratios have both of their parts', () => {
    for (const name of REPORT_NAMES) {
      const report = reportOf(name);
      const keys = report.columns.map(({ key }) => key);
      expect(new Set(keys).size).toBe(keys.length);
      expect(['', ...keys]).toContain(report.sort);
      expect(report.says.endsWith('.')).toBe(true);
    }
  });

  it('shows no cost to those who may not see it', () => {
    expect(columnsFor(reportOf('items'), false).map(({ key }) => key)).toEqual(['quantity', 'sold']);
    expect(columnsFor(reportOf('items'), true)).toHaveLength(5);
  });

  it('says how much more it is, unless there was nothing', () => {
    expect([changeOf(150, 100), changeOf(50, -100), changeOf(5, 0), changeOf(null, 5)]).toEqual([
      500,
      1500,
      null,
      null,
    ]);
  });
});
