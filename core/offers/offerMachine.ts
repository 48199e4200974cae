import { sum, type Money } from '../money.ts';
import { rateOf } from '../rate.ts';
import type { OfferRule } from './offer.ts';
import { offEach } from './offerReduction.ts';
import { largestShare, SCALE } from './offerShare.ts';
import type { OfferUnit } from './offerUnits.ts';

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

/** The group that a step's option means. */
export const groupOfOption = (rule: OfferRule, option: number): number =>
  rule.kind === 'together' ? option : 0;

function machineOf(rule: OfferRule, units: readonly OfferUnit[], limit: number): OfferMachine {
  switch (rule.kind) {
    case 'each':
      return eachMachine(rule, units.length, limit);
    case 'together':
      return togetherMachine(rule, units, limit);
    case 'quantity':
      return quantityMachine(rule);
    case 'spend':
      return spendMachine(rule, units);
  }
}

const never = () => false;

function eachMachine(rule: Extract<OfferRule, { kind: 'each' }>, count: number, limit: number): OfferMachine {
  const limited = limit < count;
  return {
    start: [0],
    steps([used = 0], { price }, _group, step) {
      if (used < limit) step(0, [limited ? used + 1 : 0], offEach(price, rule.off) * SCALE);
    },
    finish: () => 0,
    hopeless: never,
    radix: count + 1,
    relaxed: false,
  };
}

/** State: combinations done (where limited), open units of each group, and what open combinations cost (where it matters). */
function togetherMachine(
  rule: Extract<OfferRule, { kind: 'together' }>,
  units: readonly OfferUnit[],
  limit: number,
): OfferMachine {
  const { groups, reward } = rule;
  const size = sum(groups.map(({ count }) => count));
  const limited = limit < Math.floor(units.length / size);
  const cheapestSum = sum(units.slice(Math.max(0, units.length - size)).map(({ price }) => price));
  // An amount is cut where a combination may cost less: then what is open has to be added up.
  const adds = reward.kind === 'amount' && reward.amount > cheapestSum;
  const first = 1 + groups.length;

  const filled = (state: MachineState, k: number): number => {
    let count = 0;
    groups.forEach((group, at) => {
      count += Math.min(group.count, Math.max(0, (state[1 + at] ?? 0) - k * group.count));
    });
    return count;
  };

  function steps(state: MachineState, { price }: OfferUnit, group: number, step: MachineStep): void {
    const done = state[0] ?? 0;
    const k = Math.floor((state[1 + group] ?? 0) / (groups[group]?.count ?? 1));
    if (done + k >= limit) return;
    const before = filled(state, k);
    const next = state.slice();
    next[1 + group] = (next[1 + group] ?? 0) + 1;
    if (adds && reward.kind === 'amount')
      next[first + k] = Math.min(reward.amount, (next[first + k] ?? 0) + price);
    let gain = 0;
    if (reward.kind === 'cheapest') {
      if (before >= size - reward.count) gain = rateOf(price, reward.rate);
    } else if (reward.kind === 'percent') gain = rateOf(price, reward.rates[group] ?? 0);
    else if (reward.kind === 'price') gain = price;
    // Only the first open combination can be complete: every other one waits for the same units.
    if (before + 1 === size) {
      if (reward.kind === 'amount') gain += adds ? (next[first] ?? 0) : reward.amount;
      if (reward.kind === 'price') gain -= reward.price;
      groups.forEach((one, at) => (next[1 + at] = (next[1 + at] ?? 0) - one.count));
      if (limited) next[0] = done + 1;
      if (adds) next.splice(first, 1);
    }
    step(group, next, gain * SCALE);
  }

  return {
    start: [0, ...groups.map(() => 0)],
    steps,
    finish: (state) => (groups.every((_, at) => state[1 + at] === 0) ? 0 : null),
    hopeless(state, { counts }) {
      let open = 0;
      groups.forEach((group, at) => {
        open = Math.max(open, Math.ceil((state[1 + at] ?? 0) / group.count));
      });
      return groups.some((group, at) => open * group.count - (state[1 + at] ?? 0) > (counts[at] ?? 0));
    },
    // With sums a state is of no fixed length: its numbers cannot be told apart by their places.
    radix: adds ? Number.POSITIVE_INFINITY : units.length + 2,
    relaxed: false,
  };
}

