import type { Money } from '../money.ts';
import type { Chosen } from './chooseOffers.ts';
import { chooseExclusive, unitBase } from './exclusiveOffers.ts';
import { boundOf } from './jointBound.ts';
import { climb } from './jointClimb.ts';
import { searchJointly } from './jointSearch.ts';
import { combiningStage, exclusiveStage, type Staged } from './offerStages.ts';
import { lend, type Contender, type Work } from './offerTable.ts';
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
/** Such a part is kept for what one offer on top may leave to another. */
const LEAVE_PART = 0.1;
/** Up to so many units all choices are gone through, if that can be done. */
const MOST_SEARCHED = 40;
/** What pricing a choice by the rules costs for each unit. */
const STAGE_WORK = 70;
/** What looking up costs whether a choice was judged already. */
const SIGN_WORK = 15;

/**
 * Chooses where offers combine: the best choice of the exclusive ones may leave less to those that come on top. So both
 * stages are judged together. Choices of the exclusive offers are made with and without the goods that each offer on top
 * would take; then, where the basket is small enough, all choices are gone through that may be better, under a bound
 * for both stages.
 */
export function chooseJointly(
  units: readonly OfferUnit[],
  exclusive: readonly Contender[],
  combining: readonly Contender[],
  work: Work,
): JointChoice {
  const judge = (chosen: readonly Chosen[], on: readonly Contender[] = combining): Staged => {
    work.left -= STAGE_WORK * units.length;
    return combiningStage(units, exclusiveStage(units, chosen), on, work);
  };
  const first = lend(work, work.left * FIRST_PART, (share) => chooseExclusive(units, exclusive, share));
  let best: Judged = { chosen: first.chosen, staged: judge(first.chosen) };
  const signs = signsOf(units, exclusive, combining);
  const judged = new Set<string>();
  const better = (chosen: readonly Chosen[]): boolean => {
    const sign = signOf(chosen, signs);
    if (judged.has(sign)) return false;
    judged.add(sign);
    work.left -= SIGN_WORK * chosen.length;
    const staged = judge(chosen);
    if (staged.value <= best.staged.value) return false;
    best = { chosen, staged };
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
  const kept = work.left * LEAVE_PART;
  work.left -= kept;
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
  let least = bound;
  if (howMany(units) === units.length && units.length <= MOST_SEARCHED)
    least = Math.min(
      bound,
      searchJointly(units, exclusive, bounding, () => best.staged.value, better, work),
    );
  work.left += kept;
  const staged = leaveToOthers(combining, best.staged, least, signs, (on) => judge(best.chosen, on), work);
  return { staged, bound: Math.max(least, staged.value) };
}

/**
 * Each offer on top takes what is best for itself; all of them together may come to more where one leaves goods to
 * another, or does not apply at all.
 */
function leaveToOthers(
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

/** A choice of exclusive offers, and what both stages make of it. */
interface Judged {
  chosen: readonly Chosen[];
  staged: Staged;
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
