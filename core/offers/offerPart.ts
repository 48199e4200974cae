import { kindOf } from './kinds/kinds.ts';
import type { Contender, OfferTable } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** A way to give a unit away: which table, which option; no table is leaving it. */
export interface Way {
  table: number;
  option: number;
}

/** Ways by unit of a part, `null` where it is left. */
export type Plan = (Way | null)[];

/** Units and offers that have to do with one another. */
export interface Part {
  places: number[];
  tables: OfferTable[];
}

/** Parts the units and offers into those that have nothing to do with one another. @param count of all units */
export function partsOf(count: number, tables: readonly OfferTable[]): Part[] {
  const root = Array.from({ length: count }, (_, at) => at);
  const rootOf = (at: number): number => {
    let top = at;
    while (root[top] !== top) top = root[top] as number;
    while (root[at] !== top) [at, root[at]] = [root[at] as number, top];
    return top;
  };
  for (const { places } of tables) {
    for (const place of places) root[rootOf(place)] = rootOf(places[0] as number);
  }
  const found = new Map<number, Part>();
  for (const table of tables) {
    const top = rootOf(table.places[0] as number);
    const part = found.get(top) ?? { places: [], tables: [] };
    part.tables.push(table);
    found.set(top, part);
  }
  for (const part of found.values()) {
    part.places = [...new Set(part.tables.flatMap(({ places }) => places))].sort((a, b) => a - b);
  }
  return [...found.values()];
}

/**
 * Numbers the units of a part by runs: units that no offer can tell apart stand one behind the other.
 * @param onTop offers that come after those of the part, and look at single units, too
 */
export function runsOf(
  units: readonly OfferUnit[],
  { places, tables }: Part,
  base: readonly number[],
  onTop: readonly Contender[] = [],
): number[] {
  const signs: string[][] = places.map(() => []);
  const orderOf = new Map(places.map((place, at) => [place, at]));
  tables.forEach(({ places: of, layers }, table) => {
    of.forEach((place, layer) => {
      const options = layers[layer]?.ways.map(({ option }) => option).join('.') ?? '';
      signs[orderOf.get(place) ?? 0]?.push(`${table}:${options}`);
    });
  });
  onTop.forEach(({ candidates }, at) => {
    for (const { place, groups } of candidates)
      signs[orderOf.get(place) ?? 0]?.push(`on ${at}:${groups.join('.')}`);
  });
  let run = -1;
  let before = '';
  return places.map((place, at) => {
    const unit = units[place] as OfferUnit;
    const sign = `${unit.price} ${unit.list} ${base[place] ?? 0} ${signs[at]?.join(' ') ?? ''}`;
    if (sign !== before) run += 1;
    before = sign;
    return run;
  });
}

/** So much of its last direction a step keeps: it swings less. */
const MOMENTUM = 0.4;

/**
 * Moves the multipliers against the excess, a step of the subgradient method with momentum: what is wanted too often
 * costs more, what nobody wants costs less, nothing below zero.
 * @param excess by run, how many more of its units are wanted than there are
 * @param direction of the last step; of this one afterwards
 * @param reach how far the bound should come with it
 * @returns false where there is nothing to move
 */
export function moveMultipliers(
  lambda: number[],
  direction: number[],
  excess: readonly number[],
  reach: number,
): boolean {
  let norm = 0;
  excess.forEach((one, run) => {
    direction[run] = one + MOMENTUM * (direction[run] ?? 0);
    if ((lambda[run] ?? 0) > 0 || (direction[run] ?? 0) > 0) norm += (direction[run] ?? 0) ** 2;
  });
  if (norm === 0) return false;
  const stride = reach / norm;
  direction.forEach((one, run) => {
    lambda[run] = Math.max(0, Math.round((lambda[run] ?? 0) + stride * one));
  });
  return true;
}

/** The largest share that any offer gives for a unit: with these, no offer gains anything. */
export function startingMultipliers(
  units: readonly OfferUnit[],
  { places, tables }: Part,
  base: readonly number[],
  runs: readonly number[],
): number[] {
  const lambda = Array.from({ length: (runs.at(-1) ?? -1) + 1 }, () => 0);
  const orderOf = new Map(places.map((place, at) => [place, at]));
  for (const { open, places: of, layers } of tables) {
    const kind = kindOf(open.offer.rule);
    of.forEach((place, layer) => {
      const run = runs[orderOf.get(place) ?? 0] ?? 0;
      for (const { option } of layers[layer]?.ways ?? []) {
        const share =
          kind.largestShare(units[place] as OfferUnit, kind.groupOfOption(option)) - (base[place] ?? 0);
        lambda[run] = Math.max(lambda[run] ?? 0, share);
      }
    });
  }
  return lambda;
}
