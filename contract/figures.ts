import { COMPARISONS, daysOf, MOST_DAYS, type Comparison, type Period } from '../core/figures/period.ts';
import type { Usual } from '../core/figures/likeDays.ts';
import { type Figures, type ReportName } from '../core/figures/reports.ts';
import { day, object, string, whole, type InferType } from './yup.ts';

/** How many rows stand on a page of a report. */
export const REPORT_PAGE = 50;

/** Which days, of which part of the shop, beside which others. */
export const figuresSchema = object({
  from: day().required('Choose the first day.'),
  to: day()
    .required('Choose the last day.')
    .test('order', 'The last day is before the first one.', function (to) {
      const { from } = this.parent as { from: string };
      return to >= from;
    })
    .test('many', `At most ${MOST_DAYS} days at once.`, function (to) {
      const { from } = this.parent as { from: string };
      return daysOf({ from, to }) <= MOST_DAYS;
    }),
  compare: string<Comparison>()
    .oneOf(Object.keys(COMPARISONS) as Comparison[])
    .default('none'),
  place: whole().default(0),
  till: whole().default(0),
});
export type FiguresQuery = InferType<typeof figuresSchema>;

export const reportSchema = figuresSchema.concat(
  object({
    /** Words in the names of rows. */
    find: string().trim().max(80).default(''),
    category: whole().default(0),
    supplier: whole().default(0),
    /** The key of a column; with a minus the smallest first. Empty for the report's own order. */
    sort: string()
      .matches(/^-?[a-z_0-9]*$/)
      .default(''),
    /** Keys of columns that are left out, parted by commas. */
    without: string()
      .matches(/^[a-z_0-9,]*$/)
      .max(400)
      .default(''),
    page: whole().min(0).max(100_000).default(0),
  }),
);
export type ReportQuery = InferType<typeof reportSchema>;

/** What a figure lacks, and where that is mended: said where the figure stands. */
export interface Lack {
  words: string;
  to: string;
  where: string;
}

/** A row: what it is of, its figures, and those of the period beside it. */
export interface ReportRow {
  key: string;
  name: string;
  /** What is said beneath, such as the number of an item. */
  more: string;
  now: Figures;
  before: Figures | null;
}

export interface ReportAnswer {
  name: ReportName;
  rows: ReportRow[];
  count: number;
  totals: { now: Figures; before: Figures | null };
  period: Period;
  beside: Period | null;
  lacks: Lack[];
}

export interface Choices {
  places: { id: number; name: string }[];
  tills: { id: number; number: number; placeId: number }[];
  categories: { id: number; name: string }[];
  suppliers: { id: number; name: string }[];
}

/** A day's figures so far, and those of the same weekday before at the same time of day. */
export interface TodayFigures {
  day: string;
  /** What the shop's clock says, `HH:MM`. */
  time: string;
  now: Figures;
  /** The same weekday a week before, until that time; and until its end. */
  before: Figures;
  beforeWhole: Figures;
  usual: Usual | null;
  hours: { hour: number; now: number; before: number; usual: Usual | null }[];
  means: { name: string; amount: number }[];
  customers: { known: number; new: number; none: number };
  items: { id: number; name: string; quantity: number; amount: number }[];
  drawers: { till: number; place: string; open: boolean; by: string; since: string }[];
  waits: { words: string; count: number; to: string }[];
  runsOut: { id: number; name: string; quantity: number; unit: string; point: number }[];
  odd: OddFigure[];
  lacks: Lack[];
}

/** Something that is far from what is usual on like days. */
export interface OddFigure {
  what: string;
  day: string;
  place: string;
  value: number;
  money: boolean;
  usual: Usual;
  like: { day: string; value: number }[];
  report: ReportName;
}

/** Each day of the period, the day beside it, and what is usual on its like days. */
export interface Trend {
  days: { day: string; sold: number; before: number | null; usual: Usual | null }[];
  /** Sold by weekday (Monday first) and hour. */
  week: { weekday: number; hour: number; sold: number; count: number }[];
}

/** A figure that two ways lead to. */
export interface Tie {
  what: string;
  left: { words: string; amount: number };
  right: { words: string; amount: number };
  to: string;
}

/** What does not tie by one of the checks of all that is kept, whatever day it is of. */
export interface CheckAnswer {
  differences: { check: string; what: string; kept: number; recomputed: number }[];
  /** How many checks there are. */
  of: number;
}
