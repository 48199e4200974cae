import { sum, type Money } from '../money.ts';
import { rateOf, type Rate } from '../rate.ts';
import type { CombinationReward, OfferGroup, OfferOff, OfferRule } from './offer.ts';
import { byRank, type OfferUnit } from './offerUnits.ts';
import { spread } from './spread.ts';

/** A unit that was given to an offer, and for which of its groups. */
export interface GivenUnit {
  unit: OfferUnit;
  group: number;
}

/** Units that are reduced together, by their places among those given. */
export interface Combination {
  places: readonly number[];
  total: Money;
}

/** What an offer takes off the units that were given to it. */
export interface Reduction {
  combinations: Combination[];
  /** Which of them took part: what completes nothing stays free for other offers. */
  taken: boolean[];
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
  const ranked = given.map((_, at) => at).sort((a, b) => byRank(unitAt(given, a), unitAt(given, b)));
  const combinations = combinationsOf(rule, given, ranked, limit);
  const taken = given.map(() => false);
  for (const { places } of combinations) for (const at of places) taken[at] = true;
  const once = rule.kind === 'quantity' || rule.kind === 'spend';
  return {
    combinations,
    taken,
    uses: once ? Math.min(1, combinations.length) : combinations.length,
    total: sum(combinations.map(({ total }) => total)),
  };
}

/** What each unit is reduced by: a combination's reduction is spread over all its units in proportion to their prices. */
export function unitAmounts({ combinations }: Reduction, given: readonly GivenUnit[]): Money[] {
  const amounts = given.map(() => 0);
  for (const { places, total } of combinations) {
    const parts = spread(
      total,
      places.map((at) => unitAt(given, at).price),
    );
    places.forEach((at, place) => (amounts[at] = parts[place] ?? 0));
  }
  return amounts;
}

function combinationsOf(
  rule: OfferRule,
  given: readonly GivenUnit[],
  ranked: readonly number[],
  limit: number,
): Combination[] {
  const priceAt = (at: number) => unitAt(given, at).price;
  const eachBy = (rate: Rate) => ranked.map((at) => ({ places: [at], total: rateOf(priceAt(at), rate) }));
  switch (rule.kind) {
    case 'each':
      return ranked
        .map((at) => ({ places: [at], total: offEach(priceAt(at), rule.off) }))
        .filter(({ total }) => total > 0)
        .slice(0, limit);
    case 'together':
      return complete(rule.groups, given, ranked, limit).map((places) => {
        const groups = places.map((at) => given[at]?.group ?? 0);
        return { places, total: combinationReduction(rule.reward, places.map(priceAt), groups) };
      });
    case 'quantity': {
      const tier = rule.tiers.findLast(({ from }) => given.length >= from);
      return tier ? eachBy(tier.rate) : [];
    }
    case 'spend': {
      const listed = sum(given.map(({ unit }) => unit.list));
      const off = rule.tiers.findLast(({ from }) => listed >= from)?.off;
      if (!off || given.length === 0) return [];
      if (off.kind === 'percent') return eachBy(off.rate);
      return [{ places: ranked, total: Math.min(off.amount, sum(ranked.map(priceAt))) }];
    }
  }
}

function unitAt(given: readonly GivenUnit[], at: number): OfferUnit {
  const one = given[at];
  if (!one) throw new RangeError('there is no such unit');
  return one.unit;
}

/** Complete combinations in the order of rank: the dearest units of every group first. */
function complete(
  groups: readonly OfferGroup[],
  given: readonly GivenUnit[],
  ranked: readonly number[],
  limit: number,
): number[][] {
  const ofGroup = groups.map((_, group) => ranked.filter((at) => given[at]?.group === group));
  const count = Math.min(
    limit,
    ...groups.map((group, at) => Math.floor((ofGroup[at]?.length ?? 0) / group.count)),
  );
  return Array.from({ length: count }, (_, k) =>
    groups.flatMap((group, at) => ofGroup[at]?.slice(k * group.count, (k + 1) * group.count) ?? []),
  );
}

/** What one combination is reduced by; never more than it costs. */
function combinationReduction(
  reward: CombinationReward,
  prices: readonly Money[],
  groups: readonly number[],
): Money {
  const whole = sum(prices);
  switch (reward.kind) {
    case 'cheapest': {
      const cheapest = prices.toSorted((a, b) => a - b).slice(0, reward.count);
      return sum(cheapest.map((price) => rateOf(price, reward.rate)));
    }
    case 'percent':
      return sum(prices.map((price, at) => rateOf(price, reward.rates[groups[at] ?? 0] ?? 0)));
    case 'amount':
      return Math.min(reward.amount, whole);
    case 'price':
      return Math.max(0, whole - reward.price);
  }
}
