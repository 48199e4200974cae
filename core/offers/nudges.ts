import { formatMoney, sum, type Money } from '../money.ts';
import { ONE } from '../quantity.ts';
import { applyOffers } from './applyOffers.ts';
import {
  groupsOf,
  openness,
  openOffers,
  type Hindrance,
  type Offer,
  type OfferGoods,
  type OfferSituation,
} from './offer.ts';
import { takesUncounted } from './offerReduction.ts';
import {
  means,
  unitsOf,
  type OfferedGoods,
  type OfferIndex,
  type OfferLine,
  type OfferUnit,
} from './offerUnits.ts';
import { goodsWords, hindranceWords, ruleWords, type OfferNames } from './offerWords.ts';

/** Something to say to the customer: what is missing for an offer, or a reward within reach. */
export interface Nudge {
  offerId: number;
  offer: string;
  /** What is missing, or how it could be had. */
  words: string;
  /** What the offer gives. */
  gives: string;
  /** What the customer would pay less; zero where an offer was asked for and yields nothing. */
  saving: Money;
  /** The item that one key adds, with its price. */
  adds: string | null;
  /** What one key does. */
  act:
    | { kind: 'add'; itemId: number; count: number }
    | { kind: 'reward'; offerId: number }
    | { kind: 'customer' }
    | null;
}

/** An item as it would be added. */
export interface NudgeItem extends OfferedGoods {
  price: Money;
}

/** What nudges need to know besides the basket. */
export interface NudgeFacts {
  names: OfferNames;
  /** An item that stands for some goods, where none of them is in the basket. */
  example(goods: OfferGoods): NudgeItem | undefined;
  /** Points of the customer that are not spent on this basket yet. */
  points: number;
  /** Groups that customers belong to: an offer for members is worth a word. */
  asksForGroups: boolean;
}

const MOST_NUDGES = 3;
/** So many units more are within reach, */
const REACH_UNITS = 2;
/** or such a part of what a tier asks for. */
const REACH_PART = 0.35;
/** So many offers are looked at, the first by number. */
const MOST_TRIED = 16;

/** What to say, what the customer saves most by first. Offers that were asked for by a code and yield nothing come before. */
export function nudgesFor(
  lines: readonly OfferLine[],
  index: OfferIndex,
  situation: OfferSituation,
  facts: NudgeFacts,
): Nudge[] {
  const open = openOffers(index.offers, situation);
  const now = applyOffers(lines, open, index);
  const used = new Set(now.uses.map(({ offer }) => offer));
  const touching = new Set(
    lines
      .filter(({ closed, quantity }) => !closed && quantity > 0)
      .flatMap(({ goods }) => [...index.find(goods).keys()]),
  );
  const worth = (more: readonly OfferLine[], change: Partial<OfferSituation> = {}): Money =>
    applyOffers([...lines, ...more], openOffers(index.offers, { ...situation, ...change }), index).value -
    now.value;
  const units = unitsOf(lines);
  const found: Nudge[] = [];
  let tried = 0;

  for (const offer of index.offers) {
    const askedFor = (situation.unlocked.get(offer.id) ?? 0) > 0;
    if ((!touching.has(offer) && !askedFor) || tried >= MOST_TRIED) continue;
    const state = openness(offer, situation);
    const say = (words: string, saving: Money, act: Nudge['act'], adds: string | null = null) =>
      found.push({
        offerId: offer.id,
        offer: offer.name,
        words,
        gives: ruleWords(offer, facts.names),
        saving,
        adds,
        act,
      });
    if ('hindrance' in state) {
      if (askedFor) say(hindranceWords(state.hindrance, offer), 0, actFor(state.hindrance));
      else if (unlockable(state.hindrance, offer, facts)) {
        tried += 1;
        const saving = worth([], opened(offer, situation));
        if (saving > 0) say(unlockWords(state.hindrance, offer), saving, actOf(state.hindrance, offer));
      }
      continue;
    }
    const missing = missingFor(offer, units, used.has(offer), facts, askedFor && !used.has(offer));
    if (!missing) continue;
    tried += 1;
    const saving = worth(missing.lines);
    if (saving <= 0 && !askedFor) continue;
    say(missing.words, Math.max(0, saving), missing.act, missing.adds);
  }
  const asked = (nudge: Nudge) => (situation.unlocked.get(nudge.offerId) ?? 0) > 0;
  return found
    .sort((a, b) => Number(asked(b)) - Number(asked(a)) || b.saving - a.saving || a.offerId - b.offerId)
    .slice(0, MOST_NUDGES);
}

const actFor = (hindrance: Hindrance): Nudge['act'] =>
  hindrance === 'customer' || hindrance === 'group' ? { kind: 'customer' } : null;

/** Whether something that the customer may have or be opens an offer. */
function unlockable(hindrance: Hindrance, { needs, points }: Offer, facts: NudgeFacts): boolean {
  if (hindrance === 'points') return points <= facts.points;
  return needs === 'nothing' && facts.asksForGroups && (hindrance === 'group' || hindrance === 'customer');
}

/** The situation in which an offer is open that the customer may open. */
function opened({ id, conditions }: Offer, { unlocked, groups }: OfferSituation): Partial<OfferSituation> {
  return {
    customer: true,
    groups: [...groups, ...conditions.groups],
    unlocked: new Map(unlocked).set(id, (unlocked.get(id) ?? 0) + 1),
  };
}

