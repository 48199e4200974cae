import { sum, type Money } from '../money.ts';
import { WHOLE, type Rate } from '../rate.ts';
import { kindOf } from './kinds/kinds.ts';
import { combiningStage, isPart } from './offerStages.ts';
import type { Contender, Work } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** What both stages can come to at most, by what exclusive offers come to. */
export interface Bounding {
  joint(exclusive: Money): Money;
  /** What parts that are taken of all units leave of each, from 0 to 1. */
  kept: readonly number[];
  /**
   * Whether the stage on top is the best there is for any choice of exclusive offers: those that choose do not meet.
   */
  exact: boolean;
  /** Offers on top that choose among units, or take amounts: others simply take their part of everything. */
  competing: Contender[];
  combining: readonly Contender[];
}

/**
 * Parts that are taken of all units leave so much of each; the rest of the offers on top take at most what they take by
 * themselves. Half a cent of rounding for each part and unit.
 */
export function boundOf(units: readonly OfferUnit[], combining: readonly Contender[], work: Work): Bounding {
  const rates = combining.map((contender) => wholeRate(units, contender));
  const competing = combining.filter((_, at) => rates[at] === undefined);
  const parts = units.map((): Rate[] => []);
  combining.forEach(({ candidates }, at) => {
    const rate = rates[at];
    if (rate !== undefined) for (const { place } of candidates) parts[place]?.push(rate);
  });
  const kept = parts.map((of) => of.reduce((left, rate) => left * (1 - rate / WHOLE), 1));
  const most = Math.max(0, ...kept);
  const alone = (contender: Contender, of: readonly OfferUnit[]) =>
    combiningStage(of, { taken: [], value: 0 }, [contender], work).value;
  const scaled = units.map((unit, at) => ({ ...unit, price: Math.ceil(unit.price * (kept[at] ?? 1)) + 1 }));
  const rounds = parts.some((of) => of.length > 0);
  const onParts = competing.filter(({ open }) => isPart(open.offer));
  const amounts = competing.filter(({ open }) => !isPart(open.offer));
  const slack = rounds
    ? sum(units.map(({ count }, at) => count * ((parts[at]?.length ?? 0) + onParts.length))) / 2
    : 0;
  const always = units.reduce((all, { price, count }, at) => all + count * price * (1 - (kept[at] ?? 1)), 0);
  const whole = sum(units.map(({ price, count }) => price * count));
  const own =
    most * sum(onParts.map((one) => alone(one, units))) +
    sum(amounts.map((one) => alone(one, rounds ? scaled : units)));
  const met = new Set<number>();
  const exact = competing.every(({ open, candidates }) => {
    const alike = new Set(candidates.map(({ place }) => kept[place] ?? 1)).size <= 1;
    const meets = candidates.some(({ place }) => met.has(place));
    for (const { place } of candidates) met.add(place);
    return !meets && (alike || !isPart(open.offer));
  });
  return {
    kept,
    exact,
    competing,
    combining,
    joint: (exclusive) => Math.min(whole, Math.floor(always + most * exclusive + own + slack + 1e-6)),
  };
}

/** The part that an offer on top takes of all units that it means, if it is one. */
function wholeRate(
  units: readonly OfferUnit[],
  { open: { offer, limit }, candidates }: Contender,
): Rate | undefined {
  const meant = candidates.map(({ place }) => units[place] as OfferUnit);
  return kindOf(offer.rule).wholeRate(meant, limit);
}
