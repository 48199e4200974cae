import type { Money } from '../money.ts';
import { chooseOffers, type Choice, type Chosen } from './chooseOffers.ts';
import { kindOf } from './kinds/kinds.ts';
import type { OpenOffer } from './offer.ts';
import { isForEach } from './offerRooms.ts';
import type { Contender, Work } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** What each unit earns by an unlimited offer of its own, unless it joins another one. */
export interface UnitBase {
  gains: Money[];
  /** By place. */
  offers: (OpenOffer | undefined)[];
  /** Offers that units have to be chosen for. */
  others: Contender[];
}

export function unitBase(units: readonly OfferUnit[], contenders: readonly Contender[]): UnitBase {
  const gains = units.map(() => 0);
  const offers: (OpenOffer | undefined)[] = [];
  const others: Contender[] = [];
  for (const contender of contenders) {
    const { open, candidates } = contender;
    if (!isForEach(units, contender)) {
      others.push(contender);
      continue;
    }
    const kind = kindOf(open.offer.rule);
    for (const { place } of candidates) {
      const gain = kind.offEach(ofUnit(units, place).price);
      if (gain <= (gains[place] ?? 0)) continue;
      gains[place] = gain;
      offers[place] = open;
    }
  }
  return { gains, offers, others };
}

const ofUnit = (units: readonly OfferUnit[], place: number): OfferUnit => units[place] as OfferUnit;

/** What is not given to another offer goes to the unit's own. */
export function withBase(units: readonly OfferUnit[], base: UnitBase, chosen: readonly Chosen[]): Chosen[] {
  const left = units.map(({ count }) => count);
  for (const { place, count } of chosen) left[place] = (left[place] ?? 0) - count;
  const own = left.flatMap((count, place): Chosen[] => {
    const open = base.offers[place];
    return open && count > 0 ? [{ open, place, group: 0, count }] : [];
  });
  return [...chosen, ...own];
}

/** Chooses among offers that exclude one another; every unit has its own unlimited offer besides. */
export function chooseExclusive(
  units: readonly OfferUnit[],
  contenders: readonly Contender[],
  work: Work,
): Choice {
  const base = unitBase(units, contenders);
  const choice = chooseOffers(units, base.others, base.gains, work);
  return { ...choice, chosen: withBase(units, base, choice.chosen) };
}
