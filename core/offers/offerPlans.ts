import type { Money } from '../money.ts';
import { formByRank } from './formByRank.ts';
import { kindOf } from './kinds/kinds.ts';
import { SCALE } from './offerMachine.ts';
import type { Part, Plan } from './offerPart.ts';
import type { GivenUnit } from './givenUnits.ts';
import { reductionOf } from './offerReduction.ts';
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
  /**
   * Gives what a plan leaves to offers one after the other, each as good as it gets. @param perUnit by what it gives
   * for each unit
   */
  greedy(plan: Plan, perUnit: boolean, work: Work): Plan;
}

/** What one offer would take, and what that earns, times `SCALE`. */
interface Best {
  value: number;
  ways: [place: number, option: number][];
}

const NONE: Best = { value: 0, ways: [] };

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
        group: kindOf(offer.rule).groupOfOption(plan[order]?.option ?? 0),
        count: 1,
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
  function walked(table: OfferTable, blocked: Float64Array, by: Work): Best {
    const value = sweep(table, blocked, by);
    const ways: Best['ways'] = [];
    if (value > 0) walk(table, blocked, (place, option) => ways.push([place, option]));
    return { value, ways };
  }

  /** A good way of an offer whose table is only a bound. */
  function formed({ open, candidates }: OfferTable, blocked: Float64Array, by: Work): Best {
    const free = candidates.flatMap((one) => (blocked[one.place] === 0 ? [{ ...one, count: 1 }] : []));
    by.left -= SETTLE_WORK * free.length;
    const { value, gives } = formByRank(open, units, free, plainBase);
    return { value: value * SCALE, ways: gives.map(({ place, group }) => [place, group]) };
  }

  function greedy(plan: Plan, perUnit: boolean, by: Work): Plan {
    const blocked = new Float64Array(units.length);
    const made = plan.slice();
    made.forEach((way, at) => {
      if (way) blocked[places[at] as number] = BLOCKED;
    });
    const has = new Set(made.map((way) => way?.table));
    let turn = 0;
    let waiting = part.tables.flatMap((table, at) =>
      has.has(at) ? [] : [{ table, at, turn: -1, score: Infinity, best: NONE }],
    );
    for (let first = waiting[0]; first && by.left > 0; first = waiting[0]) {
      const next = waiting.reduce((most, one) => (one.score > most.score ? one : most), first);
      if (next.turn < turn) {
        // What an offer earns only falls as units go: it is looked at again when its turn comes.
        const { value, ways } = (next.best = (next.table.relaxed ? formed : walked)(next.table, blocked, by));
        next.turn = turn;
        next.score = perUnit ? value / Math.max(1, ways.length) : value;
        if (value <= 0) waiting = waiting.filter((one) => one !== next);
        continue;
      }
      waiting = waiting.filter((one) => one !== next);
      turn += 1;
      for (const [place, option] of next.best.ways) {
        made[orderOf.get(place) ?? 0] = { table: next.at, option };
        blocked[place] = BLOCKED;
      }
    }
    return made;
  }

  return { settle, greedy };
}
