import { sum } from '../../money.ts';
import { groupsOf, type Offer } from '../offer.ts';
import type { GivenUnit } from '../givenUnits.ts';
import { kindOf } from '../kinds/kinds.ts';
import { reductionOf, unitAmounts } from '../offerReduction.ts';
import { isPart } from '../offerStages.ts';
import { laidOut, means, unitsOf, type OfferLine, type OfferUnit } from '../offerUnits.ts';

/**
 * The largest reduction of both stages, found by trying every way to give units away in both, and every order of
 * amounts.
 */
export function exhaustiveJointly(lines: readonly OfferLine[], offers: readonly Offer[]): number {
  const units = laidOut(unitsOf(lines));
  const groupsFor = ({ rule }: Offer, unit: OfferUnit) =>
    unit.counted || kindOf(rule).takesUncounted
      ? groupsOf(rule).flatMap(({ goods }, group) => (means(goods, unit.goods) ? [group] : []))
      : [];
  const open = offers.filter(({ conditions, ...offer }) => {
    const meant = units.filter((unit) => groupsFor({ conditions, ...offer }, unit).length > 0);
    return sum(meant.map(({ list }) => list)) >= conditions.minimum;
  });
  const exclusive = open.filter(({ combines }) => !combines);
  const onTop = open.filter(({ combines }) => combines);
  const parts = onTop.filter(isPart).sort((a, b) => a.id - b.id);
  const amounts = onTop.filter((offer) => !isPart(offer));
  const known = new Map<string, number>();

  /** What one offer leaves of prices, for every way to give it units. */
  function leavings(offer: Offer, left: readonly number[]): number[][] {
    const found = new Map<string, number[]>([[left.join(), left.slice()]]);
    const given: (GivenUnit & { at: number })[] = [];
    const tryFrom = (at: number): void => {
      const unit = units[at];
      if (!unit) {
        const reduction = reductionOf(offer.rule, given, offer.limits.perSale ?? Infinity);
        const after = left.slice();
        for (const { place, amount } of unitAmounts(reduction, given))
          after[given[place]?.at ?? 0] = (after[given[place]?.at ?? 0] ?? 0) - amount;
        found.set(after.join(), after);
        return;
      }
      tryFrom(at + 1);
      for (const group of groupsFor(offer, unit)) {
        given.push({ unit: { ...unit, price: left[at] ?? 0 }, group, count: 1, at });
        tryFrom(at + 1);
        given.pop();
      }
    };
    tryFrom(0);
    return [...found.values()];
  }
  /** The least that is left after some more offers. */
  function least(left: readonly number[], next: readonly Offer[], free: readonly Offer[]): number {
    const key = `${left.join()} ${next.map(({ id }) => id).join()} ${free.map(({ id }) => id).join()}`;
    const before = known.get(key);
    if (before !== undefined) return before;
    const [first] = next;
    const ways = first
      ? leavings(first, left).map((after) => least(after, next.slice(1), free))
      : free.flatMap((offer) =>
          leavings(offer, left).map((after) =>
            least(
              after,
              [],
              free.filter((other) => other !== offer),
            ),
          ),
        );
    const found = Math.min(sum(left), ...ways);
    known.set(key, found);
    return found;
  }
  const given = exclusive.map((): (GivenUnit & { at: number })[] => []);
  const starts = new Map<string, number[]>();
  const giveFrom = (at: number): void => {
    const unit = units[at];
    if (!unit) {
      const left = units.map(({ price }) => price);
      exclusive.forEach(({ rule, limits }, offer) => {
        const mine = given[offer] ?? [];
        for (const { place, amount } of unitAmounts(
          reductionOf(rule, mine, limits.perSale ?? Infinity),
          mine,
        ))
          left[mine[place]?.at ?? 0] = (left[mine[place]?.at ?? 0] ?? 0) - amount;
      });
      starts.set(left.join(), left);
      return;
    }
    giveFrom(at + 1);
    exclusive.forEach((offer, place) => {
      for (const group of groupsFor(offer, unit)) {
        given[place]?.push({ unit, group, count: 1, at });
        giveFrom(at + 1);
        given[place]?.pop();
      }
    });
  };
  giveFrom(0);
  const whole = sum(units.map(({ price }) => price));
  return whole - Math.min(...[...starts.values()].map((left) => least(left, parts, amounts)));
}

/** The largest reduction of exclusive offers, found by trying every way to give units away. */
export function exhaustive(lines: readonly OfferLine[], offers: readonly Offer[]): number {
  const units = laidOut(unitsOf(lines));
  const takes = (offer: Offer, unit: OfferUnit) =>
    unit.counted || kindOf(offer.rule).takesUncounted
      ? groupsOf(offer.rule).flatMap(({ goods }, group) => (means(goods, unit.goods) ? [group] : []))
      : [];
  const open = offers.filter((offer) => {
    const meant = units.filter((unit) => takes(offer, unit).length > 0);
    return sum(meant.map(({ list }) => list)) >= offer.conditions.minimum;
  });
  const given = open.map((): GivenUnit[] => []);
  let best = 0;
  const tryFrom = (at: number): void => {
    const unit = units[at];
    if (!unit) {
      const total = open.map(
        ({ rule, limits }, place) => reductionOf(rule, given[place] ?? [], limits.perSale ?? Infinity).total,
      );
      best = Math.max(best, sum(total));
      return;
    }
    tryFrom(at + 1);
    open.forEach((offer, place) => {
      for (const group of takes(offer, unit)) {
        given[place]?.push({ unit, group, count: 1 });
        tryFrom(at + 1);
        given[place]?.pop();
      }
    });
  };
  tryFrom(0);
  return best;
}
