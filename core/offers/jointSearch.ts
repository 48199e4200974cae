import { sum, type Money } from '../money.ts';
import type { Chosen } from './chooseOffers.ts';
import { unitBase, withBase, type UnitBase } from './exclusiveOffers.ts';
import type { Bounding } from './jointBound.ts';
import { kindOf } from './kinds/kinds.ts';
import { moveMultipliers, runsOf, startingMultipliers, type Part, type Plan } from './offerPart.ts';
import { branchingOf } from './offerSearch.ts';
import { SCALE } from './offerMachine.ts';
import { sweep, tablesOf, walk, type Contender, type OfferTable, type Work } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** What a step of the search costs. */
const NODE_WORK = 12;
/** The multipliers are improved so often. */
const ROUNDS = 24;

/** Where an offer on top chooses among units, one may be left to it: then no unit goes to its own offer by itself. */
const searched = (
  units: readonly OfferUnit[],
  exclusive: readonly Contender[],
  { competing }: Bounding,
): UnitBase =>
  competing.length > 0
    ? { gains: units.map(() => 0), offers: [], others: exclusive.slice() }
    : unitBase(units, exclusive);

/**
 * Goes through the choices of exclusive offers that may be better together with those on top. @returns a bound for
 * all
 */
export function searchJointly(
  units: readonly OfferUnit[],
  exclusive: readonly Contender[],
  bounding: Bounding,
  best: () => Money,
  better: (chosen: readonly Chosen[]) => boolean,
  work: Work,
): Money {
  const base = searched(units, exclusive, bounding);
  const always = sum(base.gains);
  const scaled = base.gains.map((gain) => gain * SCALE);
  const free = new Float64Array(units.length);
  const tables = tablesOf(base.others, units, scaled, work, 0.3).filter((one) => sweep(one, free, work) > 0);
  const part: Part = { places: units.map((_, at) => at), tables };
  const runs = runsOf(units, part, scaled, bounding.combining);
  const { cost, bound: lowest } = multipliers(units, part, scaled, runs, work);
  const { branches, follow } = branchingOf(part, tables, cost);
  const states = tables.map(() => 0);
  const plan: Plan = units.map(() => null);
  const nodeWork = NODE_WORK + 2 * tables.length;
  const jointBound = (bound: number) => bounding.joint(always + Math.floor(bound / SCALE));
  let complete = true;

  function node(order: number, bound: number, least: number): void {
    work.left -= nodeWork;
    if (work.left <= 0) {
      complete = false;
      return;
    }
    if (order === units.length) {
      better(withBase(units, base, chosenBy(plan, tables)));
      return;
    }
    const newRun = order === 0 || runs[order] !== runs[order - 1];
    for (const branch of branches(order, states, bound)) {
      if (jointBound(branch.bound) <= best()) break;
      if (!newRun && branch.code < least) continue;
      const takeBack = follow(order, states, plan, branch);
      node(order + 1, branch.bound, branch.code);
      takeBack();
      if (!complete) return;
    }
  }

  node(0, lowest, -1);
  return complete && bounding.exact ? best() : jointBound(lowest);
}

/** What units are given to by a plan. */
const chosenBy = (plan: Plan, tables: readonly OfferTable[]): Chosen[] =>
  plan.flatMap((way, place): Chosen[] => {
    const open = way && tables[way.table]?.open;
    return open ? [{ open, place, group: kindOf(open.offer.rule).groupOfOption(way.option), count: 1 }] : [];
  });

/**
 * What the units cost so that the bound on exclusive offers is low; leaves the tables as `sweep` does with these
 * costs.
 */
function multipliers(
  units: readonly OfferUnit[],
  part: Part,
  base: readonly number[],
  runs: readonly number[],
  work: Work,
): { cost: Float64Array; bound: number } {
  const { tables } = part;
  const cost = new Float64Array(units.length);
  const lambda = startingMultipliers(units, part, base, runs);
  const direction = lambda.map(() => 0);
  const price = (of: readonly number[]): number => {
    units.forEach((_, at) => (cost[at] = of[runs[at] ?? 0] ?? 0));
    return sum([...cost]) + sum(tables.map((table) => sweep(table, cost, work)));
  };
  let best = lambda.slice();
  let lowest = price(lambda);
  for (let round = 0, pace = 1; round < ROUNDS && work.left > 0; round++) {
    const excess = lambda.map(() => 0);
    for (const run of runs) excess[run] = (excess[run] ?? 0) - 1;
    for (const table of tables)
      walk(table, cost, (place) => (excess[runs[place] ?? 0] = (excess[runs[place] ?? 0] ?? 0) + 1));
    if (!moveMultipliers(lambda, direction, excess, pace * Math.max(SCALE, lowest / 10))) break;
    const bound = price(lambda);
    if (bound < lowest) [lowest, best] = [bound, lambda.slice()];
    else pace *= 0.8;
  }
  return { cost, bound: price(best) };
}
