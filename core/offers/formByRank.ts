import { reductionOf, type GivenUnit } from './offerReduction.ts';
import type { OpenOffer } from './offer.ts';
import type { Candidate } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** Units given to an offer, by their places and groups, and what that earns. */
export interface Formed {
  ways: [place: number, group: number][];
  value: number;
}

const NOTHING: Formed = { ways: [], value: 0 };

/**
 * Gives free units to an offer without looking ahead: the dearest first, for as long as that earns more. Serves where an
 * offer has too many states for the best way.
 * @param base what each unit earns in any case
 */
export function formByRank(
  { offer: { rule }, limit }: OpenOffer,
  units: readonly OfferUnit[],
  free: readonly Candidate[],
  base: readonly number[],
): Formed {
  const value = (ways: Formed['ways']): number => {
    const given = ways.map(([place, group]): GivenUnit => ({ unit: units[place] as OfferUnit, group }));
    const { taken, total } = reductionOf(rule, given, limit);
    return ways.reduce((left, [place], at) => left - (taken[at] ? (base[place] ?? 0) : 0), total);
  };
  const better = (one: Formed, ways: Formed['ways']): Formed => {
    const worth = value(ways);
    return worth > one.value ? { ways, value: worth } : one;
  };

  if (rule.kind === 'spend') {
    let best = better(
      NOTHING,
      free.map(({ place }) => [place, 0]),
    );
    for (const { from } of rule.tiers) {
      let listed = 0;
      const enough = free.findIndex(({ place }) => (listed += units[place]?.list ?? 0) >= from);
      if (enough >= 0)
        best = better(
          best,
          free.slice(0, enough + 1).map(({ place }) => [place, 0]),
        );
    }
    return best;
  }
  if (rule.kind !== 'together')
    return better(
      NOTHING,
      free.map(({ place }) => [place, 0]),
    );

  // The group with the fewest to choose from chooses first.
  const groups = rule.groups
    .map(({ count }, group) => ({
      group,
      count,
      places: free.filter(({ groups: of }) => of.includes(group)).map(({ place }) => place),
      next: 0,
    }))
    .sort((a, b) => a.places.length / a.count - b.places.length / b.count || a.group - b.group);
  const taken = new Set<number>();
  const ways: Formed['ways'] = [];
  let best = NOTHING;
  for (let done = 0; done < limit; done++) {
    const combination: Formed['ways'] = [];
    for (const one of groups) {
      for (let missing = one.count; missing > 0; one.next++) {
        const place = one.places[one.next];
        if (place === undefined) return best;
        if (taken.has(place)) continue;
        taken.add(place);
        combination.push([place, one.group]);
        missing -= 1;
      }
    }
    const alone = value(combination);
    if (alone <= 0) continue;
    ways.push(...combination);
    best = { ways: ways.slice(), value: best.value + alone };
  }
  return best;
}