function unlockWords(hindrance: Hindrance, offer: Offer): string {
  if (hindrance === 'points') return `${offer.points} points pay for it`;
  return hindrance === 'group'
    ? `Member of ${offer.conditions.groups.join(' or ')}?`
    : 'With a customer on the sale';
}

const actOf = (hindrance: Hindrance, { id }: Offer): Nudge['act'] =>
  hindrance === 'points' ? { kind: 'reward', offerId: id } : { kind: 'customer' };

interface Missing {
  words: string;
  adds: string | null;
  lines: OfferLine[];
  act: Nudge['act'];
}

/** What is missing for an offer, or for more of it, if that is within reach. @param anyway however far it is */
function missingFor(
  offer: Offer,
  units: readonly OfferUnit[],
  applies: boolean,
  facts: NudgeFacts,
  anyway: boolean,
): Missing | undefined {
  const { rule, conditions } = offer;
  const meant = units.filter(
    (unit) =>
      (unit.counted || takesUncounted(rule)) && groupsOf(rule).some(({ goods }) => means(goods, unit.goods)),
  );
  const listed = sum(meant.map(({ list }) => list));
  const { digits } = facts.names;
  if (listed < conditions.minimum) {
    const goods = groupsOf(rule).map((group) => group.goods)[0] ?? { itemIds: [], categories: [] };
    return missingMoney(goods, conditions.minimum - listed, conditions.minimum, meant, facts, anyway);
  }
  switch (rule.kind) {
    case 'each':
      return anyway && meant.length === 0
        ? { words: `Needs ${goodsWords(rule.goods, facts.names)}`, adds: null, lines: [], act: null }
        : undefined;
    case 'spend': {
      const next = rule.tiers.find(({ from }) => from > listed);
      if (!next || (applies && rule.tiers.at(-1) !== next && listed >= next.from)) return undefined;
      return missingMoney(rule.goods, next.from - listed, next.from, meant, facts, anyway);
    }
    case 'quantity': {
      const next = rule.tiers.find(({ from }) => from > meant.length);
      const count = (next?.from ?? 0) - meant.length;
      if (!next || (!anyway && (meant.length === 0 || count > Math.max(REACH_UNITS, next.from * REACH_PART))))
        return undefined;
      return missingUnits([{ goods: rule.goods, count }], units, facts, digits);
    }
    case 'together': {
      const have = rule.groups.map(
        ({ goods }) => units.filter((unit) => unit.counted && means(goods, unit.goods)).length,
      );
      const done = Math.min(...rule.groups.map(({ count }, at) => Math.floor((have[at] ?? 0) / count)));
      const groups = rule.groups
        .map(({ goods, count }, at) => ({ goods, count: Math.max(0, (done + 1) * count - (have[at] ?? 0)) }))
        .filter(({ count }) => count > 0);
      const count = sum(groups.map((group) => group.count));
      const size = sum(rule.groups.map((group) => group.count));
      if (!anyway && (count > REACH_UNITS || count >= size)) return undefined;
      return missingUnits(groups, units, facts, digits);
    }
  }
}

function missingUnits(
  groups: readonly { goods: OfferGoods; count: number }[],
  units: readonly OfferUnit[],
  facts: NudgeFacts,
  digits: number,
): Missing {
  const chosen = groups.map(({ goods, count }) => ({ count, item: itemFor(goods, units, facts) }));
  const words = groups
    .map(({ goods, count }) => `${count} more of ${goodsWords(goods, facts.names)}`)
    .join(' and ');
  const [only] = chosen;
  const known = chosen.length === 1 && only?.item && only.item.known ? only.item : undefined;
  return {
    words,
    adds: known ? `${facts.names.item(known.itemId)} at ${formatMoney(known.price, digits)}` : null,
    lines: chosen.flatMap(({ item, count }, at) => (item ? [lineOf(item, count, at)] : [])),
    act: known && only ? { kind: 'add', itemId: known.itemId, count: only.count } : null,
  };
}

/** The one item that is meant; else one of them that is in the basket, the cheapest; else an example. */
function itemFor(
  goods: OfferGoods,
  units: readonly OfferUnit[],
  facts: NudgeFacts,
): (NudgeItem & { known: boolean }) | undefined {
  const inBasket = units.findLast((unit) => unit.counted && means(goods, unit.goods));
  if (inBasket) return { ...inBasket.goods, price: inBasket.list, known: true };
  const example = facts.example(goods);
  const single = goods.itemIds.length === 1 && goods.categories.length === 0;
  return example && { ...example, known: single && example.itemId === goods.itemIds[0] };
}

const lineOf = ({ itemId, familyId, category, price }: NudgeItem, count: number, at: number): OfferLine => ({
  id: `~${at}`,
  goods: { itemId, familyId, category },
  quantity: count * ONE,
  counted: true,
  regular: price * count,
  net: price * count,
  closed: false,
});

function missingMoney(
  goods: OfferGoods,
  missing: Money,
  from: Money,
  meant: readonly OfferUnit[],
  facts: NudgeFacts,
  anyway: boolean,
): Missing | undefined {
  if (!anyway && (meant.length === 0 || missing > from * REACH_PART)) return undefined;
  const [unit] = meant;
  const item: NudgeItem | undefined = unit && { ...unit.goods, price: missing };
  return {
    words: `${formatMoney(missing, facts.names.digits)} more on ${goodsWords(goods, facts.names)}`,
    adds: null,
    // Whatever comes to just what is missing.
    lines: item ? [{ ...lineOf(item, 1, 0), counted: unit?.counted ?? true }] : [],
    act: null,
  };
}
