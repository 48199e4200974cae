import { formatMoney, type Money } from '../money.ts';
import { formatQuantity } from '../quantity.ts';
import { formatRate } from '../rate.ts';
import type { Right } from './rights.ts';

/** How the figures of a step read. */
export type StepUnit = 'money' | 'rate' | 'quantity';

/** A step that not everybody may take, told exactly: what it is about, from what to what, and what it comes to. */
export interface Step {
  /** A line, a discount, an item, a sale…, within the basket or the like that the approval is for. */
  subject: string;
  /** What it was; `null` where there is nothing to tell. */
  from: number | null;
  /** What it becomes, exactly; `null` where only the amount counts. */
  to: number | null;
  unit: StepUnit;
  /** What it comes to, zero or more; `null` where it is not about money. */
  amount: Money | null;
}

/** What an approval allows of one subject: just this step, up to this amount. */
export type Cover = Step;

/** An approval as it was given. */
export interface Approval {
  id: string;
  right: Right;
  covers: readonly Cover[];
  /** The session that asked for it. */
  sessionId: number;
  /** When, in milliseconds since 1970. */
  at: number;
  /** What used it: a basket, a sale, a cash move. `null` while nothing did. */
  usedFor: string | null;
}

/** An approval that nobody used is worth nothing after so long. */
export const APPROVAL_LASTS_MS = 120_000;

/** What takes the step. */
export interface Taker {
  sessionId: number;
  at: number;
  /** The basket, sale or move that it is taken for. */
  usedFor: string;
}

/** Why an approval does not allow a step. `differs` says what was approved. */
export type ApprovalProblem =
  { kind: 'none' | 'used' | 'expired' | 'other-session' } | { kind: 'differs'; cover: Cover | null };

/**
 * Whether an approval allows steps: all that rest on it together, since it is given once.
 * @returns `null` where it does
 */
export function approvalProblem(
  approval: Approval | undefined,
  right: Right,
  steps: readonly Step[],
  taker: Taker,
): ApprovalProblem | null {
  if (approval?.right !== right) return { kind: 'none' };
  if (approval.usedFor === null) {
    if (approval.sessionId !== taker.sessionId) return { kind: 'other-session' };
    if (taker.at - approval.at > APPROVAL_LASTS_MS) return { kind: 'expired' };
  } else if (approval.usedFor !== taker.usedFor) return { kind: 'used' };
  const amounts = new Map<string, Money>();
  for (const step of steps) {
    const cover = approval.covers.find(({ subject }) => subject === step.subject);
    if (!cover || cover.to !== step.to || cover.from !== step.from)
      return { kind: 'differs', cover: cover ?? null };
    const all = (amounts.get(step.subject) ?? 0) + (step.amount ?? 0);
    amounts.set(step.subject, all);
    if (step.amount !== null && (cover.amount === null || all > cover.amount))
      return { kind: 'differs', cover };
  }
  return null;
}

/** What an approval covers that is given for some steps: those on one subject together. */
export function coversOf(steps: readonly Step[]): Cover[] {
  const covers = new Map<string, Cover>();
  for (const step of steps) {
    const known = covers.get(step.subject);
    if (known) known.amount = known.amount === null ? step.amount : known.amount + (step.amount ?? 0);
    else covers.set(step.subject, { ...step });
  }
  return [...covers.values()];
}

/** A step in figures, e.g. `45.00 to 40.00` or `20 %, 9.00`. @param digits of the shop's currency */
export function stepWords({ from, to, unit, amount }: Step, digits: number): string {
  const figure = (value: number) =>
    unit === 'money'
      ? formatMoney(value, digits)
      : unit === 'rate'
        ? formatRate(value)
        : formatQuantity(value);
  const change = to === null ? '' : from === null ? figure(to) : `${figure(from)} to ${figure(to)}`;
  const sum =
    amount === null || (from === null && unit === 'money' && to === amount)
      ? ''
      : formatMoney(amount, digits);
  return [change, sum].filter(Boolean).join(', ');
}
