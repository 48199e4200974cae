import { sum, type Money } from '../money.ts';
import type { OpenOffer } from './offer.ts';
import { groupOfOption, SCALE } from './offerMachine.ts';
import { partsOf, runsOf, startingMultipliers, type Part, type Plan, type Way } from './offerPart.ts';
import { plannerOf } from './offerPlans.ts';
import { sweep, tableOf, walk, type Candidate, type OfferTable, type Work } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** Which offer each unit is given to. */
export interface Choice {
  /** By unit: the offer and its group, or `null`. */
  given: ({ open: OpenOffer; group: number } | null)[];
  value: Money;
  /** No choice can be worth more. */
  bound: Money;
}

/** An offer and the units that it means, by their places. */
export interface Contender {
  open: OpenOffer;
  candidates: readonly Candidate[];
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

/** Ways of one table are numbered below this. */
const OPTIONS = 64;
const LEAVE = Number.MAX_SAFE_INTEGER;

/**
 * Chooses, among all ways to give units to exclusive offers, the one with the largest reduction: bounds by
 * multipliers on the units and one automaton per offer, then a search with bounds. The same answer on every till; when
 * the work is used up, the best one found, with a bound on what it may lack.
 * @param base what each unit earns by an unlimited offer of its own, whatever else is chosen
 */
export function chooseOffers(
  units: readonly OfferUnit[],
  contenders: readonly Contender[],
  base: readonly Money[],
  work: Work,
): Choice {
  const given: Choice['given'] = units.map(() => null);
  const scaled = base.map((gain) => gain * SCALE);
  const free = new Float64Array(units.length);
  const tables = contenders
    .map(({ open, candidates }) => tableOf(open, units, candidates, scaled, work, contenders.length))
    .filter((table) => sweep(table, free, work) > 0);
  let value = sum(base);
  let bound = value;
  for (const part of partsOf(units.length, tables)) {
    const solved = solve(units, part, scaled, work);
    value += solved.value;
    bound += solved.bound;
    solved.plan.forEach((way, at) => {
      const table = way && part.tables[way.table];
      if (!table) return;
      given[part.places[at] ?? 0] = {
        open: table.open,
        group: groupOfOption(table.open.offer.rule, way.option),
      };
    });
  }
  return { given, value, bound };
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
    take(greedy(settled, false));
  }

  const nothing: Plan = places.map(() => null);
  take(greedy(nothing, false));
  if (tables.length > 1) take(greedy(nothing, true));

