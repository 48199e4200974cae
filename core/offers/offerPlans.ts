import type { Money } from '../money.ts';
import { formByRank } from './formByRank.ts';
import { groupOfOption, SCALE } from './offerMachine.ts';
import type { Part, Plan } from './offerPart.ts';
import { reductionOf, type GivenUnit } from './offerReduction.ts';
import { sweep, walk, type OfferTable, type Work } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** What computing a plan by the rules costs for each unit. */
const SETTLE_WORK = 30;
/** A cost that no unit is worth. */
const BLOCKED = 1e15;

/** Ways to find good plans of a part without looking for the best. */
export interface Planner {
  /** What a plan is worth by the rules themselves; what completes nothing is let go. */
  settle(plan: Plan): [Plan, Money];
  /** Gives what a plan leaves to offers one after the other, each as good as it gets. @param perUnit by what it gives for each unit */
  greedy(plan: Plan, perUnit: boolean): Plan;
}

/** @param base what each unit earns in any case, times `SCALE` */
export function plannerOf(
  units: readonly OfferUnit[],
  part: Part,
  base: readonly number[],
  work: Work,
): Planner {
  const { places } = part;
  const plainBase = base.map((gain) => gain / SCALE);
  const orderOf = new Map(places.map((place, at) => [place, at]));

  function settle(plan: Plan): [Plan, Money] {
    const settled: Plan = plan.slice();
    const orders = part.tables.map((): number[] => []);
    plan.forEach((way, order) => way && orders[way.table]?.push(order));
    let value = 0;
    orders.forEach((mine, at) => {
      const table = part.tables[at];
      if (mine.length === 0 || !table) return;
      const { offer, limit } = table.open;
      const given = mine.map((order): GivenUnit => ({
        unit: units[places[order] as number] as OfferUnit,
        group: groupOfOption(offer.rule, plan[order]?.option ?? 0),
      }));
      const { taken, total } = reductionOf(offer.rule, given, limit);
      let worth = total * SCALE;
      mine.forEach((order, place) => {
        if (taken[place]) worth -= base[places[order] as number] ?? 0;
        else settled[order] = null;
      });
      if (worth > 0) value += worth;
      else for (const order of mine) settled[order] = null;
    });
    work.left -= SETTLE_WORK * places.length;
    return [settled, value / SCALE];
  }

  /** The best way of one offer with the units that are not blocked. */
  function walked(table: OfferTable, blocked: Float64Array): { value: number; ways: [number, number][] } {
    const value = sweep(table, blocked, work);
    const ways: [number, number][] = [];
    if (value > 0) walk(table, blocked, (place, option) => ways.push([place, option]));
    return { value, ways };
  }

  /** A good way of an offer whose table is only a bound. */
  function formed(
    { open, candidates }: OfferTable,
    blocked: Float64Array,
  ): { value: number; ways: [number, number][] } {
    const free = candidates.filter(({ place }) => blocked[place] === 0);
    work.left -= SETTLE_WORK * free.length;
    const { value, ways } = formByRank(open, units, free, plainBase);
    return { value: value * SCALE, ways };
  }

  function greedy(plan: Plan, perUnit: boolean): Plan {
    const blocked = new Float64Array(units.length);
    const made = plan.slice();
    made.forEach((way, at) => {
      if (way) blocked[places[at] as number] = BLOCKED;
    });
    const open = new Set(
      part.tables.map((_, at) => at).filter((at) => !made.some((way) => way?.table === at)),
    );
    while (open.size > 0 && work.left > 0) {
      let [chosen, most] = [-1, 0];
      let ways: [number, number][] = [];
      for (const at of open) {
        const table = part.tables[at] as OfferTable;
        const { value, ways: mine } = table.relaxed ? formed(table, blocked) : walked(table, blocked);
        if (value <= 0) {
          open.delete(at);
          continue;
        }
        const score = perUnit ? value / Math.max(1, mine.length) : value;
        if (score > most) [chosen, most, ways] = [at, score, mine];
      }
      if (chosen < 0) break;
      open.delete(chosen);
      for (const [place, option] of ways) {
        made[orderOf.get(place) ?? 0] = { table: chosen, option };
        blocked[place] = BLOCKED;
      }
    }
    return made;
  }

  return { settle, greedy };
}
