import { formatTimeOfDay } from '../timeOfDay.ts';
import { dayLater, daysBetween, weekdayOf } from '../day.ts';
import { multiplyDivide, type Money } from '../money.ts';
import type { Rate } from '../rate.ts';
import { WEEKDAYS } from '../locale.ts';
import { type CollectTime } from './collecting.ts';

/** How a relay stands with the partner who was asked last. */
export const RELAY_STATES = {
  waiting: 'On its way to the partner',
  sent: 'Partner has not answered',
  accepted: 'Accepted',
  refused: 'Refused',
  delivered: 'Delivered, not booked',
} as const;
export type RelayState = keyof typeof RELAY_STATES;

/** What partners say, and what is said to them. */
export const RELAY_SAYINGS = {
  accepted: 'Accepted',
  refused: 'Refused',
  question: 'Question',
  note: 'Note',
  delivered: 'Delivered',
  reply: 'Said to them',
  withdrawn: 'Taken back',
  order: 'Passed to us',
} as const;
export type RelaySaying = keyof typeof RELAY_SAYINGS;

/** A partner's shop: where it delivers, and until when it takes orders for a day. */
export interface Partner {
  id: number;
  code: string;
  name: string;
  city: string;
  phone: string;
  /** Beginnings of the postcodes that it delivers to; none is everywhere. */
  postcodes: readonly string[];
  timezone: string;
  /** From Monday to Sunday, `HH:MM` of its own clock; nothing on days on which it delivers nothing. */
  cutOffs: readonly (string | null)[];
  /** What it takes, in words. */
  takes: string;
  /** What of the price is its own, where nothing else is agreed. */
  rate: Rate;
  active: boolean;
}

/** How far ahead something is passed on, in days. */
export const MOST_DAYS = 60;

/** Why a partner does not deliver on a day; `null` where it does. @param now what the partner's clock shows */
export function relayDayProblem(
  { name, cutOffs, active }: Pick<Partner, 'name' | 'cutOffs' | 'active'>,
  day: string,
  now: CollectTime,
): string | null {
  if (!active) return `${name} takes no orders now.`;
  const ahead = daysBetween(now.day, day);
  if (Number.isNaN(ahead)) return 'On which day?';
  if (ahead < 0) return 'That day is over.';
  if (ahead > MOST_DAYS) return `At most ${MOST_DAYS} days ahead.`;
  const cutOff = cutOffs[weekdayOf(day)] ?? null;
  if (cutOff === null) return `${name} delivers nothing on ${WEEKDAYS[weekdayOf(day)] ?? 'that day'}s.`;
  return day === now.day && now.time > cutOff
    ? `Too late for today: ${name} takes orders until ${formatTimeOfDay(cutOff)}, and it is ${formatTimeOfDay(now.time)} there.`
    : null;
}

/** The first day on which a partner delivers what is sent now; nothing where there is none. */
export function firstRelayDay(
  partner: Pick<Partner, 'name' | 'cutOffs' | 'active'>,
  now: CollectTime,
): string | null {
  for (let ahead = 0; ahead <= MOST_DAYS; ahead++) {
    const day = dayLater(now.day, { days: ahead });
    if (relayDayProblem(partner, day, now) === null) return day;
  }
  return null;
}

/** Why a partner does not deliver to a postcode; `null` where it does. */
export function areaProblem(
  { name, postcodes }: Pick<Partner, 'name' | 'postcodes'>,
  postcode: string,
): string | null {
  const typed = postcode.replaceAll(' ', '').toUpperCase();
  return postcodes.length === 0 ||
    postcodes.some((begin) => typed.startsWith(begin.replaceAll(' ', '').toUpperCase()))
    ? null
    : `${name} does not deliver there.`;
}

/** Partners who deliver somewhere: those of the area first, those who deliver everywhere after them, each by name. */
export const partnersFor = <P extends Partner>(partners: readonly P[], postcode: string): P[] =>
  partners
    .filter((one) => one.active && areaProblem(one, postcode) === null)
    .toSorted(
      (a, b) =>
        Number(a.postcodes.length === 0) - Number(b.postcodes.length === 0) || a.name.localeCompare(b.name),
    );

/** What of a price is the partner's, where nothing else is agreed. */
export const usualPart = (price: Money, { rate }: Pick<Partner, 'rate'>): Money =>
  multiplyDivide(price, rate, 1_000_000);

/** Why so much cannot be the partner's; `null` where it can. */
export const partProblem = (part: Money, price: Money): string | null =>
  part < 0 || part > price ? 'The partner gets no more than the customer pays.' : null;

/** What follows on what the partner says; nothing where it changes nothing, or comes too late. */
export function relayStep(state: RelayState | 'withdrawn', said: RelaySaying): RelayState | null {
  const open = state === 'waiting' || state === 'sent';
  if (said === 'accepted' && open) return 'accepted';
  if (said === 'refused' && (open || state === 'accepted')) return 'refused';
  if (said === 'delivered' && (open || state === 'accepted')) return 'delivered';
  return null;
}

/** Why a relay cannot be sent again; `null` where it can. */
export const resendProblem = (state: RelayState): string | null =>
  ({
    waiting: null,
    sent: 'The partner has not answered yet.',
    accepted: 'The partner has accepted it.',
    refused: null,
    delivered: 'It was delivered.',
  })[state];

/** Why a relay cannot be given up; `null` where it can. */
export const giveUpProblem = (state: RelayState): string | null =>
  state === 'accepted' || state === 'delivered'
    ? `The partner has ${state === 'accepted' ? 'accepted' : 'delivered'} it: nothing is given back unless they refuse it.`
    : null;

/** Why a relay cannot be booked as handed over; `null` where it can. */
export const bookProblem = (state: RelayState): string | null =>
  state === 'delivered' ? null : 'It is booked when the partner says that it was delivered.';
