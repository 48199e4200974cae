import { sum, type Money } from '../money.ts';
import type { Chosen } from './chooseOffers.ts';
import { chooseExclusive, unitBase, withBase, type UnitBase } from './exclusiveOffers.ts';
import { formedBy, NOTHING, type Give } from './formByRank.ts';
import { boundOf, type Bounding } from './jointBound.ts';
import { byValue, fillerOf, type Floor } from './offerFloor.ts';
import { groupOfOption } from './offerMachine.ts';
import { moveMultipliers, runsOf, startingMultipliers, type Part, type Plan } from './offerPart.ts';
import { branchingOf } from './offerSearch.ts';
import { SCALE } from './offerShare.ts';
import { combiningStage, exclusiveStage, type Staged } from './offerStages.ts';
import { lend, sweep, tablesOf, walk, type Contender, type OfferTable, type Work } from './offerTable.ts';
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
/** What a step of the search costs, and what pricing a choice by the rules costs for each unit. */
const NODE_WORK = 12;
const STAGE_WORK = 70;
/** What looking up costs whether a choice was judged already. */
const SIGN_WORK = 15;
/** The multipliers are improved so often. */
const ROUNDS = 24;

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
      searchJointly(
        units,
        searched(units, exclusive, bounding),
        bounding,
        () => best.staged.value,
        better,
        work,
      ),
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

/**
 * Tries what is near to a choice: without one of its offers, with what becomes free given anew, and with one more offer
 * that takes its goods from others. @param better keeps a choice if it is. @returns whether one was
 */
function climb(
  units: readonly OfferUnit[],
  base: UnitBase,
  kept: readonly number[],
  signs: readonly string[],
  from: readonly Chosen[],
  better: (chosen: readonly Chosen[]) => boolean,
  work: Work,
  end: number,
): boolean {
  const contenders = base.others;
  const filler = fillerOf(units, contenders, base.gains, work);
  // What is taken off goods that parts come on top of counts for less: other goods are better given away.
  const avoiding = fillerOf(
    units,
    contenders,
    units.map(({ price }, at) => (base.gains[at] ?? 0) + Math.round(price * (1 - (kept[at] ?? 1)))),
    work,
  );
  const all = contenders.map((_, at) => at);
  let floor: Floor = contenders.map(({ open }) =>
    formedBy(
      open,
      units,
      from.filter((one) => one.open === open),
      base.gains,
    ),
  );
  const chosenOf = (of: Floor) =>
    withBase(
      units,
      base,
      of.flatMap(({ gives }, at) => {
        const open = contenders[at]?.open;
        return open ? gives.map((give): Chosen => ({ ...give, open })) : [];
      }),
    );
  let found = false;
  const consider = (one: Floor): void => {
    if (!better(chosenOf(one))) return;
    floor = one;
    found = true;
  };
  for (const [at, { open, candidates }] of contenders.entries()) {
    if (work.left <= end) break;
    const others = all.filter((other) => other !== at);
    if (floor[at]?.gives.length) {
      const released = floor.with(at, NOTHING);
      consider(released);
      const taken = new Set(floor.flatMap(({ gives }) => gives.map(({ place }) => place)));
      const free = oneOfEach(
        candidates.filter(({ place }) => !taken.has(place)),
        signs,
      );
      for (const fewer of withoutOne(floor[at].gives, signs)) {
        const others = free.flatMap(({ place, groups }) =>
          groups.map((group) => [...fewer, { place, group, count: 1 }]),
        );
        for (const gives of [fewer, ...others]) {
          if (work.left <= end) break;
          consider(floor.with(at, formedBy(open, units, gives, base.gains)));
        }
      }
      for (const one of kept.some((part) => part < 1) ? [filler, avoiding] : [filler]) {
        consider(one.fill(released, [at], byValue));
        consider(one.fill(one.fill(released, others, byValue), [at], byValue));
      }
      continue;
    }
    const forced = filler.form(
      at,
      units.map(({ count }) => count),
    );
    if (forced.value <= 0) continue;
    const taken = new Set(forced.gives.map(({ place }) => place));
    const rest = floor.map((one) => (one.gives.some(({ place }) => taken.has(place)) ? NOTHING : one));
    consider(filler.fill(rest.with(at, forced), others, byValue));
  }
  return found;
}

/** What is left of units that are given, without one of each kind: an offer on top may do better with it. */
function withoutOne(gives: readonly Give[], signs: readonly string[]): Give[][] {
  return oneOfEach(gives, signs).map((one) =>
    gives.flatMap((give) => {
      if (give !== one) return [give];
      return one.count > 1 ? [{ ...one, count: one.count - 1 }] : [];
    }),
  );
}

