import { kindOf } from './kinds/kinds.ts';
import { sum, type Money } from '../money.ts';
import {
  isPart,
  onTop,
  reduced,
  standingAfter,
  type OnTopMemory,
  type Staged,
  type Standing,
} from './offerStages.ts';
import type { Contender, Work } from './offerTable.ts';
import type { OfferUnit } from './offerUnits.ts';

/** What offers on top come to. */
export interface StageOnTop {
  /** Each for itself. */
  units: readonly OfferUnit[];
  /** What exclusive offers take off. */
  before: Staged;
  combining: readonly Contender[];
  /** Units that no offer can tell apart have the same. */
  signs: readonly string[];
  memory: OnTopMemory;
}

/**
 * Looks for a stage on top that is worth more. Each offer takes what is best for itself; all of them together may
 * come to more where one leaves goods to another, comes after it, or does not apply at all. A way is followed as long
 * as all that the offers could take by themselves is more than what is known.
 * @param from what is known to be possible, and how often at most an offer may do other than what is best for itself
 * @returns the best one, or `null` where none is worth more
 */
export function searchOnTop(
  { units, before, combining, signs, memory }: StageOnTop,
  from: { known: Money; lets: number },
  work: Work,
): Staged | null {
  let best: Staged | null = null;
  let least = from.known;

  /** @param lets so often may goods still be let go */
  function next(
    standing: readonly Standing[],
    staged: Staged,
    waiting: readonly Contender[],
    lets: number,
  ): void {
    if (work.left <= 0) return;
    if (staged.value > least) [best, least] = [staged, staged.value];
    const alone = waiting.map((one) => onTop(units, standing, one, work, memory).total);
    const most = sum(alone);
    if (staged.value + most <= least) return;
    // Parts come in their order; amounts that mean the same goods in any.
    const among = waiting.some(({ open }) => isPart(open.offer)) ? waiting.slice(0, 1) : waiting;
    for (const [at, first] of among.entries()) {
      if (at > 0 && (lets === 0 || !waiting.slice(0, at).some((one) => meet(one, first)))) continue;
      const others = waiting.filter((one, other) => one !== first && (alone[other] ?? 0) > 0);
      give(standing, staged, first, others, most - (alone[at] ?? 0), at > 0 ? lets - 1 : lets);
    }
  }

  /**
   * One offer takes its goods: all that it wants, or without some that others want as well.
   * @param rest most that the others come to
   */
  function give(
    standing: readonly Standing[],
    staged: Staged,
    { open, candidates }: Contender,
    others: readonly Contender[],
    rest: Money,
    lets: number,
  ): void {
    const wanted = new Set(others.flatMap((one) => one.candidates.map(({ place }) => place)));
    const tried = new Set<string>();
    const without = (kept: readonly number[]): void => {
      if (work.left <= 0) return;
      const sign = kept
        .map((place) => `${signs[place] ?? ''} ${standing[place]?.left ?? 0}`)
        .sort()
        .join();
      if (tried.has(sign)) return;
      tried.add(sign);
      const among = candidates.filter(({ place }) => !kept.includes(place));
      const one = onTop(units, standing, { open, candidates: among }, work, memory);
      if (staged.value + one.total + rest <= least) return;
      const taken = one.total === 0 ? staged.taken : [...staged.taken, one];
      const after = { taken, value: staged.value + one.total };
      next(reduced(standing, one.rows), after, others, lets - kept.length);
      if (kept.length >= lets) return;
      const places = [...new Set(one.rows.map(({ place }) => place))];
      for (const place of places) if (wanted.has(place)) without([...kept, place]);
      // What a combination takes off is spread over all of it: with other goods, less of it is on those that others
      // want.
      if (
        lets === Number.POSITIVE_INFINITY &&
        kindOf(open.offer.rule).spreads &&
        places.some((place) => wanted.has(place))
      )
        for (const place of places) if (!wanted.has(place)) without([...kept, place]);
    };
    without([]);
    if (lets > 0 && wanted.size > 0) next(standing, staged, others, lets - 1);
  }

  const parts = combining.filter(({ open }) => isPart(open.offer));
  const amounts = combining.filter(({ open }) => !isPart(open.offer));
  next(standingAfter(units, before), before, [...parts, ...amounts], from.lets);
  return best;
}

/** Whether two offers mean some of the same goods. */
const meet = (one: Contender, other: Contender): boolean =>
  one.candidates.some(({ place }) => other.candidates.some((candidate) => candidate.place === place));

/**
 * The same step by step from a stage that is good: one offer leaves goods for good, or all of them, as long as that
 * is worth more. It comes further than a search where there is much to choose.
 * @param most that can be reached
 */
export function leaveToOthers(
  combining: readonly Contender[],
  from: Staged,
  most: Money,
  signs: readonly string[],
  judge: (on: readonly Contender[]) => Staged,
  work: Work,
): Staged {
  let [staged, among] = [from, combining];
  const consider = (at: number, gone: ReadonlySet<number>): void => {
    const { open, candidates } = among[at] as Contender;
    const rest = candidates.filter(({ place }) => !gone.has(place));
    const on = among.with(at, { open, candidates: rest });
    const one = judge(on.filter((contender) => contender.candidates.length > 0));
    if (one.value > staged.value) [staged, among] = [one, on];
  };
  for (let before = -1; before < staged.value;) {
    before = staged.value;
    for (const at of combining.keys()) {
      const taken = staged.taken.find(({ offer }) => offer === combining[at]?.open.offer);
      const places = [...new Set(taken?.rows.map(({ place }) => place))];
      const kinds = [...new Set(places.map((place) => signs[place]))];
      const alike = kinds.map((kind) => places.filter((place) => signs[place] === kind));
      const ways = alike.flatMap((of) => (of.length > 1 ? [of.slice(0, 1), of] : [of]));
      for (const gone of taken ? [places, ...ways] : []) {
        if (most <= staged.value || work.left <= 0) return staged;
        consider(at, new Set(gone));
      }
    }
  }
  return staged;
}
