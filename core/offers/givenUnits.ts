import type { Money } from '../money.ts';
import type { OfferUnit } from './offerUnits.ts';

/** A unit that an offer means. */
export interface Candidate {
  /** Its place among all units. */
  place: number;
  groups: readonly number[];
}

/** Units given to an offer: of which place, for which of its groups, how many. */
export interface Give {
  place: number;
  group: number;
  count: number;
}

/** What giving units to an offer earns. */
export interface Formed {
  gives: readonly Give[];
  value: number;
}

/** Units that an offer means and that are not given away yet. */
export interface FreeUnits extends Candidate {
  count: number;
}

/** Units that were given to an offer, equal ones counted, and for which of its groups. */
export interface GivenUnit {
  unit: OfferUnit;
  group: number;
  count: number;
}

/** So many of the units given at a place. */
export type Share = readonly [place: number, count: number];

/** Units that are reduced together. */
export interface Combination {
  shares: readonly Share[];
  total: Money;
  /** So often the same. */
  times: number;
}

/** @throws RangeError where there is no such place */
export function givenAt(given: readonly GivenUnit[], at: number): GivenUnit {
  const one = given[at];
  if (!one) throw new RangeError('there is no such unit');
  return one;
}

/** Every unit reduced for itself, in the order of their ranks. */
export const singly = (
  given: readonly GivenUnit[],
  ranked: readonly number[],
  off: (price: Money) => Money,
): Combination[] =>
  ranked.map((at) => {
    const { unit, count } = givenAt(given, at);
    return { shares: [[at, 1]], total: off(unit.price), times: count };
  });
