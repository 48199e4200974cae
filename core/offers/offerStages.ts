import { sum, type Money } from '../money.ts';
import type { Chosen } from './chooseOffers.ts';
import { formByRank } from './formByRank.ts';
import { groupsOf, type Offer, type OfferRule, type OpenOffer } from './offer.ts';
import { kindOf } from './kinds/kinds.ts';
import type { Candidate, Give, GivenUnit } from './givenUnits.ts';
import { reductionOf, unitAmounts } from './offerReduction.ts';
import { sweep, tableOf, walk, type Contender, type Work } from './offerTable.ts';
import { byRank, howMany, type OfferUnit } from './offerUnits.ts';

/** What an offer takes off the units that it is given. */
export interface Taken {
  offer: Offer;
  /** By place; equal units counted. */
  rows: readonly { place: number; amount: Money; count: number }[];
  uses: number;
  total: Money;
}

/** What offers take off a basket, one after the other. */
export interface Staged {
  taken: readonly Taken[];
  value: Money;
}

/** Units as far as they are reduced; equal ones counted. */
export interface Standing {
  place: number;
  left: Money;
  count: number;
}

/** What offers on top took of what stood, so that the same need not be worked out again. */
export interface OnTopMemory {
  /** More than any unit costs: with it, one number says of a unit which it is and what is left of it. */
  stride: number;
  /** By offer, then by what is left of one unit after the other. */
  byOffer: Map<number, Remembered>;
}

interface Remembered {
  taken?: Taken;
  next?: Map<number, Remembered>;
}

/** @param units each for itself */
export const onTopMemory = (units: readonly OfferUnit[]): OnTopMemory => ({
  stride: 1 + Math.max(0, ...units.map(({ price }) => price)),
  byOffer: new Map(),
});

/** What looking at what stands costs for each kind of unit. */
const STAND_WORK = 60;
/** What looking up costs for each unit whether that was done before. */
const LOOK_WORK = 2;
/** Amounts that apply on top are tried in all orders of so many offers; of more, each of them first. */
const MOST_ORDERED = 4;
/** Above so many units, those of a combination on top are found by rank only. */
const MOST_LOOKED_AHEAD = 600;

/** What exclusive offers take off the units that they were given. */
export function exclusiveStage(units: readonly OfferUnit[], chosen: readonly Chosen[]): Staged {
  const byOffer = new Map<OpenOffer, Chosen[]>();
  for (const one of chosen) {
    const known = byOffer.get(one.open);
    if (known) known.push(one);
    else byOffer.set(one.open, [one]);
  }
  const taken = [...byOffer].map(([open, gives]) => takenBy(open, gives, (at) => units[at] as OfferUnit));
  return { taken, value: sum(taken.map(({ total }) => total)) };
}

function takenBy(
  { offer, limit }: OpenOffer,
  gives: readonly Give[],
  unitAt: (place: number) => OfferUnit,
): Taken {
  const given = gives.map(({ place, group, count }): GivenUnit => ({ unit: unitAt(place), group, count }));
  const reduction = reductionOf(offer.rule, given, limit);
  const rows = unitAmounts(reduction, given).map(({ place, amount, count }) => ({
    place: gives[place]?.place ?? 0,
    amount,
    count,
  }));
  return { offer, rows, uses: reduction.uses, total: reduction.total };
}

/** Whether an offer reduces by a part of the price: such come before amounts. */
export const isPart = ({ rule }: Offer): boolean => kindOf(rule).isPart;

/**
 * Applies offers that combine on top of what others took off, each as the largest reduction on what is left: parts in
 * the order of their numbers, then amounts in the order that takes off the most.
 */
