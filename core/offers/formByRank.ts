import { sum, type Money } from '../money.ts';
import type { Formed, FreeUnits, Give, GivenUnit } from './givenUnits.ts';
import type { Forming } from './kinds/kind.ts';
import { kindOf } from './kinds/kinds.ts';
import type { OpenOffer } from './offer.ts';
import { reductionOf } from './offerReduction.ts';
import type { OfferUnit } from './offerUnits.ts';

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
  const formed = (gives: Give[]): Formed => formedBy(open, units, gives, base);
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

  const forming: Forming = { units, free, base, limit: open.limit, formed, byGain };
  return kindOf(open.offer.rule)
    .byRank(forming)
    .reduce((most, one) => (one.value > most.value ? one : most), NOTHING);
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
