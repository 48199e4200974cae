import { sum } from '../../money.ts';
import { rateOf } from '../../rate.ts';
import type { OfferRule } from '../offer.ts';
import { SCALE, type MachineState, type MachineStep, type OfferMachine } from '../offerMachine.ts';
import type { OfferUnit } from '../offerUnits.ts';

/**
 * State: combinations done (where limited), open units of each group, and what open combinations cost (where it
 * matters).
 */
export function togetherMachine(
  { groups, reward }: Extract<OfferRule, { kind: 'together' }>,
  units: readonly OfferUnit[],
  limit: number,
): OfferMachine {
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
