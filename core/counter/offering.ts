import type { Offer, OfferSituation } from '../offers/offer.ts';
import { type Basket } from './basket.ts';
import { wholeSteps, type PointsOff } from '../offers/pointsOff.ts';
import type { PointsAsMoney } from '../people/loyalty.ts';
import { unlockedOffers } from './basketCodes.ts';

/** How often an offer with a limit has applied, and what baskets that are being paid hold of it. */
export interface UsedOffer {
  offerId: number;
  used: number;
  claims: readonly { basketId: string; uses: number }[];
}

/** What the house knows that offers depend on. */
export interface OfferFacts {
  /** The shop's calendar day, `YYYY-MM-DD`, and time of day, `HH:MM`. */
  day: string;
  time: string;
  placeId: number;
  /** Of offers with a limit in all. */
  used: readonly UsedOffer[];
  /** The customer of the basket, if any. */
  customer: {
    groups: readonly string[];
    points: number;
    /** Of offers with a limit for each customer. */
    offerUses: readonly { offerId: number; uses: number }[];
  } | null;
  /** What points take off, and what they are called; `null` where they take nothing off. */
  points: PointsAsMoney | null;
}

/**
 * The situation in which a basket meets the offers: what is opened by codes and points, and how often each may apply.
 */
export function situationOf(basket: Basket, offers: readonly Offer[], facts: OfferFacts): OfferSituation {
  const { day, time, placeId, customer } = facts;
  const paid = payable(basket.rewards ?? [], offers, customer?.points ?? 0);
  const { points } = facts;
  const steps = points?.on ? wholeSteps(Math.min(basket.pointsOff ?? 0, paid.left), points) : 0;
  return {
    day,
    time,
    placeId,
    customer: customer !== null,
    groups: customer?.groups ?? [],
    unlocked: unlockedOffers({ ...basket, rewards: paid.rewards }),
    left: usesLeft(basket.id, offers, facts),
    pointsOff: points && steps > 0 ? pointsOff(points, steps) : undefined,
  };
}

const pointsOff = ({ word, offPoints, offAmount, offMost }: PointsAsMoney, steps: number): PointsOff => ({
  offPoints,
  offAmount,
  offMost,
  steps,
  why: `Paid with ${word}`,
});

/** The points of a customer that chosen rewards leave. */
export const pointsLeft = (basket: Basket, offers: readonly Offer[], points: number): number =>
  payable(basket.rewards ?? [], offers, points).left;

/** The rewards that the points pay for, in the order in which they were chosen. */
function payable(
  rewards: readonly number[],
  offers: readonly Offer[],
  points: number,
): { rewards: number[]; left: number } {
  let left = points;
  const paid: number[] = [];
  for (const id of rewards) {
    const offer = offers.find((one) => one.id === id);
    if (!offer || offer.needs !== 'points' || offer.points > left) continue;
    left -= offer.points;
    paid.push(id);
  }
  return { rewards: paid, left };
}

function usesLeft(basketId: string, offers: readonly Offer[], facts: OfferFacts): Map<number, number> {
  const left = new Map<number, number>();
  for (const { id, limits } of offers) {
    const counts: number[] = [];
    if (limits.total !== null) {
      const known = facts.used.find(({ offerId }) => offerId === id);
      const claimed = (known?.claims ?? []).filter((claim) => claim.basketId !== basketId);
      counts.push(claimed.reduce((rest, { uses }) => rest - uses, limits.total - (known?.used ?? 0)));
    }
    if (limits.perCustomer !== null) {
      const known = facts.customer?.offerUses.find(({ offerId }) => offerId === id);
      counts.push(limits.perCustomer - (known?.uses ?? 0));
    }
    if (counts.length > 0) left.set(id, Math.max(0, Math.min(...counts)));
  }
  return left;
}
