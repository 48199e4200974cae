import { dayLater, daysBetween, monthOf, weekdayOf } from '../day.ts';

/** Days of the shop, `YYYY-MM-DD`, both included. */
export interface Period {
  from: string;
  to: string;
}

/** What a period is put beside. */
export const COMPARISONS = {
  none: 'Nothing',
  before: 'The days before',
  weekdays: 'Same weekdays',
  year: 'The year before',
} as const;
export type Comparison = keyof typeof COMPARISONS;

/** The most days that one question may be about: each of them is written down for a trend. */
export const MOST_DAYS = 4000;

/** The shop's day at an hour of a calendar day: until it ends, so many hours after midnight, it is the one before. */
export const dayOfSale = (day: string, hour: number, dayEnds: number): string =>
  hour < dayEnds ? dayLater(day, { days: -1 }) : day;

/** Which of the hours of the shop's day it is, from 0: after midnight come those until the day ends. */
export const nthHour = (hour: number, dayEnds: number): number => (hour - dayEnds + 24) % 24;

/** How many days a period has. */
export const daysOf = ({ from, to }: Period): number => daysBetween(from, to) + 1;

/** Each day of a period, the earliest first. */
export const eachDay = (period: Period): string[] =>
  Array.from({ length: Math.max(0, daysOf(period)) }, (_, at) => dayLater(period.from, { days: at }));

/**
 * A period in pieces of so many sales at most, or of one day.
 * @param sales how many there were, by day, the earliest first; days without any may be left out
 */
export function inPieces(
  period: Period,
  sales: readonly { day: string; count: number }[],
  most: number,
): Period[] {
  const pieces: Period[] = [];
  let { from } = period;
  let together = 0;
  for (const { day, count } of sales) {
    if (together + count > most && day > from) {
      pieces.push({ from, to: dayLater(day, { days: -1 }) });
      [from, together] = [day, 0];
    }
    together += count;
  }
  return [...pieces, { from, to: period.to }];
}

/** The period that another one is put beside: as long, or by the calendar; nothing where there is none. */
export function comparedWith(period: Period, how: Comparison): Period | null {
  const days = daysOf(period);
  const by = {
    none: null,
    before: { days: -days },
    // Whole weeks, so that a Monday stands beside a Monday.
    weekdays: { days: -7 * Math.ceil(days / 7) },
    year: { months: -12 },
  }[how];
  return by && { from: dayLater(period.from, by), to: dayLater(period.to, by) };
}

/** So many of the same weekday before a day, the nearest first. */
export const likeDays = (day: string, many: number): string[] =>
  Array.from({ length: many }, (_, at) => dayLater(day, { days: -7 * (at + 1) }));

/** The days from the first of a month until the last of the month so many months later. */
const months = (first: string, many: number): Period => ({
  from: first,
  to: dayLater(dayLater(first, { months: many }), { days: -1 }),
});
const mondayOf = (day: string): string => dayLater(day, { days: -weekdayOf(day) });
const quarterOf = (day: string): string =>
  dayLater(monthOf(day), { months: -((Number(day.slice(5, 7)) - 1) % 3) });

/** Periods that are asked for by a word, as of a day. */
export const PERIODS = {
  today: { words: 'Today', of: (day: string): Period => ({ from: day, to: day }) },
  yesterday: {
    words: 'Yesterday',
    of: (day: string): Period => comparedWith({ from: day, to: day }, 'before') ?? { from: day, to: day },
  },
  week: { words: 'This week', of: (day: string): Period => ({ from: mondayOf(day), to: day }) },
  'last-week': {
    words: 'Last week',
    of: (day: string): Period => ({
      from: dayLater(mondayOf(day), { days: -7 }),
      to: dayLater(mondayOf(day), { days: -1 }),
    }),
  },
  month: { words: 'This month', of: (day: string): Period => ({ from: monthOf(day), to: day }) },
  'last-month': {
    words: 'Last month',
    of: (day: string): Period => months(dayLater(monthOf(day), { months: -1 }), 1),
  },
  'last-quarter': {
    words: 'Last quarter',
    of: (day: string): Period => months(dayLater(quarterOf(day), { months: -3 }), 3),
  },
  'twelve-weeks': {
    words: 'Twelve weeks',
    of: (day: string): Period => ({ from: dayLater(day, { days: -83 }), to: day }),
  },
  year: { words: 'This year', of: (day: string): Period => ({ from: `${day.slice(0, 4)}-01-01`, to: day }) },
} as const;
export type PeriodName = keyof typeof PERIODS;
