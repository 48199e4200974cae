import { sum, type Money } from '../money.ts';
import type { OfferRule, OpenOffer } from './offer.ts';
import { offEach, reductionOf, type GivenUnit } from './offerReduction.ts';
import { leastAbove } from './leastAbove.ts';
import type { Candidate } from './offerTable.ts';
import { howMany, type OfferUnit } from './offerUnits.ts';
import { rateOf } from '../rate.ts';

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

export const NOTHING: Formed = { gives: [], value: 0 };

/**
 * Gives free units to an offer without looking ahead, counted, so that it is quick however many there are. It is the
 * best way where no unit is meant by two groups, and but for what the last odd units cost.
 * @param base what each unit earns in any case, and loses when it joins
 */
export function formByRank(
  open: OpenOffer,
  units: readonly OfferUnit[],
  free: readonly FreeUnits[],
  base: readonly number[],
): Formed {
  const { rule } = open.offer;
  const { limit } = open;
  const formed = (gives: Give[]): Formed => formedBy(open, units, gives, base);
  const best = (ways: Give[][]): Formed =>
    ways.map(formed).reduce((most, one) => (one.value > most.value ? one : most), NOTHING);
  /** Those that gain most first; at least so many, whatever they lose. */
  const byGain = (off: (price: Money) => Money, most: number, least = 0): Give[] => {
    const gains = free
      .map(({ place, count }) => ({
        place,
        count,
        gain: off((units[place] as OfferUnit).price) - (base[place] ?? 0),
      }))
      .sort((a, b) => b.gain - a.gain || a.place - b.place);
    let taken = 0;
    return gains.flatMap(({ place, count, gain }) => {
      const wanted = Math.min(count, gain > 0 ? most - taken : Math.min(most, least) - taken);
      if (wanted <= 0) return [];
      taken += wanted;
      return [{ place, group: 0, count: wanted }];
    });
  };

  switch (rule.kind) {
    case 'each':
      return formed(byGain((price) => offEach(price, rule.off), limit));
    case 'quantity':
      return best(rule.tiers.map(({ from, rate }) => byGain((price) => rateOf(price, rate), Infinity, from)));
    case 'spend':
      return best(
        rule.tiers.flatMap(({ from, off }): Give[][] => {
          if (off.kind === 'percent') return [byGain((price) => rateOf(price, off.rate), Infinity, Infinity)];
          return [justEnough(from, units, free, base)];
        }),
      );
    case 'together': {
      const ways = [free, ...(rule.reward.kind === 'amount' ? [free.toReversed()] : [])];
      return ways
        .map((order) => combined(rule, limit, order, formed))
        .reduce((most, one) => (one.value > most.value ? one : most));
    }
  }
}

/** What units earn that are given to an offer, by the rule itself; those that complete nothing are let go. */
export function formedBy(
  { offer: { rule }, limit }: OpenOffer,
  units: readonly OfferUnit[],
  gives: readonly Give[],
  base: readonly number[],
): Formed {
  const given = gives.map(({ place, group, count }): GivenUnit => ({
    unit: units[place] as OfferUnit,
    group,
    count,
  }));
  const { taken, total } = reductionOf(rule, given, limit);
  const kept = gives.flatMap((give, at) => (taken[at] ? [{ ...give, count: taken[at] }] : []));
  return { gives: kept, value: total - sum(kept.map(({ place, count }) => (base[place] ?? 0) * count)) };
}

/** Units that cost just so much at list prices, or as little more as can be found; nothing where there are too few. */
function justEnough(
  from: Money,
  units: readonly OfferUnit[],
  free: readonly FreeUnits[],
  base: readonly number[],
): Give[] {
  const counts = leastAbove(
    from,
    free.map(({ place, count }) => ({
      size: (units[place] as OfferUnit).list,
      // What earns something anyhow is the last to be taken.
      cost: (units[place] as OfferUnit).list + (base[place] ?? 0),
      count,
    })),
  );
  return free.flatMap(({ place }, at) => (counts[at] ? [{ place, group: 0, count: counts[at] }] : []));
}

/** Complete combinations for as long as another one earns something, in the order of the units. */
function combined(
  rule: Extract<OfferRule, { kind: 'together' }>,
  limit: number,
  free: readonly FreeUnits[],
  formed: (gives: Give[]) => Formed,
): Formed {
  const left = new Map(free.map(({ place, count }) => [place, count]));
  // The group with the fewest to choose from chooses first.
  const groups = rule.groups
    .map(({ count }, group) => {
      const meant = free.filter(({ groups: of }) => of.includes(group));
      return { group, count, places: meant.map(({ place }) => place), many: howMany(meant), next: 0 };
    })
    .sort((a, b) => a.many / a.count - b.many / b.count || a.group - b.group);
  const found: Give[] = [];
  let value = 0;
  for (let done = 0; done < limit;) {
    const combination: Give[] = [];
    let again = Number.POSITIVE_INFINITY;
    for (const one of groups) {
      let missing = one.count;
      for (; missing > 0; one.next++) {
        const place = one.places[one.next];
        if (place === undefined) return { gives: merged(found), value };
        const have = left.get(place) ?? 0;
        const count = Math.min(missing, have);
        if (count === 0) continue;
        left.set(place, have - count);
        combination.push({ place, group: one.group, count });
        missing -= count;
        if (have > count) break;
      }
    }
    for (const { place } of combination) {
      const needed = sum(combination.filter((one) => one.place === place).map(({ count }) => count));
      again = Math.min(again, 1 + Math.floor((left.get(place) ?? 0) / needed));
    }
    const alone = formed(combination).value;
    if (alone > 0) again = Math.min(again, limit - done);
    for (const { place, count } of combination) left.set(place, (left.get(place) ?? 0) - count * (again - 1));
    if (alone <= 0) continue;
    found.push(...combination.map((one) => ({ ...one, count: one.count * again })));
    value += alone * again;
    done += again;
  }
  return { gives: merged(found), value };
}

/** The same units for the same group as one. */
function merged(gives: readonly Give[]): Give[] {
  const byUnit = new Map<string, Give>();
  for (const give of gives) {
    const key = `${give.place} ${give.group}`;
    const known = byUnit.get(key);
    if (known) known.count += give.count;
    else byUnit.set(key, { ...give });
  }
  return [...byUnit.values()];
}
