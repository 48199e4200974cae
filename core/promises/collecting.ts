import { formatTimeOfDay } from '../timeOfDay.ts';
import { DAY_MS, weekdayOf } from '../day.ts';
import { WEEKDAYS, formatDay } from '../locale.ts';

/** When a place is open on a day of the week, `HH:MM`; nothing where it is closed. */
export type OpenHours = { from: string; to: string } | null;

/** When a place is open, from Monday to Sunday; an empty list is at any time. */
export type WeekHours = readonly OpenHours[];

/** A day and a time at which goods are collected. */
export interface CollectTime {
  /** `YYYY-MM-DD` */
  day: string;
  /** `HH:MM` */
  time: string;
}

/** What times of collection follow from. */
export interface CollectFacts {
  hours: WeekHours;
  /** How long the shop needs before goods can be collected, in minutes. */
  leadMinutes: number;
  /** What the shop's clock shows. */
  now: CollectTime;
}

/** How far ahead goods can be collected, in days. */
export const MOST_DAYS_AHEAD = 90;
/** Times are offered in steps of so many minutes. */
const STEP_MINUTES = 30;
const MINUTE_MS = 60_000;

/** What a clock on the wall shows, as milliseconds; only differences of them mean anything. */
const wall = ({ day, time }: CollectTime): number => Date.parse(`${day}T${time}:00Z`);
const onWall = (at: number): CollectTime => {
  const text = new Date(at).toISOString();
  return { day: text.slice(0, 10), time: text.slice(11, 16) };
};
const hoursOn = (hours: WeekHours, day: string): OpenHours => hours[weekdayOf(day)] ?? null;
const soonest = ({ now, leadMinutes }: CollectFacts): number => wall(now) + leadMinutes * MINUTE_MS;

/** Why goods cannot be collected then; `null` where they can. */
export function collectProblem(when: CollectTime, facts: CollectFacts): string | null {
  const at = wall(when);
  if (Number.isNaN(at)) return 'When are the goods collected?';
  const first = soonest(facts);
  if (at < first) {
    const { day, time } = onWall(first);
    return `They cannot be ready before ${formatTimeOfDay(time)} on ${formatDay(day)}.`;
  }
  if (at > first + MOST_DAYS_AHEAD * DAY_MS) return `At most ${MOST_DAYS_AHEAD} days ahead.`;
  if (facts.hours.length === 0) return null;
  const open = hoursOn(facts.hours, when.day);
  if (!open) return `The place is closed on ${WEEKDAYS[weekdayOf(when.day)] ?? 'that day'}s.`;
  return when.time < open.from || when.time > open.to
    ? `It is open from ${formatTimeOfDay(open.from)} to ${formatTimeOfDay(open.to)}.`
    : null;
}

/** The times at which goods can be collected on a day, `HH:MM`. */
export function collectTimes(day: string, facts: CollectFacts): string[] {
  const open = facts.hours.length === 0 ? { from: '08:00', to: '20:00' } : hoursOn(facts.hours, day);
  if (!open) return [];
  const [from, to] = [wall({ day, time: open.from }), wall({ day, time: open.to })];
  const steps = Math.floor((to - from) / (STEP_MINUTES * MINUTE_MS)) + 1;
  return Array.from(
    { length: Math.max(0, steps) },
    (_, nth) => onWall(from + nth * STEP_MINUTES * MINUTE_MS).time,
  ).filter((time) => collectProblem({ day, time }, facts) === null);
}

/** The first day and time at which goods can be collected; nothing where the place never opens. */
export function firstCollectTime(facts: CollectFacts): CollectTime | null {
  const first = soonest(facts);
  for (let ahead = 0; ahead <= MOST_DAYS_AHEAD; ahead++) {
    const { day } = onWall(first + ahead * DAY_MS);
    const [time] = collectTimes(day, facts);
    if (time !== undefined) return { day, time };
  }
  return null;
}
