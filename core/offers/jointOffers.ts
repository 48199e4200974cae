import type { Money } from '../money.ts';
import type { Chosen } from './chooseOffers.ts';
import { chooseExclusive, unitBase } from './exclusiveOffers.ts';
import { boundOf } from './jointBound.ts';
import { climb } from './jointClimb.ts';
import { searchJointly } from './jointSearch.ts';
import { leaveToOthers, searchOnTop } from './onTopSearch.ts';
import { combiningStage, exclusiveStage, onTopMemory, type Staged } from './offerStages.ts';
import { lend, sparing, type Contender, type Work } from './offerTable.ts';
import { howMany, type OfferUnit } from './offerUnits.ts';

/** The best choice that was found of all offers, and what no choice can be worth more than. */
export interface JointChoice {
  staged: Staged;
  bound: Money;
}

/** Such a part of the work goes into the first choice; what is left, into looking for better ones together. */
const FIRST_PART = 0.4;
/** Of the rest, such a part goes into what is near to the best. */
const CLIMB_PART = 0.4;
/** Of what is left then, such a part goes into what offers on top may leave to one another with the best choice. */
const HILL_PART = 0.3;
/** Such a part goes into the same with all choices that were judged, before more of them are made. */
const LEAVE_PART = 0.2;
/** Such a part is kept for those that are made then. */
const KEPT_PART = 0.08;
/** So often at most an offer lets goods go that it wants, first; then all ways are gone through. */
const LET_GO: readonly number[] = [1, 2, Number.POSITIVE_INFINITY];
/** Up to so many units all choices are gone through, if that can be done. */
const MOST_SEARCHED = 40;
/** What pricing a choice by the rules costs for each unit. */
const STAGE_WORK = 70;
/** What looking up costs whether a choice was judged already. */
const SIGN_WORK = 15;

/**
 * Chooses where offers combine: the best choice of the exclusive ones may leave less to those that come on top. So both
 * stages are judged together. Choices of the exclusive offers are made with and without the goods that each offer on
 * top would take; then, where the basket is small enough, all choices are gone through that may be better, under a
 * bound for both stages.
 */
export function chooseJointly(
  units: readonly OfferUnit[],
  exclusive: readonly Contender[],
  combining: readonly Contender[],
  work: Work,
): JointChoice {
  const memory = onTopMemory(units);
  const judge = (chosen: readonly Chosen[], on: readonly Contender[] = combining): Staged => {
    work.left -= STAGE_WORK * units.length;
    return combiningStage(units, exclusiveStage(units, chosen), on, work, memory);
  };
  const first = lend(work, work.left * FIRST_PART, (share) => chooseExclusive(units, exclusive, share));
  let best: Judged = { chosen: first.chosen, staged: judge(first.chosen), searched: 0 };
  const good: Judged[] = [best];
  const signs = signsOf(units, exclusive, combining);
  const judged = new Set<string>();
  const better = (chosen: readonly Chosen[]): boolean => {
    const sign = signOf(chosen, signs);
    if (judged.has(sign)) return false;
    judged.add(sign);
    work.left -= SIGN_WORK * chosen.length;
    const staged = judge(chosen);
    const one = { chosen, staged, searched: 0 };
    good.push(one);
    if (staged.value <= best.staged.value) return false;
    best = one;
    return true;
  };
  const bounding = boundOf(units, combining, work);
  const bound = bounding.joint(first.bound);
  if (bound <= best.staged.value) return { staged: best.staged, bound: best.staged.value };

  // With the goods kept free that an offer on top takes by itself, and that all of them take.
  const wanted = bounding.competing.map((contender) =>
    judge([], [contender]).taken.flatMap(({ rows }) => rows.map(({ place }) => place)),
  );
  for (const places of wanted.length > 1 ? [...wanted, wanted.flat()] : wanted) {
    if (work.left <= 0) break;
    const among = without(exclusive, new Set(places));
    better(lend(work, work.left / 4, (share) => chooseExclusive(units, among, share)).chosen);
  }
  const base = unitBase(units, exclusive);
  const end = work.left * (1 - CLIMB_PART);
  const half = work.left * (1 - CLIMB_PART / 2);
  while (work.left > half && climb(units, base, bounding.kept, signs, best.chosen, better, work, half));
  const applied = new Set(best.chosen.map(({ open }) => open));
  for (const left of exclusive.filter(({ open }) => applied.has(open))) {
    if (work.left <= end) break;
    const among = exclusive.filter((one) => one !== left);
    for (const places of [[], ...wanted]) {
      const { chosen } = lend(work, (work.left - end) / 8, (share) =>
        chooseExclusive(units, without(among, new Set(places)), share),
      );
      better(chosen);
      climb(units, unitBase(units, among), bounding.kept, signs, chosen, better, work, end);
    }
  }
  const laidOut = howMany(units) === units.length;
  const leave = (most: Money, share: Work): void => {
    const ranked = laidOut ? good.toSorted((a, b) => b.staged.value - a.staged.value) : [];
    for (const lets of LET_GO) {
      for (const one of ranked.filter(({ searched }) => searched < lets)) {
        if (most <= best.staged.value || share.left <= 0) return;
        const stage = { units, before: exclusiveStage(units, one.chosen), combining, signs, memory };
        const staged = searchOnTop(stage, { known: best.staged.value, lets }, share);
        if (staged) best = { ...one, staged };
        if (share.left > 0) one.searched = lets;
      }
    }
  };
  const { chosen, staged: reached } = best;
  const hill = sparing(work, work.left * (1 - HILL_PART), () =>
    leaveToOthers(combining, reached, bound, signs, (on) => judge(chosen, on), work),
  );
  best = { ...best, staged: hill };
  lend(work, work.left * LEAVE_PART, (share) => leave(bound, share));
  let least = bound;
  if (laidOut && units.length <= MOST_SEARCHED) {
    const found = sparing(work, work.left * KEPT_PART, () =>
      searchJointly(units, exclusive, bounding, () => best.staged.value, better, work),
    );
    least = Math.min(bound, found);
  }
  leave(least, work);
  const { staged } = best;
  return { staged, bound: Math.max(least, staged.value) };
}

/** A choice of exclusive offers, and what both stages make of it. */
interface Judged {
  chosen: readonly Chosen[];
  staged: Staged;
  /** So often it was tried already to let goods go. */
  searched: number;
}

/** Units that no offer can tell apart have the same sign. */
function signsOf(units: readonly OfferUnit[], ...contenders: readonly (readonly Contender[])[]): string[] {
  const signs = units.map(({ price, list }) => `${price} ${list}`);
  contenders.flat().forEach(({ candidates }, at) => {
    for (const { place, groups } of candidates)
      signs[place] = `${signs[place] ?? ''} ${at}:${groups.join('.')}`;
  });
  const known = new Map<string, number>();
  return signs.map((sign) => {
    const number = known.get(sign) ?? known.size;
    known.set(sign, number);
    return String(number);
  });
}

/** The same for choices that give alike units to the same offers. */
const signOf = (chosen: readonly Chosen[], signs: readonly string[]): string =>
  chosen
    .map(({ open, place, group, count }) => `${open.offer.id} ${group} ${signs[place] ?? ''} ${count}`)
    .sort()
    .join();

/** Offers that may not take some units. */
const without = (contenders: readonly Contender[], places: ReadonlySet<number>): Contender[] =>
  contenders.map(({ open, candidates }) => ({
    open,
    candidates: candidates.filter(({ place }) => !places.has(place)),
  }));
