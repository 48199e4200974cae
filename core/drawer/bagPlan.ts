import type { Money } from '../money.ts';
import { without, worth, type Pieces } from './countSheet.ts';

/** Which pieces stay as float and which go to the bank. */
export interface BagPlan {
  keep: Pieces;
  bag: Pieces;
  /** What stays, which is the float wanted unless the pieces cannot make it. */
  kept: Money;
  banked: Money;
  /** `exact`; `above`: the pieces cannot make the float, this is the nearest above; `short`: too little was counted. */
  outcome: 'exact' | 'above' | 'short';
}

interface Kind {
  value: Money;
  count: number;
  /** How many pieces of this kind a useful float would hold. */
  ideal: number;
  /** What it costs to be one piece's worth away from the ideal; larger pieces cost more. */
  weight: number;
}

/** Above this many table cells the minor unit is too fine for the amounts: refuse instead of running out of memory. */
const MOST_CELLS = 40_000_000;

/**
 * Chooses the pieces that stay in the drawer so that exactly the float stays, or the nearest amount above it.
 *
 * The choice is exact: a bounded-knapsack table over amounts finds, among all ways to make the float, the one
 * nearest to a useful mix. The mix is found by giving each denomination, smallest first, an equal share of what
 * is still missing, so that small pieces stay and large ones go to the bank.
 * @param counted the pieces in the drawer
 * @param float what should stay, zero or more
 * @throws RangeError when the float is negative or the amounts are too large to plan exactly
 */
export function planBag(counted: Pieces, float: Money): BagPlan {
  if (float < 0) throw new RangeError('the float is below zero');
  const total = worth(counted);
  if (total <= float) return plan(counted, counted, total === float ? 'exact' : 'short');

  const kinds = kindsWithIdeal(counted, float);
  const step = kinds.reduce((a, { value }) => greatestCommonDivisor(a, value), 0);
  const largest = Math.max(...kinds.map(({ value }) => value));
  const limit = Math.ceil(Math.min(total, float + largest) / step);
  if ((limit + 1) * kinds.length > MOST_CELLS) throw new RangeError('the float is too large to plan');

  const { costs, chosen } = fillTable(kinds, limit, step);
  for (let amount = Math.ceil(float / step); amount <= limit; amount++) {
    if (costs[amount] === Infinity) continue;
    const keep: Pieces = {};
    let left = amount;
    for (let at = kinds.length - 1; at >= 0; at--) {
      const kind = kinds[at];
      const count = chosen[at]?.[left] ?? 0;
      if (!kind || count === 0) continue;
      keep[kind.value] = count;
      left -= (count * kind.value) / step;
    }
    return plan(counted, keep, amount * step === float ? 'exact' : 'above');
  }
  return plan(counted, counted, 'above');
}

/**
 * The plan of somebody who chose by hand which pieces stay.
 * @throws RangeError when more stays of a piece than was counted
 */
export function planByHand(counted: Pieces, keep: Pieces): BagPlan {
  for (const [value, count] of Object.entries(keep)) {
    if (count > (counted[value] ?? 0)) throw new RangeError(`more of ${value} stays than was counted`);
  }
  return plan(counted, keep, 'exact');
}

/** The plan for a drawer that was counted as one total: amounts without pieces. @throws RangeError below zero */
export function planTotal(total: Money, float: Money): BagPlan {
  if (float < 0 || total < 0) throw new RangeError('an amount is below zero');
  const kept = Math.min(total, float);
  return { keep: {}, bag: {}, kept, banked: total - kept, outcome: total < float ? 'short' : 'exact' };
}

function plan(counted: Pieces, keep: Pieces, outcome: BagPlan['outcome']): BagPlan {
  const bag = without(counted, keep);
  return { keep, bag, kept: worth(keep), banked: worth(bag), outcome };
}

/** Pieces worth more than this part of the float are of no use as change and stay only where nothing else will do. */
const LARGE_PART = 5;

function kindsWithIdeal(counted: Pieces, float: Money): Kind[] {
  const present = Object.entries(counted)
    .map(([value, count]) => ({ value: Number(value), count }))
    .filter(({ count }) => count > 0)
    .sort((a, b) => a.value - b.value);
  let small = present.filter(({ value }) => value * LARGE_PART <= float).length;
  let missing = float;
  return present.map(({ value, count }, at) => {
    const share = small > 0 ? missing / small : 0;
    const ideal = Math.min(count, Math.round(share / value));
    if (small > 0) small -= 1;
    missing = Math.max(0, missing - ideal * value);
    return { value, count, ideal, weight: at + 1 };
  });
}
/**
 * costs[a]: the least distance from the ideal mix with which amount a can be made; chosen[k][a]: pieces of kind k in
 * it.
 */
function fillTable(kinds: readonly Kind[], limit: number, step: Money) {
  let costs = new Float64Array(limit + 1).fill(Infinity);
  costs[0] = 0;
  const chosen = kinds.map(({ value, count, ideal, weight }) => {
    const next = new Float64Array(limit + 1).fill(Infinity);
    const pieces = new Uint32Array(limit + 1);
    const size = value / step;
    for (let amount = 0; amount <= limit; amount++) {
      const most = Math.min(count, Math.floor(amount / size));
      for (let used = 0; used <= most; used++) {
        const before = costs[amount - used * size] ?? Infinity;
        if (before === Infinity) continue;
        const cost = before + Math.abs(used - ideal) * size * weight;
        if (cost < (next[amount] ?? Infinity)) {
          next[amount] = cost;
          pieces[amount] = used;
        }
      }
    }
    costs = next;
    return pieces;
  });
  return { costs, chosen };
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}
