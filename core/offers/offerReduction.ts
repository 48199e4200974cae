import { sum, type Money } from '../money.ts';
import { rateOf } from '../rate.ts';
import type { CombinationReward, OfferGroup, OfferOff, OfferRule } from './offer.ts';
import { byRank, howMany, type OfferUnit } from './offerUnits.ts';
import { spreadOverCounted } from '../spread.ts';

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

/** What an offer takes off the units that were given to it. */
export interface Reduction {
  combinations: Combination[];
  /** How many of them took part, by place: what completes nothing stays free for other offers. */
  taken: number[];
  /** Complete combinations; units, where each unit is for itself. */
  uses: number;
  total: Money;
}

/** What a unit that is for itself is reduced by. */
export function offEach(price: Money, off: OfferOff | { kind: 'price'; price: Money }): Money {
  switch (off.kind) {
    case 'percent':
      return rateOf(price, off.rate);
    case 'amount':
      return Math.min(off.amount, price);
    case 'price':
      return Math.max(0, price - off.price);
  }
}

/** Whether a rule speaks of units that are cut or weighed: only parts and spending do. */
export function takesUncounted(rule: OfferRule): boolean {
  return rule.kind === 'spend' || (rule.kind === 'each' && rule.off.kind === 'percent');
}

/**
 * What a rule takes off the units given to it, computed literally: the one place where the rules are what they say.
 * Units that complete nothing are not reduced.
 * @param limit how many combinations, or units where each is for itself, at most
 */
export function reductionOf(rule: OfferRule, given: readonly GivenUnit[], limit: number): Reduction {
  const ranked = given
    .map((_, at) => at)
    .sort((a, b) => byRank(givenAt(given, a).unit, givenAt(given, b).unit));
  const combinations = combinationsOf(rule, given, ranked, limit);
  const taken = given.map(() => 0);
  for (const { shares, times } of combinations)
    for (const [at, count] of shares) taken[at] = (taken[at] ?? 0) + count * times;
  const uses = sum(combinations.map(({ times }) => times));
  return {
    combinations,
    taken,
    uses: rule.kind === 'quantity' || rule.kind === 'spend' ? Math.min(1, uses) : uses,
    total: sum(combinations.map(({ total, times }) => total * times)),
  };
}

/** What units are reduced by. */
export interface UnitAmount {
  /** Their place among those given. */
  place: number;
  /** Each of them. */
  amount: Money;
  count: number;
}

/** What the units are reduced by: a combination's reduction is spread over all its units in proportion to their prices. */
export function unitAmounts({ combinations }: Reduction, given: readonly GivenUnit[]): UnitAmount[] {
  return combinations.flatMap(({ shares, total, times }) => {
    const parts = spreadOverCounted(
      total,
      shares.map(([at, count]) => ({ weight: givenAt(given, at).unit.price, count })),
    );
    return shares.flatMap(([place], at) =>
      (parts[at] ?? []).map(({ part, count }) => ({ place, amount: part, count: count * times })),
    );
  });
}

function combinationsOf(
  rule: OfferRule,
  given: readonly GivenUnit[],
  ranked: readonly number[],
  limit: number,
): Combination[] {
  const all = ranked.map((at): Share => [at, givenAt(given, at).count]);
  const each = (off: (price: Money) => Money): Combination[] =>
    all.map(([at, times]) => ({ shares: [[at, 1]], total: off(givenAt(given, at).unit.price), times }));
  switch (rule.kind) {
    case 'each': {
      let left = limit;
      return each((price) => offEach(price, rule.off)).flatMap((one) => {
        const times = one.total > 0 ? Math.min(one.times, left) : 0;
        left -= times;
        return times > 0 ? [{ ...one, times }] : [];
      });
    }
    case 'together':
      return complete(rule.groups, given, ranked, limit).map(({ shares, times }) => ({
        shares,
        times,
        total: combinationReduction(rule.reward, shares, given),
      }));
    case 'quantity': {
      const tier = rule.tiers.findLast(({ from }) => howMany(given) >= from);
      return tier ? each((price) => rateOf(price, tier.rate)) : [];
    }
    case 'spend': {
      const listed = sum(given.map(({ unit, count }) => unit.list * count));
      const off = rule.tiers.findLast(({ from }) => listed >= from)?.off;
      if (!off || given.length === 0) return [];
      if (off.kind === 'percent') return each((price) => rateOf(price, off.rate));
      const whole = sum(given.map(({ unit, count }) => unit.price * count));
      return [{ shares: all, total: Math.min(off.amount, whole), times: 1 }];
    }
  }
}

function givenAt(given: readonly GivenUnit[], at: number): GivenUnit {
  const one = given[at];
  if (!one) throw new RangeError('there is no such unit');
  return one;
}

/** Complete combinations in the order of rank: the dearest units of every group first; equal ones are counted. */
function complete(
  groups: readonly OfferGroup[],
  given: readonly GivenUnit[],
  ranked: readonly number[],
  limit: number,
): { shares: Share[]; times: number }[] {
  const queues = groups.map((_, group) =>
    ranked.filter((at) => given[at]?.group === group).map((at) => ({ at, left: givenAt(given, at).count })),
  );
  let left = Math.min(
    limit,
    ...groups.map(({ count }, at) => Math.floor(sum((queues[at] ?? []).map((one) => one.left)) / count)),
  );
  const found: { shares: Share[]; times: number }[] = [];
  while (left > 0) {
    // Where every group takes all it needs from equal units, the same combination comes several times.
    const times = Math.max(
      1,
      Math.min(left, ...groups.map(({ count }, at) => Math.floor((queues[at]?.[0]?.left ?? 0) / count))),
    );
    const shares: Share[] = [];
    groups.forEach(({ count }, group) => {
      const queue = queues[group] ?? [];
      for (let missing = count * times; missing > 0;) {
        const first = queue[0];
        if (!first) break;
        const taken = Math.min(missing, first.left);
        first.left -= taken;
        missing -= taken;
        shares.push([first.at, taken / times]);
        if (first.left === 0) queue.shift();
      }
    });
    found.push({ shares, times });
    left -= times;
  }
  return found;
}

/** What one combination is reduced by; never more than it costs. */
function combinationReduction(
  reward: CombinationReward,
  shares: readonly Share[],
  given: readonly GivenUnit[],
): Money {
  const units = shares.map(([at, count]) => ({ ...givenAt(given, at), count }));
  const whole = sum(units.map(({ unit, count }) => unit.price * count));
  switch (reward.kind) {
    case 'cheapest': {
      let [left, total] = [reward.count, 0];
      for (const { unit, count } of units.sort((a, b) => a.unit.price - b.unit.price)) {
        const reduced = Math.min(left, count);
        total += rateOf(unit.price, reward.rate) * reduced;
        left -= reduced;
      }
      return total;
    }
    case 'percent':
      return sum(units.map(({ unit, group, count }) => rateOf(unit.price, reward.rates[group] ?? 0) * count));
    case 'amount':
      return Math.min(reward.amount, whole);
    case 'price':
      return Math.max(0, whole - reward.price);
  }
}
