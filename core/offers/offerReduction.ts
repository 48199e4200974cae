import { sum, type Money } from '../money.ts';
import { spreadOverCounted } from '../spread.ts';
import { givenAt, type Combination, type GivenUnit } from './givenUnits.ts';
import { kindOf } from './kinds/kinds.ts';
import type { OfferRule } from './offer.ts';
import { byRank } from './offerUnits.ts';

/** What an offer takes off the units that were given to it. */
export interface Reduction {
  combinations: Combination[];
  /** How many of them took part, by place: what completes nothing stays free for other offers. */
  taken: number[];
  /** Complete combinations; units, where each unit is for itself. */
  uses: number;
  total: Money;
}

/**
 * What a rule takes off the units given to it, computed literally. Units that complete nothing are not reduced.
 * @param limit how many combinations, or units where each is for itself, at most
 */
export function reductionOf(rule: OfferRule, given: readonly GivenUnit[], limit: number): Reduction {
  const ranked = given
    .map((_, at) => at)
    .sort((a, b) => byRank(givenAt(given, a).unit, givenAt(given, b).unit));
  const kind = kindOf(rule);
  const combinations = kind.combinations(given, ranked, limit);
  const taken = given.map(() => 0);
  for (const { shares, times } of combinations)
    for (const [at, count] of shares) taken[at] = (taken[at] ?? 0) + count * times;
  const uses = sum(combinations.map(({ times }) => times));
  return {
    combinations,
    taken,
    uses: kind.once ? Math.min(1, uses) : uses,
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

/**
 * What the units are reduced by: a combination's reduction is spread over all its units in proportion to their
 * prices.
 */
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
