import { sum, type Money } from '../money.ts';
import { kindOf } from './kinds/kinds.ts';
import { SCALE } from './offerMachine.ts';
import type { Contender } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/**
 * What counted units can earn at most above what they earn in any case: each its largest share of what any offer gives,
 * but what is given once for spending counts once.
 */
export function largestEarned(
  units: readonly OfferUnit[],
  contenders: readonly Contender[],
  base: readonly Money[],
): Money {
  const most = units.map(() => 0);
  let once = 0;
  for (const { open, candidates } of contenders) {
    const kind = kindOf(open.offer.rule);
    if (kind.largestOnce !== null) {
      once += kind.largestOnce * SCALE;
      continue;
    }
    for (const { place, groups } of candidates) {
      for (const group of groups) {
        const share = kind.largestShare(units[place] as OfferUnit, group) - (base[place] ?? 0) * SCALE;
        most[place] = Math.max(most[place] ?? 0, share);
      }
    }
  }
  const all = once + sum(most.map((share, place) => share * (units[place]?.count ?? 0)));
  return Math.floor(all / SCALE);
}
