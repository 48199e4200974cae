import { dayLater, daysBetween } from '../day.ts';
import { multiplyDivide, sum, type Money } from '../money.ts';
import { splitEvenly } from '../payment/tender.ts';
import type { Rate } from '../rate.ts';

/** How much time is between two parts. */
export const INTERVALS = { week: 'every week', fortnight: 'every two weeks', month: 'every month' } as const;

export type Interval = keyof typeof INTERVALS;

/** How a layaway is paid off. */
export interface LayawayTerms {
  /** What is paid at once. */
  deposit: Money;
  /** How many parts the rest is paid in. */
  parts: number;
  interval: Interval;
  /** When the first part is due, `YYYY-MM-DD`. */
  firstDay: string;
  /** What is kept when the customer does not take the goods after all. */
  fee: Money;
}

/** A part of a plan: what is due on a day. */
export interface PlanPart {
  /** `YYYY-MM-DD` */
  day: string;
  amount: Money;
}

/** What the shop asks for, as it is set up. */
export interface LayawayRules {
  /** The least deposit as a part of the total. */
  leastDeposit: Rate;
  parts: number;
  interval: Interval;
  fee: Money;
  /** Where a price of today is lower at the handover of what was promised, it counts. */
  lower: boolean;
  /** Printed on the paper of every layaway. */
  words: string;
  /** Words of the shop's own for how far one is, between its states. */
  stages: string[];
}

const WHOLE: Rate = 1_000_000;

/** The least that is paid at once for goods that are set aside, in whole minor units. */
export const leastDeposit = (total: Money, rate: Rate): Money =>
  total - multiplyDivide(total, WHOLE - rate, WHOLE);

/**
 * The day that comes so many intervals after another. A month later is the same day of the month, or its last one
 * where it has no such day.
 * @param day `YYYY-MM-DD`
 */
export function dayAfter(day: string, interval: Interval, times = 1): string {
  return dayLater(
    day,
    interval === 'month' ? { months: times } : { days: times * (interval === 'week' ? 7 : 14) },
  );
}

/**
 * What is due when: the deposit at once, the rest in even parts, the larger ones first.
 * @param today when it is made, `YYYY-MM-DD`
 * @returns parts above zero, by day; together they are the total
 */
export function layawayPlan(total: Money, terms: LayawayTerms, today: string): PlanPart[] {
  const { deposit, parts, interval, firstDay } = terms;
  const rest = splitEvenly(total - deposit, parts);
  return [
    { day: today, amount: deposit },
    ...rest.map((amount, nth) => ({ day: dayAfter(firstDay, interval, nth), amount })),
  ].filter(({ amount }) => amount > 0);
}

/** How a plan stands on a day. */
export interface PlanStanding {
  /** What should have been paid by the day and was not. */
  due: Money;
  /** What is to be paid next, the overdue among it; nothing where all is paid. */
  next: PlanPart | null;
  /** Since how many days the first part that was not paid is overdue. */
  overdueDays: number;
}

/**
 * @param paid all deposits so far
 * @param today `YYYY-MM-DD`
 * @param left what is left to pay at all: what was paid when goods were handed over is in no plan
 */
export function planStanding(
  plan: readonly PlanPart[],
  paid: Money,
  today: string,
  left: Money,
): PlanStanding {
  const until = (day: string) => sum(plan.filter((part) => part.day <= day).map(({ amount }) => amount));
  const open = plan.find(({ day }) => until(day) > paid);
  const due = Math.min(left, Math.max(0, until(today) - paid));
  if (!open || left <= 0) return { due: 0, next: null, overdueDays: 0 };
  return {
    due,
    next: { day: open.day, amount: Math.min(left, Math.max(due, until(open.day) - paid)) },
    overdueDays: daysLate(open.day, today),
  };
}

/** Since how many days a day is over. @param day, today `YYYY-MM-DD` */
export const daysLate = (day: string, today: string): number => Math.max(0, daysBetween(day, today));

/** What is wrong with terms, by field; empty where a layaway can be made by them. */
export function termsProblems(
  terms: LayawayTerms,
  facts: { total: Money; rules: LayawayRules; today: string },
): Partial<Record<keyof LayawayTerms, string>> {
  const { deposit, parts, firstDay, fee } = terms;
  const { total, rules, today } = facts;
  return {
    ...(deposit > total && { deposit: 'That is more than the goods cost.' }),
    ...(deposit < leastDeposit(total, rules.leastDeposit) && {
      deposit: 'That is less than the least deposit.',
    }),
    ...((parts < 1 || parts > MOST_PARTS) && { parts: `From 1 to ${MOST_PARTS} parts.` }),
    ...(firstDay <= today && { firstDay: 'The first part is due from tomorrow on.' }),
    ...((fee < 0 || fee > total) && { fee: 'The fee is at most what the goods cost.' }),
  };
}

export const MOST_PARTS = 52;
