import type { Money } from '../money.ts';
import type { OfferUnit } from './offerUnits.ts';

/** Bounds are counted in parts of a minor unit, so that they stay whole numbers on every till. */
export const SCALE = 64;

/** Where the reading of units stands: a few whole numbers. */
export type MachineState = readonly number[];

/**
 * Hears of a way to give the next unit to the offer.
 * @param option tells ways apart: a group of the offer, or a tier
 * @param gain what the unit earns right now, times `SCALE`
 */
export type MachineStep = (option: number, state: MachineState, gain: number) => void;

/** What is still to be read: units that each group may have, and what they cost at list prices. */
export interface StillToRead {
  counts: readonly number[];
  list: Money;
}

/**
 * A small automaton that reads the units an offer means, dearest first, and says what giving them to the offer earns.
 * What it earns in all is what the rule says of the units taken; a relaxed one says at least as much, which serves
 * as a bound.
 */
export interface OfferMachine {
  start: MachineState;
  steps(state: MachineState, unit: OfferUnit, group: number, step: MachineStep): void;
  /** What is added at the end, times `SCALE`; `null` where something incomplete would be left. */
  finish(state: MachineState): number | null;
  /** Whether nothing that comes can complete what has begun. */
  hopeless(state: MachineState, left: StillToRead): boolean;
  /** More than any number in a state. */
  radix: number;
  relaxed: boolean;
}

/** Nothing that comes is needed. */
export const never = () => false;

/**
 * An automaton that only counts, for an offer whose own has too many states: every unit earns the most that it can add
 * to any combination, on average over its units. It never earns less than the rule says.
 * @param largestShare of a unit for a group, times `SCALE`
 * @param most so many units at most can be in combinations
 */
export function shareMachine(
  largestShare: (unit: OfferUnit, group: number) => number,
  most = Number.POSITIVE_INFINITY,
): OfferMachine {
  const counts = Number.isFinite(most);
  return {
    start: [0],
    steps([taken = 0], unit, group, step) {
      if (taken < most) step(group, [counts ? taken + 1 : 0], largestShare(unit, group));
    },
    finish: () => 0,
    hopeless: never,
    radix: counts ? most + 1 : 1,
    relaxed: true,
  };
}