/** The first of each kind that offers can tell apart. */
function oneOfEach<T extends { place: number }>(list: readonly T[], signs: readonly string[]): T[] {
  const kinds = new Set(list.map(({ place }) => signs[place]));
  return [...kinds].flatMap((kind) => list.find(({ place }) => signs[place] === kind) ?? []);
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

/** Where an offer on top chooses among units, one may be left to it: then no unit goes to its own offer by itself. */
const searched = (
  units: readonly OfferUnit[],
  exclusive: readonly Contender[],
  { competing }: Bounding,
): UnitBase =>
  competing.length > 0
    ? { gains: units.map(() => 0), offers: [], others: exclusive.slice() }
    : unitBase(units, exclusive);

/** Goes through the choices of exclusive offers that may be better together with those on top. @returns a bound for all */
function searchJointly(
  units: readonly OfferUnit[],
  base: UnitBase,
  bounding: Bounding,
  best: () => Money,
  better: (chosen: readonly Chosen[]) => boolean,
  work: Work,
): Money {
  const always = sum(base.gains);
  const scaled = base.gains.map((gain) => gain * SCALE);
  const free = new Float64Array(units.length);
  const tables = tablesOf(base.others, units, scaled, work, 0.3).filter((one) => sweep(one, free, work) > 0);
  const part: Part = { places: units.map((_, at) => at), tables };
  const runs = runsOf(units, part, scaled, bounding.combining);
  const { cost, bound: lowest } = multipliers(units, part, scaled, runs, work);
  const { branches, follow } = branchingOf(part, tables, cost);
  const states = tables.map(() => 0);
  const plan: Plan = units.map(() => null);
  const nodeWork = NODE_WORK + 2 * tables.length;
  const jointBound = (bound: number) => bounding.joint(always + Math.floor(bound / SCALE));
  let complete = true;

  function node(order: number, bound: number, least: number): void {
    work.left -= nodeWork;
    if (work.left <= 0) {
      complete = false;
      return;
    }
    if (order === units.length) {
      better(withBase(units, base, chosenBy(plan, tables)));
      return;
    }
    const newRun = order === 0 || runs[order] !== runs[order - 1];
    for (const branch of branches(order, states, bound)) {
      if (jointBound(branch.bound) <= best()) break;
      if (!newRun && branch.code < least) continue;
      const takeBack = follow(order, states, plan, branch);
      node(order + 1, branch.bound, branch.code);
      takeBack();
      if (!complete) return;
    }
  }

  node(0, lowest, -1);
  return complete && bounding.exact ? best() : jointBound(lowest);
}

/** What units are given to by a plan. */
const chosenBy = (plan: Plan, tables: readonly OfferTable[]): Chosen[] =>
  plan.flatMap((way, place): Chosen[] => {
    const open = way && tables[way.table]?.open;
    return open ? [{ open, place, group: groupOfOption(open.offer.rule, way.option), count: 1 }] : [];
  });

/** What the units cost so that the bound on exclusive offers is low; leaves the tables as `sweep` does with these costs. */
function multipliers(
  units: readonly OfferUnit[],
  part: Part,
  base: readonly number[],
  runs: readonly number[],
  work: Work,
): { cost: Float64Array; bound: number } {
  const { tables } = part;
  const cost = new Float64Array(units.length);
  const lambda = startingMultipliers(units, part, base, runs);
  const direction = lambda.map(() => 0);
  const price = (of: readonly number[]): number => {
    units.forEach((_, at) => (cost[at] = of[runs[at] ?? 0] ?? 0));
    return sum([...cost]) + sum(tables.map((table) => sweep(table, cost, work)));
  };
  let best = lambda.slice();
  let lowest = price(lambda);
  for (let round = 0, pace = 1; round < ROUNDS && work.left > 0; round++) {
    const excess = lambda.map(() => 0);
    for (const run of runs) excess[run] = (excess[run] ?? 0) - 1;
    for (const table of tables)
      walk(table, cost, (place) => (excess[runs[place] ?? 0] = (excess[runs[place] ?? 0] ?? 0) + 1));
    if (!moveMultipliers(lambda, direction, excess, pace * Math.max(SCALE, lowest / 10))) break;
    const bound = price(lambda);
    if (bound < lowest) [lowest, best] = [bound, lambda.slice()];
    else pace *= 0.8;
  }
  return { cost, bound: price(best) };
}
