import type { Part, Plan, Way } from './offerPart.ts';
import type { OfferTable } from './offerTable.ts';

/** Ways of one table are numbered below this. */
const OPTIONS = 64;
const LEAVE = Number.MAX_SAFE_INTEGER;

/** One way to go on from a unit: to which state, and what is the best that it can come to. */
export interface Branch {
  /** Tells ways apart, in the same order on every till. */
  code: number;
  /** Which of the offers that mean the unit takes it; −1 is none. */
  taker: number;
  option: number;
  state: number;
  bound: number;
}

/** Steps from unit to unit of a part, in order of rank, under the bound of multipliers that the units cost. */
export interface Branching {
  /** The ways from a unit, the most promising first. */
  branches(order: number, states: readonly number[], bound: number): Branch[];
  /** Takes a way. @returns what takes it back */
  follow(order: number, states: number[], plan: Plan, branch: Branch): () => void;
  /** States that still have a say from a unit on. */
  told(order: number, states: readonly number[]): string;
}

/**
 * @param tables those that are searched, as `sweep` left them with the costs
 * @param cost what each unit costs, by place
 */
export function branchingOf(part: Part, tables: readonly OfferTable[], cost: Float64Array): Branching {
  const { places } = part;
  const orderOf = new Map(places.map((place, at) => [place, at]));
  const indexOf = new Map(tables.map((table) => [table, part.tables.indexOf(table)]));
  const eligible: { table: OfferTable; at: number; layer: number }[][] = places.map(() => []);
  tables.forEach((table, at) => {
    table.places.forEach((place, layer) => {
      eligible[orderOf.get(place) ?? 0]?.push({ table, at, layer });
    });
  });
  const lastOrder = tables.map(({ places: of }) => orderOf.get(of.at(-1) ?? 0) ?? 0);

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

  function follow(order: number, states: number[], plan: Plan, { taker, option, state }: Branch): () => void {
    const here = eligible[order] ?? [];
    const before = here.map(({ at }) => states[at] ?? 0);
    here.forEach(({ table, at, layer }, place) => {
      states[at] = place === taker ? state : (table.layers[layer]?.skip[states[at] ?? 0] ?? -1);
    });
    const table = here[taker]?.table;
    const way: Way | null = table ? { table: indexOf.get(table) ?? 0, option } : null;
    plan[order] = way;
    return () => {
      here.forEach(({ at }, place) => (states[at] = before[place] ?? 0));
      plan[order] = null;
    };
  }

  const told = (order: number, states: readonly number[]) =>
    states.filter((_, at) => (lastOrder[at] ?? 0) >= order).join();

  return { branches, follow, told };
}