/** State: the tier that was set out for (0: none yet), and units so far, up to what it asks for. */
function quantityMachine({ tiers }: Extract<OfferRule, { kind: 'quantity' }>): OfferMachine {
  const fromOf = (state: MachineState) => tiers[(state[0] ?? 0) - 1]?.from ?? 0;
  return {
    start: [0, 0],
    steps([chosen = 0, count = 0], { price }, _group, step) {
      tiers.forEach(({ from, rate }, at) => {
        if (chosen === 0 || chosen === at + 1)
          step(at, [at + 1, Math.min(from, count + 1)], rateOf(price, rate) * SCALE);
      });
    },
    finish: (state) => (state[0] === 0 || (state[1] ?? 0) >= fromOf(state) ? 0 : null),
    hopeless: (state, { counts }) => state[0] !== 0 && (state[1] ?? 0) + (counts[0] ?? 0) < fromOf(state),
    radix: Math.max(tiers.length, tiers.at(-1)?.from ?? 0) + 1,
    relaxed: false,
  };
}

/**
 * State: the tier that was set out for (0: none yet), and what the units cost at list prices, up to what it asks for.
 * @param grain counts list prices in pieces of so much, rounded up: fewer states, of which the best is a bound
 */
function spendMachine(
  { tiers }: Extract<OfferRule, { kind: 'spend' }>,
  units: readonly OfferUnit[],
  grain = 1,
): OfferMachine {
  const goals = tiers.map(({ from }) => Math.floor(from / grain));
  // Where goods cost so much less than their list prices that an amount may be cut, it is a bound.
  const cut = tiers.some(
    ({ from, off }) =>
      off.kind === 'amount' &&
      (off.amount > from || units.some(({ price, list }) => price * from < off.amount * list)),
  );
  return {
    start: [0, 0],
    steps([chosen = 0, listed = 0], { price, list }, _group, step) {
      tiers.forEach(({ off }, at) => {
        if (chosen !== 0 && chosen !== at + 1) return;
        const gain = off.kind === 'percent' ? rateOf(price, off.rate) * SCALE : 0;
        step(at, [at + 1, Math.min(goals[at] ?? 0, listed + Math.ceil(list / grain))], gain);
      });
    },
    finish([chosen = 0, listed = 0]) {
      const tier = tiers[chosen - 1];
      if (!tier) return 0;
      if (listed < (goals[chosen - 1] ?? 0)) return null;
      return tier.off.kind === 'amount' ? tier.off.amount * SCALE : 0;
    },
    hopeless: ([chosen = 0, listed = 0], { list, counts }) =>
      chosen !== 0 &&
      listed + Math.ceil(list / grain) + (grain > 1 ? (counts[0] ?? 0) : 0) < (goals[chosen - 1] ?? 0),
    radix: Math.max(tiers.length, goals.at(-1) ?? 0) + 1,
    relaxed: cut || grain > 1,
  };
}

/** Into so many pieces a threshold is parted where there are too many sums. */
const GRAINS = 32;

/**
 * The automata of a rule to choose from, each with fewer states than the one before; all but the first may be bounds.
 * @param units what they will read, @param groupSizes how many of them each group may have
 * @param limit how often the offer may apply
 */
export function machinesOf(
  rule: OfferRule,
  units: readonly OfferUnit[],
  groupSizes: readonly number[],
  limit: number,
): (() => OfferMachine)[] {
  const machines = [() => machineOf(rule, units, limit)];
  if (rule.kind === 'spend') {
    const grain = Math.ceil((rule.tiers.at(-1)?.from ?? 0) / GRAINS);
    if (grain > 1) machines.push(() => spendMachine(rule, units, grain));
  }
  if (rule.kind === 'together') {
    const complete = rule.groups.map(({ count }, at) => Math.floor((groupSizes[at] ?? 0) / count));
    const size = sum(rule.groups.map(({ count }) => count));
    const most = Math.min(limit, ...complete) * size;
    if (most < units.length) machines.push(() => shareMachine(rule, most));
  }
  return [...machines, () => shareMachine(rule)];
}

/**
 * An automaton that only counts, for an offer whose own has too many states: every unit earns the most that it can add
 * to any combination, on average over its units. It never earns less than the rule says.
 * @param most so many units at most can be in combinations
 */
function shareMachine(rule: OfferRule, most = Number.POSITIVE_INFINITY): OfferMachine {
  const counts = Number.isFinite(most);
  return {
    start: [0],
    steps([taken = 0], unit, group, step) {
      if (taken < most) step(group, [counts ? taken + 1 : 0], largestShare(rule, unit, group));
    },
    finish: () => 0,
    hopeless: never,
    radix: counts ? most + 1 : 1,
    relaxed: true,
  };
}
