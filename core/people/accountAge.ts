import { daysBetween } from '../day.ts';
import { sum, type Money } from '../money.ts';

/** How long what is owed is overdue, as lists and statements part it. */
export const AGES = {
  notDue: 'Not due',
  days30: '1 to 30 days',
  days60: '31 to 60 days',
  days90: '61 to 90 days',
  older: 'Over 90 days',
} as const;

export type Age = keyof typeof AGES;

/** What is owed by how long it is overdue; together with credit, which is not due, it is the balance. */
export type ByAge = Record<Age, Money>;

/** An item with what of it is open. */
export interface OpenItem {
  dueOn: string;
  /** Above zero where it is owed, below where it is over. */
  remaining: Money;
}

/** How many days something is overdue on a day; below one where it is not. @param dueOn, today calendar days */
export const daysOverdue = (dueOn: string, today: string): number => daysBetween(dueOn, today);

/** How old what is overdue by so many days is. */
export function ageOf(days: number): Age {
  if (days < 1) return 'notDue';
  if (days <= 30) return 'days30';
  if (days <= 60) return 'days60';
  return days <= 90 ? 'days90' : 'older';
}

/** Parts open items by age: the parts add up to the balance. */
export function byAge(items: readonly OpenItem[], today: string): ByAge {
  const of = (age: Age) =>
    sum(
      items
        .filter(
          ({ dueOn, remaining }) => (remaining < 0 ? 'notDue' : ageOf(daysOverdue(dueOn, today))) === age,
        )
        .map(({ remaining }) => remaining),
    );
  return {
    notDue: of('notDue'),
    days30: of('days30'),
    days60: of('days60'),
    days90: of('days90'),
    older: of('older'),
  };
}

/** What of open items is overdue. */
export const overdueOf = (items: readonly OpenItem[], today: string): Money => {
  const { notDue: _, ...overdue } = byAge(items, today);
  return sum(Object.values(overdue));
};

/** A reminder that was sent: how firm, and on which day. */
export interface SentReminder {
  step: number;
  day: string;
}

/**
 * Which reminder an account is due for today: the firmest one whose days have passed for what is overdue longest,
 * unless one as firm went out since that was due.
 * @param after days overdue after which the first, second… reminder goes out
 * @returns the step, counted from 1; `null` for none
 */
export function reminderDue(
  items: readonly OpenItem[],
  sent: readonly SentReminder[],
  after: readonly number[],
  today: string,
): number | null {
  const owed = items.filter(({ remaining }) => remaining > 0);
  const oldest = owed.map(({ dueOn }) => dueOn).sort()[0];
  if (oldest === undefined) return null;
  const days = daysOverdue(oldest, today);
  const step = after.filter((needed) => days >= needed).length;
  if (step === 0) return null;
  const since = sent.filter(({ day }) => day >= oldest);
  return since.some((one) => one.step >= step || one.day === today) ? null : step;
}
