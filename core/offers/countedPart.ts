import { formedBy } from './formByRank.ts';
import type { Give } from './givenUnits.ts';
import { floorLayer, type Floor } from './offerFloor.ts';
import { kindOf } from './kinds/kinds.ts';
import type { Part, Plan } from './offerPart.ts';
import type { Work } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** Good plans of a part, found with the units counted that no offer can tell apart. */
export interface CountedPart {
  /** A plan that is always there. */
  floor(): Plan;
  /** A plan that is at least as good, with single offers taken away and what becomes free given anew. */
  swapped(plan: Plan): Plan;
}

/**
 * @param base what each unit earns in any case
 * @param runs which units are alike, by order in the part
 */
export function countedPart(
  units: readonly OfferUnit[],
  { places, tables }: Part,
  base: readonly number[],
  runs: readonly number[],
  work: Work,
): CountedPart {
  const orders: number[][] = [];
  runs.forEach((run, order) => (orders[run] ??= []).push(order));
  const firstOf = (run: number) => places[orders[run]?.[0] ?? 0] ?? 0;
  const counted = orders.map((of, run): OfferUnit => ({
    ...(units[firstOf(run)] as OfferUnit),
    count: of.length,
  }));
  const countedBase = orders.map((_, run) => base[firstOf(run)] ?? 0);
  const runAt = new Map(orders.map((_, run) => [firstOf(run), run]));
  const contenders = tables.map(({ open, candidates }) => ({
    open,
    candidates: candidates.flatMap(({ place, groups }) => {
      const run = runAt.get(place);
      return run === undefined ? [] : [{ place: run, groups }];
    }),
  }));

  const layer = floorLayer(counted, contenders, countedBase, work);

  function planOf(floor: Floor): Plan {
    const plan: Plan = places.map(() => null);
    const next = orders.map(() => 0);
    floor.forEach(({ gives }, table) => {
      for (const { place: run, group, count } of gives) {
        for (let done = 0; done < count; done++) {
          const at = next[run] ?? 0;
          plan[orders[run]?.[at] ?? 0] = { table, option: group };
          next[run] = at + 1;
        }
      }
    });
    return plan;
  }

  const floorOf = (plan: Plan): Floor =>
    tables.map(({ open }, at) => {
      const gives = new Map<string, Give>();
      plan.forEach((way, order) => {
        if (way?.table !== at) return;
        const [place, group] = [runs[order] ?? 0, kindOf(open.offer.rule).groupOfOption(way.option)];
        const known = gives.get(`${place} ${group}`);
        if (known) known.count += 1;
        else gives.set(`${place} ${group}`, { place, group, count: 1 });
      });
      return formedBy(open, counted, [...gives.values()], countedBase);
    });

  return {
    floor: () => planOf(layer.greedy()),
    swapped: (plan) => planOf(layer.swapped(floorOf(plan))),
  };
}
