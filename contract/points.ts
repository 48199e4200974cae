import { array, boolean, dayOrNothing, object, safe, string, whole, type InferType } from './yup.ts';
import type { PointsReason } from '../core/people/pointsReasons.ts';

/** What a shop gives points for, as Setup has it. */
export const programmeSchema = object({
  on: boolean().required(),
  word: string().trim().required('What are they called?').max(20, 'At most 20 characters.'),
  given: whole().min(1, 'At least one.').max(1_000_000, 'At most a million.').required('How many points?'),
  per: safe().min(1, 'For how much?').max(1_000_000_000, 'That is too much.').required('For how much?'),
  months: whole().min(0, 'From 0 to 120.').max(120, 'From 0 to 120.').required('From 0 to 120.'),
  backDays: whole().min(1, 'From 1 to 366.').max(366, 'From 1 to 366.').required('From 1 to 366.'),
  worth: safe()
    .min(0, 'Zero or more.')
    .max(1_000_000_000_000, 'That is too much.')
    .required('What is a point worth?'),
  use: safe().min(0, 'From 0 to 100 %.').max(1_000_000, 'From 0 to 100 %.').required('From 0 to 100 %.'),
  offPoints: whole()
    .min(0, 'Zero or more.')
    .max(1_000_000, 'At most a million.')
    .required('How many points are a step?'),
  offAmount: safe()
    .min(0, 'Zero or more.')
    .max(1_000_000_000, 'That is too much.')
    .required('What is taken off for them?')
    .test('some', 'What is taken off for them?', function (amount) {
      const { offPoints } = this.parent as { offPoints: number };
      return offPoints === 0 || amount > 0;
    }),
  offMost: safe().min(0, 'From 0 to 100 %.').max(1_000_000, 'From 0 to 100 %.').required('From 0 to 100 %.'),
  joinDays: whole().min(0, 'From 0 to 366.').max(366, 'From 0 to 366.').required('From 0 to 366.'),
});

/** When and for whom purchases give more points: of those that fit, the largest counts. */
export const pointsMoreSchema = object({
  name: string().trim().required('What is it called?').max(60, 'At most 60 characters.'),
  /** How many times as many, in hundredths. */
  times: whole()
    .min(101, 'More than once.')
    .max(10_000, 'At most a hundred times.')
    .required('How many times?'),
  groupId: whole().nullable().defined(),
  categoryId: whole().nullable().defined(),
  /** 1 for Monday to 7; none for every day. */
  weekdays: array().of(whole().min(1).max(7).required()).max(7).required(),
  from: dayOrNothing().defined(),
  to: dayOrNothing()
    .defined()
    .test('after', 'The last day is before the first.', function (to) {
      const { from } = this.parent as { from: string };
      return !to || !from || to >= from;
    }),
});
export type NewPointsMore = InferType<typeof pointsMoreSchema>;

export interface PointsMore extends NewPointsMore {
  id: number;
  group: string | null;
  category: string | null;
}

/** Gives the points of a sale that was nobody's to a customer. @property sale its id, or its number as printed */
export const joinSaleSchema = object({ sale: string().trim().required('Which sale?').max(40) });

/** Gives points by hand, or takes them below zero. */
export const correctPointsSchema = object({
  amount: whole()
    .required('How many?')
    .test('some', 'How many?', (amount) => amount !== 0),
  words: string().trim().required('Why?').max(200, 'At most 200 characters.'),
});

/** Points as they moved, newest first. */
export interface PointsMove {
  id: number;
  at: string;
  amount: number;
  reason: PointsReason;
  words: string;
  by: string;
  saleId: string | null;
  sale: string | null;
}
