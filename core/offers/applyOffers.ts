import { sum, type Money } from '../money.ts';
import { chooseOffers, type Contender } from './chooseOffers.ts';
import { groupsOf, type Offer, type OpenOffer } from './offer.ts';
import { groupOfOption } from './offerMachine.ts';
import { offEach, reductionOf, takesUncounted, unitAmounts, type GivenUnit } from './offerReduction.ts';
import { sweep, tableOf, walk, type Candidate, type Work } from './offerTable.ts';
import { unitsOf, type OfferIndex, type OfferLine, type OfferUnit } from './offerUnits.ts';

/** What one offer takes off one line. */
export interface OfferPart {
  line: number;
  offer: Offer;
  /** Above zero. */
  amount: Money;
}

/** How often an offer applies to a basket. */
export interface OfferUse {
  offer: Offer;
  uses: number;
  amount: Money;
}

/** What offers do to a basket. */
export interface OfferResult {
  /** By line, in the order in which the offers apply. */
  parts: OfferPart[];
  uses: OfferUse[];
  value: Money;
  /** No choice is worth more. */
  bound: Money;
}

/** So much work is done for one basket at most, in steps; it is counted, so that every till comes to the same. */
export const MOST_WORK = 3_000_000;

/** So many offers are tried in every selection where some apply on top of others. */
const MOST_SELECTED = 5;
/** Of more, so many are left out one at a time. */
const MOST_LEFT_OUT = 4;
/** In so many orders are amounts tried that apply on top. */
const MOST_ORDERED = 4;

const NOTHING: OfferResult = { parts: [], uses: [], value: 0, bound: 0 };

/** What an offer takes off, where it is known which units it is given. */
interface Taken {
  offer: Offer;
  units: readonly number[];
  /** By unit. */
  amounts: readonly Money[];
  uses: number;
  total: Money;
}

/** What all offers take off a selection of them, stage by stage. */
interface Staged {
  taken: Taken[];
  value: Money;
  bound: Money;
}

/**
 * Applies the offers that are open to a basket: those that exclude one another first, chosen for the largest reduction,
 * then those that combine, parts before amounts, each on what is left.
 */
export function applyOffers(
  lines: readonly OfferLine[],
  open: readonly OpenOffer[],
  index: OfferIndex,
  work: Work = { left: MOST_WORK },
): OfferResult {
  if (open.length === 0) return NOTHING;
  const units = unitsOf(lines);
  const contenders = contendersFor(units, open, index);
  if (contenders.length === 0) return NOTHING;
  const [exclusive, combining] = [
    contenders.filter(({ open: { offer } }) => !offer.combines),
    contenders.filter(({ open: { offer } }) => offer.combines),
  ];
  const found =
    combining.length === 0
      ? exclusiveStage(units, exclusive, work)
      : largestSelection(units, exclusive, combining, work);
  return gather(units, found);
}

/** The offers that touch the basket, each with the units it means; in the order of their numbers. */
function contendersFor(
  units: readonly OfferUnit[],
  open: readonly OpenOffer[],
  index: OfferIndex,
): Contender[] {
  const byOffer = new Map<Offer, { place: number; groups: readonly number[] }[]>();
  units.forEach(({ goods, counted }, place) => {
    for (const [offer, groups] of index.find(goods)) {
      if (!counted && !takesUncounted(offer.rule)) continue;
      const known = byOffer.get(offer);
      if (known) known.push({ place, groups });
      else byOffer.set(offer, [{ place, groups }]);
    }
  });
  return open
    .toSorted((a, b) => a.offer.id - b.offer.id)
    .flatMap((one) => {
      const candidates = byOffer.get(one.offer);
      return candidates &&
        comesTo(units, candidates) >= one.offer.conditions.minimum &&
        canComplete(one, candidates)
        ? [{ open: one, candidates }]
        : [];
    });
}

/** What goods cost at list prices, which decides about minimum spends. */
const comesTo = (units: readonly OfferUnit[], candidates: readonly Candidate[]): Money =>
  sum(candidates.map(({ place }) => units[place]?.list ?? 0));

