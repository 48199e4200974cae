import { dayLater, daysBetween } from '../day.ts';
import type { Money } from '../money.ts';
import type { PointsRate } from '../offers/pointsOff.ts';
import type { Rate } from '../rate.ts';
import { counted, WEEKDAYS, formatCount, formatDay } from '../locale.ts';

/** What a shop gives points for. */
export interface Programme extends PointsRate {
  on: boolean;
  /** What points are called: `beats`. */
  word: string;
  /** So many points for each so much of money, in minor units. */
  given: number;
  per: number;
  /** Points end so many months after they were earned; 0 for never. */
  months: number;
  /** What comes back into points that have ended can be used for so many days. */
  backDays: number;
  /** Who joins so many days after a sale still gets its points. */
  joinDays: number;
  /** What the books hold for a point, in millionths of a minor unit; 0 where points are not valued. */
  worth: number;
  /** Which part of all points is expected to be used. */
  use: Rate;
}

/** What of the programme says what points take off. */
export type PointsAsMoney = Pick<Programme, 'on' | 'word' | keyof PointsRate>;

/** What a thousand points are worth, from what one is; and back: people think of no less than a thousand. */
export const thousandWorth = (worth: number): Money => Math.round(worth / 1_000);
export const pointWorth = (thousand: Money): number => thousand * 1_000;

/** What a sale did to the points of its customer. */
export interface PointsOfSale {
  customerId: number;
  customer: string;
  earned: number;
  used: number;
  /** What they had when the sale was done. */
  balance: number;
}

/** An amount of points as it is said: `1,240 beats`. */
export const pointsWords = (points: number, { word }: Pick<Programme, 'word'>): string =>
  `${formatCount(points)} ${word}`;

/** A sale of which somebody wants the points afterwards. */
export interface JoinedSale {
  /** The shop's day on which it was finished. */
  day: string;
  customerId: number | null;
  voided: boolean;
  /** Who got its points; `null` where nobody did. */
  givenTo: string | null;
  /** Whether anything that was sold is left of it. */
  goods: boolean;
}

/**
 * Why the points of a sale cannot be given to somebody afterwards; `null` where they can. @param customerId anybody,
 * where it is `null`
 */
export function joinProblem(
  sale: JoinedSale,
  { word, joinDays }: Pick<Programme, 'word' | 'joinDays'>,
  today: string,
  customerId: number | null,
): string | null {
  if (sale.givenTo !== null) return `Its ${word} went to ${sale.givenTo}.`;
  if (sale.voided) return 'This sale was voided.';
  if (!sale.goods) return `There is nothing in it that gives ${word}.`;
  if (sale.customerId !== null && customerId !== null && sale.customerId !== customerId)
    return 'This sale was for somebody else.';
  if (daysBetween(sale.day, today) > joinDays)
    return joinDays === 0
      ? `Its ${word} could be given on that day only.`
      : `Its ${word} could be given within ${counted(joinDays, 'day')}.`;
  return null;
}

/** Points that end on one day. */
export interface Ending {
  day: string;
  points: number;
}

/** How soon points end that are worth a word. */
export const SOON_DAYS = 60;

/** What of some points ends soon. @param today `2026-03-02`, as the days of the lots */
export function endingSoon(lots: readonly Ending[], today: string): Ending | null {
  const until = dayLater(today, { days: SOON_DAYS });
  const [first] = lots
    .filter(({ day }) => day >= today && day <= until)
    .toSorted((a, b) => (a.day < b.day ? -1 : 1));
  if (!first) return null;
  const points = lots.filter(({ day }) => day === first.day).reduce((all, lot) => all + lot.points, 0);
  return { day: first.day, points };
}

/** When and for whom there are more points, in words: `2 times, for Band Circle, on Printed music, Monday`. */
export function pointsMoreWords(more: {
  times: number;
  group: string | null;
  category: string | null;
  weekdays: readonly number[];
  from: string;
  to: string;
}): string {
  return [
    `${more.times / 100} times`,
    ...(more.group ? [`for ${more.group}`] : []),
    ...(more.category ? [`on ${more.category}`] : []),
    ...more.weekdays.toSorted().map((day) => WEEKDAYS[day - 1] ?? ''),
    ...(more.from ? [`from ${formatDay(more.from)}`] : []),
    ...(more.to ? [`until ${formatDay(more.to)}`] : []),
  ].join(', ');
}