export function combiningStage(
  units: readonly OfferUnit[],
  before: Staged,
  combining: readonly Contender[],
  work: Work,
  memory?: OnTopMemory,
): Staged {
  const standing = standingAfter(units, before);
  const parts = combining.filter(({ open }) => isPart(open.offer));
  const amounts = combining.filter(({ open }) => !isPart(open.offer));
  const first = inOrder(units, standing, before, parts, work, memory);
  // Amounts on goods of their own may come in any order.
  const [meeting, others] = meetings(amounts);
  const second = inOrder(units, first.standing, first.staged, others, work, memory);
  let best: Staged | undefined;
  for (const order of orders(meeting)) {
    const { staged } = inOrder(units, second.standing, second.staged, order, work, memory);
    if (!best || staged.value > best.value) best = staged;
  }
  return best ?? second.staged;
}

/** What is left of units. */
export const standingAfter = (units: readonly OfferUnit[], { taken }: Staged): Standing[] =>
  reduced(
    units.map(({ price, count }, place): Standing => ({ place, left: price, count })),
    taken.flatMap(({ rows }) => rows),
  );

/** Offers that mean goods which another of them means, and those that do not. */
function meetings(offers: readonly Contender[]): [Contender[], Contender[]] {
  const meaning = new Map<number, number>();
  for (const { candidates } of offers)
    for (const { place } of candidates) meaning.set(place, (meaning.get(place) ?? 0) + 1);
  const meets = ({ candidates }: Contender) => candidates.some(({ place }) => (meaning.get(place) ?? 0) > 1);
  return [offers.filter(meets), offers.filter((one) => !meets(one))];
}

function inOrder(
  units: readonly OfferUnit[],
  from: readonly Standing[],
  before: Staged,
  order: readonly Contender[],
  work: Work,
  memory?: OnTopMemory,
): { staged: Staged; standing: Standing[] } {
  let standing = from.slice();
  const taken = [...before.taken];
  let { value } = before;
  for (const contender of order) {
    const one = onTop(units, standing, contender, work, memory);
    if (one.total === 0) continue;
    const rows = one.rows.map((row) => ({ ...row, place: standing[row.place]?.place ?? 0 }));
    taken.push({ ...one, rows });
    value += one.total;
    standing = reduced(standing, one.rows);
  }
  return { staged: { taken, value }, standing };
}

function orders<T>(list: readonly T[]): T[][] {
  if (list.length > MOST_ORDERED) return list.map((one, at) => [one, ...list.toSpliced(at, 1)]);
  if (list.length === 0) return [[]];
  return list.flatMap((one, at) => orders(list.toSpliced(at, 1)).map((rest) => [one, ...rest]));
}

/** What is left of units. @param rows by place in the list */
export function reduced(standing: readonly Standing[], rows: Taken['rows']): Standing[] {
  const byPlace = new Map<number, Taken['rows'][number][]>();
  for (const row of rows) {
    const known = byPlace.get(row.place);
    if (known) known.push(row);
    else byPlace.set(row.place, [row]);
  }
  const after: Standing[] = [];
  standing.forEach((one, at) => {
    const { place, left } = one;
    let untouched = one.count;
    for (const { amount, count } of byPlace.get(at) ?? []) {
      after.push({ place, left: left - amount, count });
      untouched -= count;
    }
    if (untouched > 0) after.push(untouched === one.count ? one : { ...one, count: untouched });
  });
  return after;
}

/** Units that stand, as an offer on top looks at them. */
interface Meant {
  /** Place in the list of what stands. */
  at: number;
  groups: readonly number[];
  unit: OfferUnit;
}

