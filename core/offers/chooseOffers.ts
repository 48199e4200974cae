import { sum, type Money } from '../money.ts';
import { countedPart } from './countedPart.ts';
import type { Give } from './givenUnits.ts';
import type { OpenOffer } from './offer.ts';
import { floorLayer, floorValue } from './offerFloor.ts';
import { kindOf } from './kinds/kinds.ts';
import { moveMultipliers, partsOf, runsOf, startingMultipliers, type Part, type Plan } from './offerPart.ts';
import { plannerOf } from './offerPlans.ts';
import { branchingOf } from './offerSearch.ts';
import { largestEarned } from './largestEarned.ts';
import { SCALE } from './offerMachine.ts';
import { lend, sweep, tablesOf, walk, type Contender, type OfferTable, type Work } from './offerTable.ts';
import { howMany, type OfferUnit } from './offerUnits.ts';

/** Units that are given to an offer. */
export interface Chosen extends Give {
  open: OpenOffer;
}

/** Which offers units are given to. */
export interface Choice {
  chosen: Chosen[];
  value: Money;
  /** No choice can be worth more. */
  bound: Money;
}

/** How the bound is improved and searched under: rounds, then so many steps; where that is not enough, once more. */
const STAGES: readonly (readonly [rounds: number, nodes: number])[] = [
  [12, 400],
  [24, 2000],
  [40, Number.POSITIVE_INFINITY],
];
/** A dive along the bound after so many rounds. */
const DIVE_EVERY = 8;
/** Above so many units there is no search, only dives: it would not end. */
const MOST_SEARCHED = 600;
const MOST_REMEMBERED = 100_000;
/** What a step of the search costs beside a cell of a table. */
const NODE_WORK = 12;
/**
 * Such a part of the work may go into tables; another one of what is left into looking for a good choice to begin
 * with.
 */
const TABLE_PART = 0.4;
const GREEDY_PART = 0.25;

/**
 * Chooses, among all ways to give units to exclusive offers, the one with the largest reduction: bounds by
 * multipliers on the units and one automaton per offer, then a search with bounds. The same answer on every till; when
 * the work is used up, the best one found, with a bound on what it may lack.
 * @param units each for itself; where equal ones are counted, only a good choice is looked for
 * @param base what each unit earns by an unlimited offer of its own, whatever else is chosen
 */
export function chooseOffers(
  units: readonly OfferUnit[],
  contenders: readonly Contender[],
  base: readonly Money[],
  work: Work,
): Choice {
  const always = sum(units.map(({ count }, at) => (base[at] ?? 0) * count));
  if (howMany(units) > units.length) return chooseCounted(units, contenders, base, always, work);
  const scaled = base.map((gain) => gain * SCALE);
  const free = new Float64Array(units.length);
  const tables = tablesOf(contenders, units, scaled, work, TABLE_PART).filter(
    (table) => sweep(table, free, work) > 0,
  );
  let [value, bound] = [always, always];
  const chosen: Chosen[] = [];
  let cells = sum(tables.map((table) => table.cells));
  for (const part of partsOf(units.length, tables)) {
    // Work is shared by how much there is to read.
    const mine = sum(part.tables.map((table) => table.cells));
    const solved = lend(work, (work.left * mine) / cells, (share) => solve(units, part, scaled, share));
    cells -= mine;
    value += solved.value;
    bound += solved.bound;
    solved.plan.forEach((way, at) => {
      const open = way && part.tables[way.table]?.open;
      if (!open) return;
      const group = kindOf(open.offer.rule).groupOfOption(way.option);
      chosen.push({ open, place: part.places[at] ?? 0, group, count: 1 });
    });
  }
  return { chosen, value, bound };
}

/** A good choice for very many units. */
function chooseCounted(
  units: readonly OfferUnit[],
  contenders: readonly Contender[],
  base: readonly Money[],
  always: Money,
  work: Work,
): Choice {
  const layer = floorLayer(units, contenders, base, work);
  const floor = layer.swapped(layer.greedy());
  const chosen = floor.flatMap(({ gives }, at) => {
    const open = contenders[at]?.open;
    return open ? gives.map((give): Chosen => ({ ...give, open })) : [];
  });
  const value = always + floorValue(floor);
  return { chosen, value, bound: Math.max(value, always + largestEarned(units, contenders, base)) };
}

