import type { OpenOffer } from './offer.ts';
import type { Candidate } from './givenUnits.ts';
import { kindOf } from './kinds/kinds.ts';
import type { MachineState, OfferMachine } from './offerMachine.ts';
import type { OfferUnit } from './offerUnits.ts';

/** Work that may still be done. Counted in steps, never in time: two tills must not disagree. */
export interface Work {
  left: number;
}

/** Lets something be done with so much of the work at most, and counts what it took. */
export function lend<T>(work: Work, most: number, act: (share: Work) => T): T {
  const given = Math.max(0, Math.floor(most));
  const share = { left: given };
  const done = act(share);
  work.left -= given - share.left;
  return done;
}

/** Does something while a part of the work is kept back for later. */
export function sparing<T>(work: Work, kept: number, act: () => T): T {
  work.left -= kept;
  const done = act();
  work.left += kept;
  return done;
}

/** An offer and the units that it means, by their places. */
export interface Contender {
  open: OpenOffer;
  candidates: readonly Candidate[];
}

/** The states before one unit is read, and where they lead. */
interface Layer {
  size: number;
  /** The state after leaving the unit; −1 is none. */
  skip: Int32Array;
  ways: { option: number; next: Int32Array; gain: Float64Array }[];
}

/** An offer's automaton spread out over the units that it means. */
export interface OfferTable {
  open: OpenOffer;
  candidates: readonly Candidate[];
  /** Places of the units it means, dearest first. */
  places: readonly number[];
  layers: readonly Layer[];
  finish: readonly number[];
  relaxed: boolean;
  /** Best value from each state on, by layer, as `sweep` last computed it. */
  best: Float64Array[];
  cells: number;
}

/** So many states an offer may have over all units before it is bounded instead. */
const MOST_CELLS = 25_000;
/** From so many units on, it is the states that are cut, not the rounds: so many for all offers. */
const MANY_UNITS = 60;
const CELLS_OF_MANY = 100_000;
const LEAST_CELLS = 2_000;
/** What a cell of a table costs when it is made, beside what reading it costs, and each unit. */
const CELL_WORK = 4;
const LAYER_WORK = 20;

/** Spreads the automata of offers out over units, which may take such a part of the work, shared fairly. */
export function tablesOf(
  contenders: readonly Contender[],
  units: readonly OfferUnit[],
  base: readonly number[],
  work: Work,
  part: number,
): OfferTable[] {
  const end = work.left * (1 - part);
  return contenders.map(({ open, candidates }, at) => {
    const share = (work.left - end) / (contenders.length - at) / CELL_WORK;
    const many = candidates.length > MANY_UNITS ? CELLS_OF_MANY / contenders.length : MOST_CELLS;
    return tableOf(open, units, candidates, base, work, Math.max(LEAST_CELLS, Math.min(many, share)));
  });
}

/**
 * Spreads an offer's automaton out over units.
 * @param base what each unit earns in any case, times `SCALE`, which it loses when it joins
 * @param most states, over all units; where there are more, it is bounded instead
 */
export function tableOf(
  open: OpenOffer,
  units: readonly OfferUnit[],
  candidates: readonly Candidate[],
  base: readonly number[],
  work: Work,
  most = MOST_CELLS,
): OfferTable {
  const read = candidates.map(({ place }) => units[place] as OfferUnit);
  const sizes = groupSizes(candidates);
  const spreadOut = (machine: OfferMachine, cells: number) =>
    spreadMachine(machine, open, units, candidates, base, sizes, work, cells);
  const machines = kindOf(open.offer.rule).machines(read, sizes, open.limit);
  for (const machine of machines.slice(0, -1)) {
    const table = spreadOut(machine(), most);
    if (table) return table;
  }
  const last = machines.at(-1) as () => OfferMachine;
  return spreadOut(last(), Number.POSITIVE_INFINITY) as OfferTable;
}

/** How many units each group may have. */
function groupSizes(candidates: readonly Candidate[]): number[] {
  const sizes: number[] = [];
  for (const { groups } of candidates) for (const group of groups) sizes[group] = (sizes[group] ?? 0) + 1;
  return Array.from(sizes, (size) => size ?? 0);
}