function canComplete({ offer }: OpenOffer, candidates: readonly Candidate[]): boolean {
  const { rule } = offer;
  if (rule.kind === 'quantity') return candidates.length >= (rule.tiers[0]?.from ?? 0);
  return groupsOf(rule).every(
    ({ count }, group) => candidates.filter(({ groups }) => groups.includes(group)).length >= count,
  );
}

function exclusiveStage(units: readonly OfferUnit[], contenders: readonly Contender[], work: Work): Staged {
  const base = units.map(() => 0);
  const baseOffer: (Offer | undefined)[] = [];
  const others: Contender[] = [];
  for (const contender of contenders) {
    const { offer, limit } = contender.open;
    if (offer.rule.kind !== 'each' || limit < contender.candidates.length) {
      others.push(contender);
      continue;
    }
    for (const { place } of contender.candidates) {
      const gain = offEach(units[place]?.price ?? 0, offer.rule.off);
      if (gain <= (base[place] ?? 0)) continue;
      base[place] = gain;
      baseOffer[place] = offer;
    }
  }
  const choice = chooseOffers(units, others, base, work);
  const given = new Map<Offer, { limit: number; units: [place: number, group: number][] }>();
  const give = (offer: Offer, limit: number, place: number, group: number) => {
    const known = given.get(offer);
    if (known) known.units.push([place, group]);
    else given.set(offer, { limit, units: [[place, group]] });
  };
  choice.given.forEach((one, place) => {
    const own = baseOffer[place];
    if (one) give(one.open.offer, one.open.limit, place, one.group);
    else if (own) give(own, Number.POSITIVE_INFINITY, place, 0);
  });
  const taken = [...given].map(([offer, { limit, units: of }]) => takenBy(units, offer, limit, of));
  return { taken, value: sum(taken.map(({ total }) => total)), bound: choice.bound };
}

function takenBy(
  units: readonly OfferUnit[],
  offer: Offer,
  limit: number,
  of: readonly (readonly [place: number, group: number])[],
): Taken {
  const given = of.map(([place, group]): GivenUnit => ({ unit: units[place] as OfferUnit, group }));
  const reduction = reductionOf(offer.rule, given, limit);
  const { uses, total } = reduction;
  return { offer, units: of.map(([place]) => place), amounts: unitAmounts(reduction, given), uses, total };
}

/** Parts come before amounts. */
function isPart({ rule }: Offer): boolean {
  switch (rule.kind) {
    case 'each':
      return rule.off.kind === 'percent';
    case 'together':
      return rule.reward.kind === 'cheapest' || rule.reward.kind === 'percent';
    case 'quantity':
      return true;
    case 'spend':
      return rule.tiers.every(({ off }) => off.kind === 'percent');
  }
}

/** Applies offers that combine, one after the other, each as the largest reduction on what is left. */
function combiningStage(
  units: readonly OfferUnit[],
  before: Staged,
  order: readonly Contender[],
  work: Work,
): Staged {
  const left = units.map(({ price }) => price);
  const takeOff = ({ units: of, amounts }: Taken) =>
    of.forEach((place, at) => (left[place] = (left[place] ?? 0) - (amounts[at] ?? 0)));
  before.taken.forEach(takeOff);
  const taken = [...before.taken];
  for (const { open, candidates } of order) {
    const now = units.map((unit, place) => ({ ...unit, price: left[place] ?? 0 }));
    const still = candidates.filter(({ place }) => (left[place] ?? 0) > 0);
    const ranked = still.toSorted((a, b) => (left[b.place] ?? 0) - (left[a.place] ?? 0) || a.place - b.place);
    const one = alone(now, open, ranked, work);
    if (one.total === 0) continue;
    taken.push(one);
    takeOff(one);
  }
  const value = sum(taken.map(({ total }) => total));
  return { taken, value, bound: value };
}

