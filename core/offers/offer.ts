import { dayLater, weekdayOf } from '../day.ts';
import type { Money } from '../money.ts';
import type { Rate } from '../rate.ts';
import type { PointsOff } from './pointsOff.ts';

/**
 * Which goods an offer means: items (a family stands for all its variants) or whole categories; nothing named is
 * everything.
 */
export interface OfferGoods {
  itemIds: readonly number[];
  categories: readonly string[];
}

/** So many units of some goods, which a combination needs. */
export interface OfferGroup {
  goods: OfferGoods;
  count: number;
}

/** What a complete combination of goods earns. */
export type CombinationReward =
  /** The cheapest so many units of each combination are reduced by a part; all of it makes them free. */
  | { kind: 'cheapest'; count: number; rate: Rate }
  /** A part of the price of the units of each group, in the order of the groups. */
  | { kind: 'percent'; rates: readonly Rate[] }
  | { kind: 'amount'; amount: Money }
  /** What the whole combination costs. */
  | { kind: 'price'; price: Money };

export type OfferOff = { kind: 'percent'; rate: Rate } | { kind: 'amount'; amount: Money };

export type OfferRule =
  /** Every unit for itself. */
  | { kind: 'each'; goods: OfferGoods; off: OfferOff | { kind: 'price'; price: Money } }
  /** Units that are bought together. */
  | { kind: 'together'; groups: readonly OfferGroup[]; reward: CombinationReward }
  /** The more units of the goods, in any mix, the larger the part; rising. */
  | { kind: 'quantity'; goods: OfferGoods; tiers: readonly { from: number; rate: Rate }[] }
  /** From so much on spent on the goods; rising. */
  | { kind: 'spend'; goods: OfferGoods; tiers: readonly { from: Money; off: OfferOff }[] };

/** When, where and for whom an offer applies; what is empty or `null` asks for nothing. */
export interface OfferConditions {
  /** Days of the shop's calendar, `YYYY-MM-DD`, both included. */
  from: string | null;
  to: string | null;
  /** ISO 8601: 1 is Monday. */
  weekdays: readonly number[];
  /** Time of day, `HH:MM`: from the first on, before the second; past midnight where the second is earlier. */
  hours: { from: string; to: string } | null;
  placeIds: readonly number[];
  /** The customer belongs to one of these groups. */
  groups: readonly string[];
  /** What the goods must come to at list prices. */
  minimum: Money;
}

/** How often an offer applies: combinations, or units where each unit is for itself. */
export interface OfferLimits {
  perSale: number | null;
  perCustomer: number | null;
  total: number | null;
}

/** A reduction that the shop has set up, which applies by its own rules. */
export interface Offer {
  id: number;
  name: string;
  rule: OfferRule;
  /** Applies on top of others, after them. Else a unit that it reduces takes part in no other offer. */
  combines: boolean;
  conditions: OfferConditions;
  limits: OfferLimits;
  /** By itself, only with a code, or as a reward that costs points. */
  needs: 'nothing' | 'code' | 'points';
  /** What one use costs in points. */
  points: number;
}

/** What offers depend on besides the basket. */
export interface OfferSituation {
  /** The shop's calendar day, `YYYY-MM-DD`. */
  day: string;
  /** The shop's time of day, `HH:MM`. */
  time: string;
  placeId: number;
  /** Whether it is known who buys: uses of a customer are counted only then. */
  customer: boolean;
  /** Groups that the customer belongs to. */
  groups: readonly string[];
  /** Uses that codes and chosen rewards open, by offer. */
  unlocked: ReadonlyMap<number, number>;
  /** Uses that are left, for this customer and in total, by offer; where nothing is said, any number. */
  left: ReadonlyMap<number, number>;
  /** Points that the customer gives for money off; nothing where they give none. */
  pointsOff?: PointsOff | undefined;
}

/** An offer that applies, and how often at most. */
export interface OpenOffer {
  offer: Offer;
  limit: number;
}

/** The groups of goods that a rule speaks of. */
export function groupsOf(rule: OfferRule): readonly OfferGroup[] {
  return 'groups' in rule ? rule.groups : [{ goods: rule.goods, count: 1 }];
}

/** Whether baskets of different customers compete for its uses: these are held while a basket is paid. */
export const sharesUses = ({ limits, needs }: Offer): boolean => limits.total !== null || needs === 'code';

/** What keeps an offer from applying now and here, whatever is in the basket. */
export type Hindrance = 'day' | 'hours' | 'place' | 'customer' | 'group' | 'code' | 'points' | 'used-up';

/** @returns the first hindrance, or how often the offer may apply */
export function openness(
  { id, conditions, limits, needs }: Offer,
  situation: OfferSituation,
): { hindrance: Hindrance } | { limit: number } {
  const { from, to, weekdays, hours, placeIds, groups } = conditions;
  const { time } = situation;
  const late = hours !== null && hours.to < hours.from && time < hours.to;
  // After midnight it is still the evening that began the day before.
  const day = late ? dayLater(situation.day, { days: -1 }) : situation.day;
  if ((from && day < from) || (to && day > to)) return { hindrance: 'day' };
  if (weekdays.length > 0 && !weekdays.includes(weekdayOf(day) + 1)) return { hindrance: 'day' };
  if (hours && !late && (time < hours.from || (time >= hours.to && hours.from < hours.to)))
    return { hindrance: 'hours' };
  if (placeIds.length > 0 && !placeIds.includes(situation.placeId)) return { hindrance: 'place' };
  if (groups.length > 0 && !groups.some((group) => situation.groups.includes(group)))
    return { hindrance: 'group' };
  if ((limits.perCustomer !== null || needs === 'points') && !situation.customer)
    return { hindrance: 'customer' };
  const unlocked = situation.unlocked.get(id) ?? 0;
  if (needs !== 'nothing' && unlocked === 0) return { hindrance: needs };
  const limit = Math.min(
    limits.perSale ?? Number.POSITIVE_INFINITY,
    situation.left.get(id) ?? Number.POSITIVE_INFINITY,
    needs === 'nothing' ? Number.POSITIVE_INFINITY : unlocked,
  );
  return limit > 0 ? { limit } : { hindrance: 'used-up' };
}

/** The offers that apply now and here; minimum spends are seen to when the basket is there. */
export function openOffers(offers: readonly Offer[], situation: OfferSituation): OpenOffer[] {
  return offers.flatMap((offer) => {
    const open = openness(offer, situation);
    return 'limit' in open ? [{ offer, limit: open.limit }] : [];
  });
}
