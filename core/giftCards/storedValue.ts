import { formatDay } from '../locale.ts';
import type { Money } from '../money.ts';

/** Value with a number: a card, a paper certificate, or what the shop owes a customer. */
export type StoredValueKind = 'gift-card' | 'certificate' | 'store-credit';

export const STORED_VALUE_NAMES: Readonly<Record<StoredValueKind, string>> = {
  'gift-card': 'Gift card',
  certificate: 'Certificate',
  'store-credit': 'Store credit',
};

/** Why stored value moves. */
export const STORED_VALUE_REASONS = [
  'opening',
  'sold',
  'topped up',
  'redeemed',
  'rest lapsed',
  'given back',
  'moved in',
  'moved out',
  'expired',
  'refunded',
  'taken back',
] as const;
export type StoredValueReason = (typeof STORED_VALUE_REASONS)[number];

/** `active` can be used; `frozen` was lost or stolen; `closed` holds nothing any more. */
export const STORED_VALUE_STATES = ['active', 'frozen', 'closed'] as const;
export type StoredValueState = (typeof STORED_VALUE_STATES)[number];

export interface StoredValueFacts {
  number: string;
  kind: StoredValueKind;
  state: StoredValueState;
  balance: Money;
  /** What payments that are not finished hold of the balance. */
  held: Money;
  /** Used once: what is left of it is gone. */
  singleUse: boolean;
  /** The last day on which it can be used, or `null`. */
  expiresOn: string | null;
  /** The shop's day on which it was last paid with or put on, where it is known. */
  usedOn?: string | undefined;
}

/** Digits of a number that the shop makes up itself, the check digit among them. */
const NUMBER_DIGITS = 11;

/**
 * The check digit of a number (modulus 10, double-add-double: ISO/IEC 7812-1, annex B).
 * @param body the digits in front of it
 */
export function luhnDigit(body: string): number {
  let total = 0;
  [...body].reverse().forEach((digit, at) => {
    const value = Number(digit) * (at % 2 === 0 ? 2 : 1);
    total += value > 9 ? value - 9 : value;
  });
  return (10 - (total % 10)) % 10;
}

/** A number for a new card. @param random gives a digit from 0 to 9 */
export function newStoredValueNumber(random: () => number): string {
  const body = Array.from({ length: NUMBER_DIGITS - 1 }, random).join('');
  return `${body}${luhnDigit(body)}`;
}

/** A number as it is stored: without spaces and dashes, in capitals. */
export const plainNumber = (typed: string): string => typed.replace(/[\s-]/g, '').toUpperCase();

/** Whether a number has the form of the shop's own ones but was misread or mistyped. */
export function isMistyped(number: string): boolean {
  return (
    new RegExp(`^\\d{${NUMBER_DIGITS}}$`).test(number) &&
    luhnDigit(number.slice(0, -1)) !== Number(number.at(-1))
  );
}

/** The last four characters, which is all that receipts and lists show. */
export const lastFour = (number: string): string => number.slice(-4);

/** The most that a payment can take of it. */
export function mostOf(value: StoredValueFacts, left: Money): Money {
  return Math.max(0, Math.min(left, value.balance - value.held));
}

/** What is gone of it once an amount was paid with it: the rest, where it is used once. */
export const lapsesOf = (
  { singleUse, balance }: Pick<StoredValueFacts, 'singleUse' | 'balance'>,
  paid: Money,
): Money => (singleUse ? balance - paid : 0);

/** Whether its last day is over. @param today the shop's calendar day */
export const isExpired = ({ expiresOn }: Pick<StoredValueFacts, 'expiresOn'>, today: string): boolean =>
  expiresOn !== null && expiresOn < today;

/** Why nothing can be paid with it today, in words; `null` when it can be. @param today the shop's calendar day */
export function storedValueProblem(value: StoredValueFacts, today: string): string | null {
  const name = `${STORED_VALUE_NAMES[value.kind]} ·· ${lastFour(value.number)}`;
  if (value.state === 'frozen') return `${name} was reported lost and is frozen.`;
  if (isExpired(value, today)) return `${name} expired on ${formatDay(value.expiresOn ?? '')}.`;
  if (value.state === 'closed' || value.balance === 0) {
    return `Nothing is left on ${name}${value.usedOn ? `: last used on ${formatDay(value.usedOn)}` : ''}.`;
  }
  if (value.balance <= value.held) return `What is left on ${name} is being paid with on another till.`;
  if (value.singleUse && value.held > 0) return `${name} is being used on another till.`;
  return null;
}
