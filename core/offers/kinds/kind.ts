import type { Money } from '../../money.ts';
import type { Rate } from '../../rate.ts';
import type { Combination, Formed, FreeUnits, Give, GivenUnit } from '../givenUnits.ts';
import type { OfferNames } from '../goodsWords.ts';
import type { OfferGoods } from '../offer.ts';
import type { OfferMachine } from '../offerMachine.ts';
import type { OfferUnit } from '../offerUnits.ts';

/** Units to give to an offer without looking ahead. */
export interface Forming {
  units: readonly OfferUnit[];
  free: readonly FreeUnits[];
  /** What each unit earns in any case, and loses when it joins. */
  base: readonly number[];
  limit: number;
  /** What giving them earns. */
  formed(gives: Give[]): Formed;
  /** Those that gain most first; at least so many, whatever they lose. */
  byGain(off: (price: Money) => Money, most: number, least?: number): Give[];
}

/** What there is of the goods that an offer means. */
export interface Meant {
  /** At list prices. */
  listed: Money;
  units: number;
  /** How many of them a group means. */
  ofGroup(group: number): number;
}

/** What would have to be in the basket, too. */
export type Lack =
  | { kind: 'goods'; goods: OfferGoods }
  | { kind: 'money'; goods: OfferGoods; missing: Money; from: Money }
  | { kind: 'units'; groups: readonly { goods: OfferGoods; count: number }[] };

/** An item of an example. */
export interface PricedItem {
  price: Money;
}

/** Units above which an example would not be read any more. */
export const MOST_EXAMPLE_UNITS = 40;

/** So many units more are within reach, */
export const REACH_UNITS = 2;
/** or such a part of what a tier asks for. */
export const REACH_PART = 0.35;

/** Everything that tells rules of one kind from those of others, but for the form in which they are typed. */
export interface OfferKind {
  /** Whether it speaks of units that are cut or weighed, too. */
  readonly takesUncounted: boolean;
  /** Whether it reduces by a part of the price: such come before amounts. */
  readonly isPart: boolean;
  /** Whether it looks at each unit by itself. */
  readonly single: boolean;
  /** Whether it applies once to all the units there are: where nothing competes for them, all of them are best. */
  readonly once: boolean;
  /** Whether it spreads what it takes off over the units that it takes together. */
  readonly spreads: boolean;
  /** Whether a unit earns the same in whichever group. */
  readonly groupsAlike: boolean;
  /** The price of all its goods together, where it names one. */
  readonly priceForAll: Money | null;
  /** What it gives at most, where that are amounts given once, however many units. */
  readonly largestOnce: Money | null;
  /** What it takes off a unit by itself: nothing where units count together. */
  offEach(price: Money): Money;

  /**
   * What it takes off the units given to it, literally: the one place where the rule is what it says.
   * @param ranked their places, the dearest first. @param limit how many combinations at most
   */
  combinations(given: readonly GivenUnit[], ranked: readonly number[], limit: number): Combination[];
  /**
   * The automata to choose from, each with fewer states than the one before; all but the first may be bounds.
   * @param units what they will read. @param groupSizes how many of them each group may have
   */
  machines(units: readonly OfferUnit[], groupSizes: readonly number[], limit: number): (() => OfferMachine)[];
  /** The group that a step's option of its automata means. */
  groupOfOption(option: number): number;
  /** The most that a unit adds to what its combination earns, times `SCALE`, rounded up. */
  largestShare(unit: OfferUnit, group: number): number;
  /** The part that it takes of all units that it means, if it takes one. */
  wholeRate(meant: readonly OfferUnit[], limit: number): Rate | undefined;
  /** Ways to give units to it without looking ahead. */
  byRank(forming: Forming): Formed[];
  /** Whether there is enough of what it asks for. */
  hasEnough(meant: Meant): boolean;

  /** What it gives, as one sentence without its conditions. */
  words(names: OfferNames): string;
  /** Baskets that show what it does: just enough, more, not enough. @param some so many units of some goods */
  examples<Item extends PricedItem>(some: (goods: OfferGoods, count: number) => Item[]): Item[][];
  /** What is missing for it, or for more of it, if that is within reach. @param anyway however far it is */
  lacks(meant: Meant, anyway: boolean): Lack | undefined;
}
