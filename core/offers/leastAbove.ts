/** Things of a size that may be chosen. */
export interface Sized {
  /** Above zero. */
  size: number;
  /** What choosing one costs. */
  cost: number;
  /** So many equal ones. */
  count: number;
}

/** Into so many pieces a sum is parted where choices are compared; fewer where there is much to choose from. */
const PIECES = { most: 240, least: 40, steps: 14_400 };
/** More equal ones are first taken in one. */
const MOST_EACH = 60;

/**
 * Chooses things whose sizes come to at least a sum, at the least cost that is found: a knapsack over pieces of the
 * sum, which keeps the exact sum of the cheapest choice for each.
 * @returns how many of each; nothing where all together are too few
 */
export function leastAbove(least: number, things: readonly Sized[]): number[] {
  const nothing = things.map(() => 0);
  const all = things.reduce((total, { size, count }) => total + size * count, 0);
  if (all < least || least <= 0) return nothing;
  const fixed = nothing.slice();
  // Very many equal ones: all but the last few go in at once.
  let missing = least;
  things.forEach(({ size, count }, at) => {
    const bulk = Math.min(count - MOST_EACH, Math.floor(missing / size) - MOST_EACH);
    if (bulk <= 0) return;
    fixed[at] = bulk;
    missing -= bulk * size;
  });
  const rest = things.flatMap((thing, at) =>
    Array.from({ length: Math.min(MOST_EACH * 2, thing.count - (fixed[at] ?? 0)) }, () => ({ ...thing, at })),
  );
  const chosen = cheapestAbove(missing, rest);
  if (!chosen) return nothing;
  for (const at of chosen) fixed[at] = (fixed[at] ?? 0) + 1;
  return fixed;
}

interface Reached {
  sum: number;
  cost: number;
  before: Reached | null;
  at: number;
}

function cheapestAbove(least: number, things: readonly (Sized & { at: number })[]): number[] | undefined {
  const pieces = Math.min(PIECES.most, Math.max(PIECES.least, PIECES.steps / things.length));
  const grain = Math.max(1, least / pieces);
  const known: (Reached | undefined)[] = [{ sum: 0, cost: 0, before: null, at: -1 }];
  let best: Reached | undefined;
  for (const { size, cost, at } of things) {
    for (let piece = known.length - 1; piece >= 0; piece--) {
      const from = known[piece];
      if (!from) continue;
      const next = { sum: from.sum + size, cost: from.cost + cost, before: from, at };
      if (next.sum >= least) {
        if (!best || next.cost < best.cost) best = next;
        continue;
      }
      const to = Math.floor(next.sum / grain);
      const there = known[to];
      if (!there || next.cost < there.cost || (next.cost === there.cost && next.sum > there.sum))
        known[to] = next;
    }
  }
  if (!best) return undefined;
  const chosen: number[] = [];
  for (let one: Reached | null = best; one?.before; one = one.before) chosen.push(one.at);
  return chosen;
}