  // The bound: multipliers on runs of equal units.
  const runs = runsOf(units, part, base);
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
      let norm = 0;
      excess.forEach((one, run) => {
        direction[run] = one + 0.4 * (direction[run] ?? 0);
        if ((lambda[run] ?? 0) > 0 || (direction[run] ?? 0) > 0) norm += (direction[run] ?? 0) ** 2;
      });
      if (norm === 0) return false;
      const stride = (pace * Math.max(SCALE, bound - best.value * SCALE)) / norm;
      direction.forEach((one, run) => {
        lambda[run] = Math.max(0, Math.round((lambda[run] ?? 0) + stride * one));
      });
      if (round % DIVE_EVERY === DIVE_EVERY - 1) takeAndFill(dive());
    }
    return true;
  }

  // What each unit may be given to, by order; set anew when offers have dropped out.
  let eligible: { table: OfferTable; at: number; layer: number }[][] = [];
  let lastOrder: number[] = [];
  let indexOf = new Map<OfferTable, number>();

  function prepareSearch(): void {
    lowest = setCosts(bestLambda);
    for (const table of tables) lowest += sweep(table, cost, work);
    indexOf = new Map(tables.map((table) => [table, part.tables.indexOf(table)]));
    eligible = places.map(() => []);
    tables.forEach((table, at) => {
      table.places.forEach((place, layer) => {
        eligible[orderOf.get(place) ?? 0]?.push({ table, at, layer });
      });
    });
    lastOrder = tables.map(({ places: of }) => orderOf.get(of.at(-1) ?? 0) ?? 0);
  }

  if (tables.length === 1) lambda.fill(0);
  for (const [rounds, nodes] of STAGES) {
    const goOn = improve(tables.length === 1 ? 1 : rounds);
    prepareSearch();
    // Offers that dropped out cannot be part of anything better.
    if (tables.length === 0 || Math.floor(lowest / SCALE) <= best.value)
      return { ...best, bound: best.value };
    if (count <= MOST_SEARCHED && search(goOn ? nodes : Number.POSITIVE_INFINITY))
      return { ...best, bound: best.value };
    if (!goOn || work.left <= 0) break;
  }
  return { ...best, bound: Math.max(best.value, Math.floor(lowest / SCALE)) };

  /** One way to go on from a unit: to which state, and what is the best that it can come to. */
  interface Branch {
    code: number;
    /** Which of the eligible takes it; −1 is none. */
    taker: number;
    option: number;
    state: number;
    bound: number;
  }

  function branches(order: number, states: readonly number[], bound: number): Branch[] {
    const here = eligible[order] ?? [];
    let left = bound - (cost[places[order] as number] as number);
    let stuck = 0;
    const skips = here.map(({ table, at, layer }) => {
      const state = states[at] ?? 0;
      const now = table.best[layer]?.[state] ?? -Infinity;
      const to = table.layers[layer]?.skip[state] ?? -1;
      const after = to < 0 ? -Infinity : (table.best[layer + 1]?.[to] ?? -Infinity);
      left -= now;
      if (after === -Infinity) stuck += 1;
      else left += after;
      return after;
    });
    const found: Branch[] = [];
    if (stuck === 0) found.push({ code: LEAVE, taker: -1, option: 0, state: 0, bound: left });
    here.forEach(({ table, at, layer }, taker) => {
      const skip = skips[taker] as number;
      if (stuck > (skip === -Infinity ? 1 : 0)) return;
      const without = skip === -Infinity ? left : left - skip;
      for (const { option, next, gain } of table.layers[layer]?.ways ?? []) {
        const to = next[states[at] ?? 0] ?? -1;
        if (to < 0) continue;
        const after = table.best[layer + 1]?.[to] ?? -Infinity;
        if (after === -Infinity) continue;
        found.push({
          code: at * OPTIONS + option,
          taker,
          option,
          state: to,
          bound: without + (gain[states[at] ?? 0] ?? 0) + after,
        });
      }
    });
    return found.sort((a, b) => b.bound - a.bound || a.code - b.code);
  }

  /** The states of all offers after a unit was given away. */
  function follow(order: number, states: number[], { taker, state }: Branch): void {
    eligible[order]?.forEach(({ table, at, layer }, place) => {
      states[at] = place === taker ? state : (table.layers[layer]?.skip[states[at] ?? 0] ?? -1);
    });
  }

  function wayOf(order: number, { taker, option }: Branch): Way | null {
    const one = eligible[order]?.[taker];
    return one ? { table: indexOf.get(one.table) ?? 0, option } : null;
  }

  /** Goes through all plans that may be better. @returns whether all were seen, within so many steps */
  function search(nodes: number): boolean {
    let left = nodes;
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
        const key = `${order} ${states.filter((_, at) => (lastOrder[at] ?? 0) >= order).join()}`;
        const before = seen.get(key);
        if (before !== undefined && before >= bound) return;
        if (before !== undefined || seen.size < MOST_REMEMBERED) seen.set(key, bound);
      }
      for (const branch of branches(order, states, bound)) {
        if (Math.floor(branch.bound / SCALE) <= best.value) break;
        if (!newRun && branch.code < least) continue;
        const here = eligible[order] ?? [];
        const before = here.map(({ at }) => states[at] ?? 0);
        follow(order, states, branch);
        plan[order] = wayOf(order, branch);
        node(order + 1, branch.bound, branch.code);
        here.forEach(({ at }, place) => (states[at] = before[place] ?? 0));
        if (!complete) return;
      }
      plan[order] = null;
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