interface Solved {
  plan: Plan;
  value: Money;
  bound: Money;
}

/** Solves one part. All values are above what the units earn in any case. */
function solve(units: readonly OfferUnit[], part: Part, base: readonly number[], work: Work): Solved {
  const { places } = part;
  const count = places.length;
  let { tables } = part;
  const { settle, greedy } = plannerOf(units, part, base, work);
  const orderOf = new Map(places.map((place, at) => [place, at]));
  const cost = new Float64Array(units.length);
  let best: Solved = { plan: places.map(() => null), value: 0, bound: Number.POSITIVE_INFINITY };

  /** What a plan is worth by the rules themselves; what completes nothing is let go. */
  function take(plan: Plan): void {
    const [settled, value] = settle(plan);
    if (value > best.value) best = { ...best, plan: settled, value };
  }

  /** Takes a plan, and once more with what is left of it given to the other offers. */
  function takeAndFill(plan: Plan): void {
    const [settled] = settle(plan);
    take(settled);
    take(greedy(settled, false, work));
  }

  const runs = runsOf(units, part, base);
  const plainBase = base.map((gain) => gain / SCALE);
  const counted = () => countedPart(units, part, plainBase, runs, work);
  const nothing: Plan = places.map(() => null);
  const cutShort = lend(work, work.left * GREEDY_PART, (share) => {
    take(greedy(nothing, false, share));
    if (tables.length > 1) take(greedy(nothing, true, share));
    return share.left <= 0;
  });
  if (cutShort || tables.some(({ relaxed }) => relaxed)) take(counted().floor());

  // The bound: multipliers on runs of equal units.
  const runSizes = new Map<number, number>();
  for (const run of runs) runSizes.set(run, (runSizes.get(run) ?? 0) + 1);
  const lambda = startingMultipliers(units, part, base, runs);
  const direction = lambda.map(() => 0);
  let bestLambda = lambda.slice();
  let lowest = Number.POSITIVE_INFINITY;
  let pace = 1;
  let stalled = 0;

  function setCosts(of: readonly number[]): number {
    let total = 0;
    places.forEach((place, at) => {
      cost[place] = of[runs[at] ?? 0] ?? 0;
      total += cost[place];
    });
    return total;
  }

  /** Improves the multipliers. @returns false where there is nothing left to gain by it */
  function improve(rounds: number): boolean {
    for (let round = 0; round < rounds && work.left > 0; round++) {
      let bound = setCosts(lambda);
      const values = tables.map((table) => sweep(table, cost, work));
      for (const value of values) bound += value;
      if (bound < lowest) {
        lowest = bound;
        bestLambda = lambda.slice();
        stalled = 0;
        // What cannot beat the best that is known has no say any more.
        const forced = tables.map((table, at) =>
          (values[at] ?? 0) > 0 ? Infinity : bestForced(table, cost) + bound,
        );
        tables = tables.filter((_, at) => Math.floor((forced[at] ?? 0) / SCALE) > best.value);
      } else if (++stalled >= 5) {
        pace /= 2;
        stalled = 0;
      }
      if (Math.floor(lowest / SCALE) <= best.value) return false;
      const excess = lambda.map((_, run) => 0 - (runSizes.get(run) ?? 0));
      for (const table of tables) {
        walk(table, cost, (place) => {
          const run = runs[orderOf.get(place) ?? 0] ?? 0;
          excess[run] = (excess[run] ?? 0) + 1;
        });
      }
      const reach = pace * Math.max(SCALE, bound - best.value * SCALE);
      if (!moveMultipliers(lambda, direction, excess, reach)) return false;
      if (round % DIVE_EVERY === DIVE_EVERY - 1) takeAndFill(dive());
    }
    return true;
  }

  if (tables.length === 1) lambda.fill(0);
  for (const [rounds, nodes] of STAGES) {
    const goOn = improve(tables.length === 1 ? 1 : rounds);
    lowest = setCosts(bestLambda);
    for (const table of tables) lowest += sweep(table, cost, work);
    // Offers that dropped out cannot be part of anything better.
    if (tables.length === 0 || Math.floor(lowest / SCALE) <= best.value)
      return { ...best, bound: best.value };
    if (count <= MOST_SEARCHED && search(goOn ? nodes : Number.POSITIVE_INFINITY))
      return { ...best, bound: best.value };
    if (!goOn || work.left <= 0) break;
  }
  take(counted().swapped(best.plan));
  return { ...best, bound: Math.max(best.value, Math.floor(lowest / SCALE)) };

  /** Goes through all plans that may be better. @returns whether all were seen, within so many steps */
  function search(nodes: number): boolean {
    let left = nodes;
    const { branches, follow, told } = branchingOf(part, tables, cost);
    const states = tables.map(() => 0);
    const plan: Plan = places.map(() => null);
    const relaxed = tables.some((table) => table.relaxed);
    const seen = new Map<string, number>();
    const nodeWork = NODE_WORK + 2 * tables.length;
    let complete = true;

    function node(order: number, bound: number, least: number): void {
      work.left -= nodeWork;
      if (work.left <= 0 || --left < 0) {
        complete = false;
        return;
      }
      if (order === count) {
        if (relaxed) take(plan);
        else if (bound / SCALE > best.value) best = { ...best, plan: plan.slice(), value: bound / SCALE };
        return;
      }
      const newRun = order === 0 || runs[order] !== runs[order - 1];
      if (newRun && !relaxed && order > 0) {
        // The multipliers of what is left are the same for the same states: only what was gained so far differs.
        const key = `${order} ${told(order, states)}`;
        const before = seen.get(key);
        if (before !== undefined && before >= bound) return;
        if (before !== undefined || seen.size < MOST_REMEMBERED) seen.set(key, bound);
      }
      for (const branch of branches(order, states, bound)) {
        if (Math.floor(branch.bound / SCALE) <= best.value) break;
        if (!newRun && branch.code < least) continue;
        const takeBack = follow(order, states, plan, branch);
        node(order + 1, branch.bound, branch.code);
        takeBack();
        if (!complete) return;
      }
    }

    node(0, lowest, -1);
    return complete;
  }

  /** Gives every offer its best way at the multipliers of this round, those that gain most first. */
  function dive(): Plan {
    const taken = new Set<number>();
    const plan: Plan = places.map(() => null);
    const wants: { table: number; gain: number; ways: [number, number][] }[] = [];
    part.tables.forEach((table, at) => {
      if (!tables.includes(table)) return;
      const ways: [number, number][] = [];
      walk(table, cost, (place, option) => ways.push([place, option]));
      if (ways.length > 0) wants.push({ table: at, gain: table.best[0]?.[0] ?? 0, ways });
    });
    wants.sort((a, b) => b.gain - a.gain || a.table - b.table);
    for (const { table, ways } of wants) {
      for (const [place, option] of ways) {
        if (taken.has(place)) continue;
        taken.add(place);
        plan[orderOf.get(place) ?? 0] = { table, option };
      }
    }
    return plan;
  }
}

/** The best value of an offer that takes at least one unit, as `sweep` last left it. */
function bestForced({ layers, places, best }: OfferTable, cost: Float64Array): number {
  let state = 0;
  let most = -Infinity;
  for (let at = 0; at < layers.length && state >= 0; at++) {
    for (const { next, gain } of layers[at]?.ways ?? []) {
      const to = next[state] ?? -1;
      if (to < 0) continue;
      const value = (gain[state] ?? 0) - (cost[places[at] ?? 0] ?? 0) + (best[at + 1]?.[to] ?? -Infinity);
      if (value > most) most = value;
    }
    state = layers[at]?.skip[state] ?? -1;
  }
  return most;
}
