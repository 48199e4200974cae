import { sum, type Money } from '../money.ts';
import { formByRank, NOTHING } from './formByRank.ts';
import type { Formed } from './givenUnits.ts';
import type { Contender, Work } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** What each offer is given and earns by it above what the units earn in any case, in the order of the contenders. */
export type Floor = readonly Formed[];

export const floorValue = (floor: Floor): Money => sum(floor.map(({ value }) => value));

/** What the next offer is chosen by, of what it would earn with so many units. */
export type Score = (value: number, units: number) => number;

export const byValue: Score = (value) => value;
const perUnit: Score = (value, units) => value / Math.max(1, units);

/** What forming one combination costs for each kind of unit. */
const FORM_WORK = 8;
/** The better half is looked at by itself as long as it has so many offers. */
const FEW = 6;
/** So often at most one offer after the other is tried without. */
const ROUNDS = 3;

const better = (most: Floor, one: Floor): Floor => (floorValue(one) > floorValue(most) ? one : most);

/** Good choices that are always there, however little work is left. Equal units are counted. */
export interface FloorLayer {
  /** Offers one after the other, by what they earn and by what they earn for each unit. */
  greedy(): Floor;
  /**
   * What is at least as good as a choice: with the better half of the offers only, and of these again; then one applied
   * offer after the other is taken away and what becomes free is given anew, for as long as that earns more.
   */
  swapped(floor: Floor): Floor;
}

/**
 * @param base what each unit earns in any case, and loses when it joins
 * @param work is counted, but never keeps this from being done
 */
export function floorLayer(
  units: readonly OfferUnit[],
  contenders: readonly Contender[],
  base: readonly number[],
  work: Work,
): FloorLayer {
  const { fill, form } = fillerOf(units, contenders, base, work);
  const nothing = contenders.map(() => NOTHING);
  const all = contenders.map((_, at) => at);

  function swapped(floor: Floor): Floor {
    let best = fill(floor, all, byValue);
    const counts = units.map(({ count }) => count);
    const single = all.map((at) => form(at, counts).value);
    const ranked = all.toSorted((a, b) => (single[b] ?? 0) - (single[a] ?? 0) || a - b);
    for (let few = ranked.length >> 1; few >= FEW; few >>= 1) {
      for (const score of [byValue, perUnit]) best = better(best, fill(nothing, ranked.slice(0, few), score));
    }
    for (let round = 0; round < ROUNDS; round++) {
      const before = best;
      for (const at of all) {
        if (!best[at]?.gives.length) continue;
        const without = best.with(at, NOTHING);
        const others = all.filter((other) => other !== at);
        for (const score of [byValue, perUnit])
          best = better(best, fill(fill(without, others, score), [at], score));
      }
      if (best === before) break;
    }
    return best;
  }

  return {
    greedy: () => [byValue, perUnit].map((score) => fill(nothing, all, score)).reduce(better),
    swapped,
  };
}

/** Forms offers one after the other of what others leave. */
export interface Filler {
  /** What an offer does with what is left. @param left how many of each unit */
  form(at: number, left: readonly number[]): Formed;
  /** Gives what is left to offers that have nothing yet, the best first. */
  fill(start: Floor, among: readonly number[], score: Score): Floor;
}

export function fillerOf(
  units: readonly OfferUnit[],
  contenders: readonly Contender[],
  base: readonly number[],
  work: Work,
): Filler {
  function form(at: number, left: readonly number[]): Formed {
    const { open, candidates } = contenders[at] as Contender;
    work.left -= FORM_WORK * candidates.length;
    const free = candidates.flatMap((one) => {
      const count = left[one.place] ?? 0;
      return count > 0 ? [{ ...one, count }] : [];
    });
    return formByRank(open, units, free, base);
  }

  function fill(start: Floor, among: readonly number[], score: Score): Floor {
    const floor = start.slice();
    const left = units.map(({ count }) => count);
    const take = ({ gives }: Formed) => {
      for (const { place, count } of gives) left[place] = (left[place] ?? 0) - count;
    };
    floor.forEach(take);
    let turn = 0;
    let waiting = among
      .filter((at) => !start[at]?.gives.length)
      .map((at) => ({ at, turn: -1, formed: NOTHING, score: Number.POSITIVE_INFINITY }));
    for (;;) {
      const [first] = waiting;
      if (!first) return floor;
      const best = waiting.reduce((most, one) => (one.score > most.score ? one : most), first);
      if (best.turn < turn) {
        // What an offer earns only falls as units go: it is looked at again when its turn comes.
        best.formed = form(best.at, left);
        best.turn = turn;
        const { gives, value } = best.formed;
        best.score = value > 0 ? score(value, sum(gives.map(({ count }) => count))) : -1;
        if (value <= 0) waiting = waiting.filter((one) => one !== best);
        continue;
      }
      waiting = waiting.filter((one) => one !== best);
      floor[best.at] = best.formed;
      take(best.formed);
      turn += 1;
    }
  }

  return { form, fill };
}
