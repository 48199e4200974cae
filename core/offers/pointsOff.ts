import type { Money } from '../money.ts';
import { WHOLE, type Rate } from '../rate.ts';

/** What points are worth as money off: for each step of points an amount, up to a part of what the goods cost. */
export interface PointsRate {
  /** Points of one step; zero where points are no money off. */
  offPoints: number;
  offAmount: Money;
  offMost: Rate;
}

/** Points that a customer wants to give for money off. */
export interface PointsOff extends PointsRate {
  /** So many steps are wanted, and their points are there. */
  steps: number;
  /** Words for the why-line. */
  why: string;
}

/** Points that a basket takes, and what is taken off for them. */
export interface PaidPoints {
  points: number;
  /** Above zero. */
  amount: Money;
}

/** Of so many points, the whole steps. */
export const wholeSteps = (points: number, { offPoints }: PointsRate): number =>
  offPoints > 0 ? Math.max(0, Math.floor(points / offPoints)) : 0;

/**
 * The most steps that goods of such a price may be paid with, in part: what they are reduced by stays within the
 * limit.
 */
export const mostSteps = (net: Money, { offPoints, offAmount, offMost }: PointsRate): number =>
  offPoints > 0 && offAmount > 0 && net > 0 ? Math.floor(floorOf(net, offMost) / offAmount) : 0;

/** A part of an amount, rounded down: a limit is never passed by a cent. */
const floorOf = (amount: Money, rate: Rate): Money => Number((BigInt(amount) * BigInt(rate)) / BigInt(WHOLE));

/** What points take off goods of such a price: as many of the wanted steps as the limit leaves. */
export function pointsTakenOff(net: Money, wanted: PointsOff): PaidPoints {
  const steps = Math.min(wanted.steps, mostSteps(net, wanted));
  return { points: steps * wanted.offPoints, amount: steps * wanted.offAmount };
}
