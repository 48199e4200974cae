import { sum, type Money } from '../money.ts';
import { chooseExclusive } from './exclusiveOffers.ts';
import { chooseJointly, type JointChoice } from './jointOffers.ts';
import { formByRank } from './formByRank.ts';
import { type Offer, type OpenOffer } from './offer.ts';
import { kindOf } from './kinds/kinds.ts';
import { offerRooms, type OfferRoom } from './offerRooms.ts';
import { exclusiveStage, type Taken } from './offerStages.ts';
import { lend, type Contender, type Work } from './offerTable.ts';
import {
  howMany,
  indexOffers,
  laidOut,
  unitsOf,
  type OfferIndex,
  type OfferLine,
  type OfferUnit,
} from './offerUnits.ts';

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
export const MOST_WORK = 800_000;
/** Such a part of it at most where no offers combine: there is less to choose among. */
const PLAIN_PART = 0.5;

/** Up to so many units each is looked at for itself; of more, equal ones are counted. */
const MOST_LAID_OUT = 240;

const NOTHING: OfferResult = { parts: [], uses: [], value: 0, bound: 0 };

/**
 * What was found for goods and offers that have to do with one another, so that a like basket need not be gone
 * through again.
 */
export type OfferMemory = Map<string, JointChoice>;

/**
 * Applies the offers that are open to a basket: those that exclude one another first, chosen for the largest reduction,
 * then those that combine, parts before amounts, each on what is left. Both are chosen together.
 */
export function applyOffers(
  lines: readonly OfferLine[],
  open: readonly OpenOffer[],
  index: OfferIndex,
  work: Work = { left: MOST_WORK },
  memory?: OfferMemory,
): OfferResult {
  if (open.length === 0) return NOTHING;
  const counted = unitsOf(lines);
  const units = howMany(counted) <= MOST_LAID_OUT ? laidOut(counted) : counted;
  const contenders = contendersFor(units, open, index);
  if (contenders.length === 0) return NOTHING;
  const combine = contenders.some(({ open: { offer } }) => offer.combines);
  return lend(work, work.left * (combine ? 1 : PLAIN_PART), (share) => {
    const { taken, bound } = inRooms(offerRooms(units, contenders), share, memory);
    return gather(units, taken, bound);
  });
}

/** What is best in each room. Work is shared by how much there is to choose. */
function inRooms(
  rooms: readonly OfferRoom[],
  work: Work,
  memory: OfferMemory | undefined,
): { taken: Taken[]; bound: Money } {
  let left = sum(rooms.map(sizeOf));
  const taken: Taken[] = [];
  let bound = 0;
  for (const room of rooms) {
    const part = sizeOf(room) / left;
    left -= sizeOf(room);
    const found = lend(work, work.left * part, (share) => remembered(room, share, memory));
    bound += Math.max(found.bound, found.staged.value);
    for (const one of found.staged.taken) {
      const rows = one.rows.map((row) => ({ ...row, place: room.places[row.place] ?? 0 }));
      taken.push({ ...one, rows });
    }
  }
  return { taken, bound };
}

const sizeOf = ({ units, contenders }: OfferRoom): number => units.length * contenders.length;

function remembered(room: OfferRoom, work: Work, memory?: OfferMemory): JointChoice {
  if (!memory) return choose(room, work);
  const key = [
    ...room.units.map(({ key, price, list, count }) => `${key} ${price} ${list} ${count}`),
    ...room.contenders.map(
      ({ open: { offer, limit }, candidates }) =>
        `${offer.id} ${limit} ${candidates.map(({ place, groups }) => `${place}:${groups.join('.')}`).join()}`,
    ),
  ].join('\n');
  const known = memory.get(key);
  if (known) return known;
  const found = choose(room, work);
  memory.set(key, found);
  return found;
}

function choose({ units, contenders }: OfferRoom, work: Work): JointChoice {
  const exclusive = contenders.filter(({ open: { offer } }) => !offer.combines);
  const combining = contenders.filter(({ open: { offer } }) => offer.combines);
  if (combining.length > 0) return chooseJointly(units, exclusive, combining, work);
  const { chosen, bound } = chooseExclusive(units, exclusive, work);
  return { staged: exclusiveStage(units, chosen), bound };
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
      if (!counted && !kindOf(offer.rule).takesUncounted) continue;
      const known = byOffer.get(offer);
      if (known) known.push({ place, groups });
      else byOffer.set(offer, [{ place, groups }]);
    }
  });
  return open
    .toSorted((a, b) => a.offer.id - b.offer.id)
    .flatMap((one) => {
      const candidates = byOffer.get(one.offer);
      return candidates && canApply(units, { open: one, candidates }) ? [{ open: one, candidates }] : [];
    });
}

/** Whether there is enough of what an offer asks for: at list prices, and of each of its groups. */
function canApply(units: readonly OfferUnit[], { open: { offer }, candidates }: Contender): boolean {
  const { rule, conditions } = offer;
  const meant = candidates.map(({ place, groups }) => ({ unit: units[place] as OfferUnit, groups }));
  const listed = sum(meant.map(({ unit: { list, count } }) => list * count));
  if (listed < conditions.minimum) return false;
  const many = (of: typeof meant) => howMany(of.map(({ unit }) => unit));
  return kindOf(rule).hasEnough({
    listed,
    units: many(meant),
    ofGroup: (group) => many(meant.filter(({ groups }) => groups.includes(group))),
  });
}

/** What one offer takes off by itself, nearly: where units are meant by several of its groups, as found by rank. */
export function offerAlone(counted: readonly OfferUnit[], open: OpenOffer): Money {
  const [contender] = contendersFor(counted, [open], indexOffers([open.offer]));
  if (!contender) return 0;
  const free = contender.candidates.map((one) => ({ ...one, count: counted[one.place]?.count ?? 0 }));
  return formByRank(open, counted, free, []).value;
}

/** In the order of the offers' stages: what excludes others, parts, amounts; in each as it was found. */
function gather(units: readonly OfferUnit[], taken: readonly Taken[], bound: Money): OfferResult {
  const parts: OfferPart[] = [];
  const uses = new Map<Offer, OfferUse>();
  for (const { offer, rows, uses: used, total } of taken) {
    if (total === 0) continue;
    const byLine = new Map<number, Money>();
    for (const { place, amount, count } of rows) {
      const line = units[place]?.line ?? 0;
      byLine.set(line, (byLine.get(line) ?? 0) + amount * count);
    }
    for (const [line, amount] of byLine) {
      const known = parts.find((part) => part.line === line && part.offer === offer);
      if (known) known.amount += amount;
      else if (amount !== 0) parts.push({ line, offer, amount });
    }
    const known = uses.get(offer);
    uses.set(offer, { offer, uses: (known?.uses ?? 0) + used, amount: (known?.amount ?? 0) + total });
  }
  parts.sort((a, b) => a.line - b.line);
  const value = sum([...uses.values()].map(({ amount }) => amount));
  return { parts, uses: [...uses.values()], value, bound: Math.max(bound, value) };
}