function spreadMachine(
  machine: OfferMachine,
  open: OpenOffer,
  units: readonly OfferUnit[],
  candidates: readonly Candidate[],
  base: readonly number[],
  sizes: readonly number[],
  work: Work,
  most: number,
): OfferTable | undefined {
  const left = { counts: sizes.slice(), list: 0 };
  for (const { place } of candidates) left.list += units[place]?.list ?? 0;
  const short = machine.radix ** machine.start.length < Number.MAX_SAFE_INTEGER;
  const keyOf = (state: MachineState): number | string =>
    short ? state.reduce((key, one) => key * machine.radix + one, 0) : state.join();
  const layers: Layer[] = [];
  let states: MachineState[] = [machine.start];
  let cells = 0;
  for (const { place, groups: of } of candidates) {
    const unit = units[place] as OfferUnit;
    for (const group of of) left.counts[group] = (left.counts[group] ?? 0) - 1;
    left.list -= unit.list;
    const known = new Map<number | string, number>();
    const after: MachineState[] = [];
    const enter = (state: MachineState): number => {
      const key = keyOf(state);
      const found = known.get(key);
      if (found !== undefined) return found;
      const at = machine.hopeless(state, left) ? -1 : after.push(state) - 1;
      known.set(key, at);
      return at;
    };
    const layer: Layer = { size: states.length, skip: new Int32Array(states.length), ways: [] };
    const ways: Layer['ways'] = [];
    let from = 0;
    const step = (option: number, state: MachineState, gain: number) => {
      let way = ways[option];
      if (!way) {
        way = { option, next: new Int32Array(layer.size).fill(-1), gain: new Float64Array(layer.size) };
        ways[option] = way;
      }
      way.next[from] = enter(state);
      way.gain[from] = gain - (base[place] ?? 0);
    };
    for (const state of states) {
      layer.skip[from] = enter(state);
      for (const group of of) machine.steps(state, unit, group, step);
      from += 1;
    }
    layer.ways = ways.filter(Boolean);
    layers.push(layer);
    cells += layer.size * (1 + layer.ways.length);
    states = after;
    if (cells > most) {
      work.left -= CELL_WORK * cells;
      return undefined;
    }
  }
  work.left -= CELL_WORK * cells + LAYER_WORK * layers.length;
  return {
    open,
    candidates,
    places: candidates.map(({ place }) => place),
    layers,
    finish: states.map((state) => machine.finish(state) ?? -Infinity),
    relaxed: machine.relaxed,
    best: [...layers.map(({ size }) => new Float64Array(size)), new Float64Array(states.length)],
    cells,
  };
}

/** Computes the best value from every state on, where each unit costs something. @returns that from the start */
export function sweep(table: OfferTable, cost: Float64Array, work: Work): number {
  const { layers, places, best, finish } = table;
  work.left -= table.cells;
  let after = best[layers.length] as Float64Array;
  for (let state = 0; state < after.length; state++) after[state] = finish[state] ?? -Infinity;
  for (let at = layers.length - 1; at >= 0; at--) {
    const { size, skip, ways } = layers[at] as Layer;
    const now = best[at] as Float64Array;
    const price = cost[places[at] as number] as number;
    for (let state = 0; state < size; state++) {
      const left = skip[state] as number;
      let value = left < 0 ? -Infinity : (after[left] as number);
      for (const { next, gain } of ways) {
        const to = next[state] as number;
        if (to < 0) continue;
        const other = (gain[state] as number) - price + (after[to] as number);
        if (other > value) value = other;
      }
      now[state] = value;
    }
    after = now;
  }
  return after[0] ?? -Infinity;
}

/** Follows the best way that `sweep` found with the same costs, leaving a unit where that is as good. */
export function walk(
  table: OfferTable,
  cost: Float64Array,
  visit: (place: number, option: number) => void,
): void {
  const { layers, places, best } = table;
  let state = 0;
  layers.forEach(({ skip, ways }, at) => {
    const place = places[at] as number;
    const after = best[at + 1] as Float64Array;
    const value = best[at]?.[state] as number;
    const left = skip[state] as number;
    if (left >= 0 && after[left] === value) {
      state = left;
      return;
    }
    for (const { option, next, gain } of ways) {
      const to = next[state] as number;
      if (to < 0 || (gain[state] as number) - (cost[place] as number) + (after[to] as number) !== value)
        continue;
      visit(place, option);
      state = to;
      return;
    }
  });
}