/** The best that one offer does by itself. */
function alone(
  units: readonly OfferUnit[],
  open: OpenOffer,
  candidates: readonly Candidate[],
  work: Work,
): Taken {
  const { rule } = open.offer;
  if (
    (rule.kind === 'each' && open.limit >= candidates.length) ||
    rule.kind === 'spend' ||
    rule.kind === 'quantity'
  ) {
    // Nothing competes for the units: all of them are best.
    return takenBy(
      units,
      open.offer,
      open.limit,
      candidates.map(({ place }) => [place, 0] as const),
    );
  }
  const free = new Float64Array(units.length);
  const table = tableOf(open, units, candidates, [], work);
  sweep(table, free, work);
  const of: [number, number][] = [];
  walk(table, free, (place, option) => of.push([place, groupOfOption(rule, option)]));
  return takenBy(units, open.offer, open.limit, of);
}

/** Both stages of some offers: parts in the order of their numbers, amounts in the order that takes off the most. */
function staged(
  units: readonly OfferUnit[],
  exclusive: readonly Contender[],
  combining: readonly Contender[],
  work: Work,
): Staged {
  const first = exclusiveStage(units, exclusive, work);
  const parts = combining.filter(({ open }) => isPart(open.offer));
  const amounts = combining.filter(({ open }) => !isPart(open.offer));
  let best: Staged | undefined;
  for (const order of orders(amounts)) {
    const one = combiningStage(units, first, [...parts, ...order], work);
    if (!best || one.value > best.value) best = one;
  }
  return best ?? first;
}

function orders<T>(list: readonly T[]): T[][] {
  if (list.length > MOST_ORDERED) return [list.slice()];
  if (list.length === 0) return [[]];
  return list.flatMap((one, at) => orders(list.toSpliced(at, 1)).map((rest) => [one, ...rest]));
}

/**
 * Where offers combine, the best choice of the others may leave less to those that come on top. So selections of the
 * offers are tried: all of them while they are few, else those without one of the offers that apply. Every selection
 * that is tried is a choice, and an offer more is a selection more.
 */
function largestSelection(
  units: readonly OfferUnit[],
  exclusive: readonly Contender[],
  combining: readonly Contender[],
  work: Work,
): Staged {
  const all = [...exclusive, ...combining];
  const run = (selected: readonly Contender[]) =>
    staged(
      units,
      selected.filter(({ open }) => !open.offer.combines),
      selected.filter(({ open }) => open.offer.combines),
      work,
    );
  let best = run(all);
  if (all.length <= MOST_SELECTED) {
    for (let mask = 1; mask < 2 ** all.length - 1; mask++) {
      const one = run(all.filter((_, at) => (mask & (1 << at)) !== 0));
      if (one.value > best.value) best = one;
    }
    return { ...best, bound: best.value };
  }
  const exclusiveBound = exclusiveStage(units, exclusive, work).bound;
  const applied = best.taken.filter(({ offer }) => !offer.combines).slice(0, MOST_LEFT_OUT);
  for (const { offer } of applied) {
    if (work.left <= 0) break;
    const one = run(all.filter(({ open }) => open.offer !== offer));
    if (one.value > best.value) best = one;
  }
  // On top of the best of the others, at most what each takes off full prices.
  const most = sum(combining.map(({ open, candidates }) => alone(units, open, candidates, work).total));
  const whole = sum(units.map(({ price }) => price));
  return { ...best, bound: Math.max(best.value, Math.min(exclusiveBound + most, whole)) };
}

function gather(units: readonly OfferUnit[], { taken, value, bound }: Staged): OfferResult {
  const parts: OfferPart[] = [];
  const uses: OfferUse[] = [];
  for (const { offer, units: of, amounts, uses: used, total } of taken) {
    if (total === 0) continue;
    const byLine = new Map<number, Money>();
    of.forEach((place, at) => {
      const line = units[place]?.line ?? 0;
      byLine.set(line, (byLine.get(line) ?? 0) + (amounts[at] ?? 0));
    });
    for (const [line, amount] of byLine) if (amount !== 0) parts.push({ line, offer, amount });
    uses.push({ offer, uses: used, amount: total });
  }
  parts.sort((a, b) => a.line - b.line);
  return { parts, uses, value, bound: Math.max(bound, value) };
}
