import type { Chosen } from './chooseOffers.ts';
import { withBase, type UnitBase } from './exclusiveOffers.ts';
import { formedBy, NOTHING } from './formByRank.ts';
import type { Give } from './givenUnits.ts';
import { byValue, fillerOf, type Floor } from './offerFloor.ts';
import type { Work } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/**
 * Tries what is near to a choice: without one of its offers, with what becomes free given anew, and with one more offer
 * that takes its goods from others. @param better keeps a choice if it is. @returns whether one was
 */
export function climb(
  units: readonly OfferUnit[],
  base: UnitBase,
  kept: readonly number[],
  signs: readonly string[],
  from: readonly Chosen[],
  better: (chosen: readonly Chosen[]) => boolean,
  work: Work,
  end: number,
): boolean {
  const contenders = base.others;
  const filler = fillerOf(units, contenders, base.gains, work);
  // What is taken off goods that parts come on top of counts for less: other goods are better given away.
  const avoiding = fillerOf(
    units,
    contenders,
    units.map(({ price }, at) => (base.gains[at] ?? 0) + Math.round(price * (1 - (kept[at] ?? 1)))),
    work,
  );
  const all = contenders.map((_, at) => at);
  let floor: Floor = contenders.map(({ open }) =>
    formedBy(
      open,
      units,
      from.filter((one) => one.open === open),
      base.gains,
    ),
  );
  const chosenOf = (of: Floor) =>
    withBase(
      units,
      base,
      of.flatMap(({ gives }, at) => {
        const open = contenders[at]?.open;
        return open ? gives.map((give): Chosen => ({ ...give, open })) : [];
      }),
    );
  let found = false;
  const consider = (one: Floor): void => {
    if (!better(chosenOf(one))) return;
    floor = one;
    found = true;
  };
  for (const [at, { open, candidates }] of contenders.entries()) {
    if (work.left <= end) break;
    const others = all.filter((other) => other !== at);
    if (floor[at]?.gives.length) {
      const released = floor.with(at, NOTHING);
      consider(released);
      const taken = new Set(floor.flatMap(({ gives }) => gives.map(({ place }) => place)));
      const free = oneOfEach(
        candidates.filter(({ place }) => !taken.has(place)),
        signs,
      );
      for (const fewer of withoutOne(floor[at].gives, signs)) {
        const others = free.flatMap(({ place, groups }) =>
          groups.map((group) => [...fewer, { place, group, count: 1 }]),
        );
        for (const gives of [fewer, ...others]) {
          if (work.left <= end) break;
          consider(floor.with(at, formedBy(open, units, gives, base.gains)));
        }
      }
      for (const one of kept.some((part) => part < 1) ? [filler, avoiding] : [filler]) {
        consider(one.fill(released, [at], byValue));
        consider(one.fill(one.fill(released, others, byValue), [at], byValue));
      }
      continue;
    }
    const forced = filler.form(
      at,
      units.map(({ count }) => count),
    );
    if (forced.value <= 0) continue;
    const taken = new Set(forced.gives.map(({ place }) => place));
    const rest = floor.map((one) => (one.gives.some(({ place }) => taken.has(place)) ? NOTHING : one));
    consider(filler.fill(rest.with(at, forced), others, byValue));
  }
  return found;
}

/** What is left of units that are given, without one of each kind: an offer on top may do better with it. */
function withoutOne(gives: readonly Give[], signs: readonly string[]): Give[][] {
  return oneOfEach(gives, signs).map((one) =>
    gives.flatMap((give) => {
      if (give !== one) return [give];
      return one.count > 1 ? [{ ...one, count: one.count - 1 }] : [];
    }),
  );
}

/** The first of each kind that offers can tell apart. */
function oneOfEach<T extends { place: number }>(list: readonly T[], signs: readonly string[]): T[] {
  const kinds = new Set(list.map(({ place }) => signs[place]));
  return [...kinds].flatMap((kind) => list.find(({ place }) => signs[place] === kind) ?? []);
}