/** The best that one offer does on top of others. Rows are by place in the list of what stands. */
export function onTop(
  units: readonly OfferUnit[],
  standing: readonly Standing[],
  { open, candidates }: Contender,
  work: Work,
  memory?: OnTopMemory,
): Taken {
  const { rule } = open.offer;
  const laidOut = standing.length === units.length;
  const before = memory && laidOut ? recall(memory, open.offer, candidates, standing) : null;
  work.left -= LOOK_WORK * candidates.length;
  if (before?.taken) return before.taken;
  const meant: Meant[] = [];
  const unitAt: OfferUnit[] = [];
  const meet = (at: number, { place, left, count }: Standing, groups: readonly number[]): void => {
    const unit = { ...(units[place] as OfferUnit), price: left, count };
    unitAt[at] = unit;
    meant.push({ at, groups, unit });
  };
  if (laidOut) {
    for (const { place, groups } of candidates) meet(place, standing[place] as Standing, groups);
  } else {
    const groupsAt: (readonly number[] | undefined)[] = [];
    for (const { place, groups } of candidates) groupsAt[place] = groups;
    standing.forEach((one, at) => {
      const groups = groupsAt[one.place];
      if (groups) meet(at, one, groups);
    });
  }
  work.left -= STAND_WORK * meant.length;
  const taken = takenBy(open, givesOf(rule, open, meant, work), (at) => unitAt[at] as OfferUnit);
  if (before) before.taken = taken;
  return taken;
}

/** Where it is remembered what an offer takes of what stands. @param standing each unit at its place */
function recall(
  { stride, byOffer }: OnTopMemory,
  { id }: Offer,
  candidates: readonly Candidate[],
  standing: readonly Standing[],
): Remembered {
  let at = nodeOf(byOffer, id);
  for (const { place } of candidates)
    at = nodeOf((at.next ??= new Map()), place * stride + (standing[place]?.left ?? 0));
  return at;
}

function nodeOf(nodes: Map<number, Remembered>, key: number): Remembered {
  const known = nodes.get(key);
  if (known) return known;
  const made: Remembered = {};
  nodes.set(key, made);
  return made;
}

function givesOf(rule: OfferRule, open: OpenOffer, meant: Meant[], work: Work): Give[] {
  const kind = kindOf(rule);
  // Where nothing competes for the units, all of them are best.
  if (kind.once) return meant.map(({ at, unit: { count } }) => ({ place: at, group: 0, count }));
  const ranked = meant.toSorted((a, b) => byRank(a.unit, b.unit));
  const of = ranked.map(({ unit }) => unit);
  const looksAhead =
    ranked.some(({ groups }) => groups.length > 1) &&
    // Where every group means the same goods and earns the same, rank is all there is.
    !(kind.groupsAlike && ranked.every(({ groups }) => groups.length === groupsOf(rule).length));
  const gives = looksAhead ? looked(open, of, ranked, work) : byRankOnly(open, of, ranked);
  return gives.map((give) => ({ ...give, place: ranked[give.place]?.at ?? 0 }));
}

const byRankOnly = (open: OpenOffer, units: readonly OfferUnit[], meant: readonly Meant[]): readonly Give[] =>
  formByRank(
    open,
    units,
    meant.map(({ groups, unit: { count } }, place) => ({ place, groups, count })),
    [],
  ).gives;

/** The best combinations where units are meant by several groups of an offer. */
function looked(
  open: OpenOffer,
  units: readonly OfferUnit[],
  meant: readonly Meant[],
  work: Work,
): readonly Give[] {
  if (howMany(units) > MOST_LOOKED_AHEAD) return byRankOnly(open, units, meant);
  const single = units.flatMap((unit, place) =>
    Array.from({ length: unit.count }, (_, at) => ({
      place,
      unit: { ...unit, key: `${unit.key} ${at}`, count: 1 },
    })),
  );
  const candidates = single.map(({ place }, at) => ({ place: at, groups: meant[place]?.groups ?? [] }));
  const table = tableOf(
    open,
    single.map(({ unit }) => unit),
    candidates,
    [],
    work,
  );
  const free = new Float64Array(single.length);
  sweep(table, free, work);
  // A table that is only a bound says nothing of a way.
  if (table.relaxed) return byRankOnly(open, units, meant);
  const gives: Give[] = [];
  walk(table, free, (at, option) =>
    gives.push({
      place: single[at]?.place ?? 0,
      group: kindOf(open.offer.rule).groupOfOption(option),
      count: 1,
    }),
  );
  return gives;
}
