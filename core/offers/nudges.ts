import { formatMoney, sum, type Money } from '../money.ts';
import { ONE } from '../quantity.ts';
import { MOST_WORK, offerAlone, type OfferMemory } from './applyOffers.ts';
import type { TypedDiscount } from './discount.ts';
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
import { howMany, means, unitsOf, type OfferedGoods, type OfferIndex, type OfferUnit } from './offerUnits.ts';
import { goodsWords, hindranceWords, ruleWords, type OfferNames } from './offerWords.ts';
import { offerLines, priceBasket, type LineToPrice, type PricedBasket, type PricingRules } from './price.ts';
import type { TaxRate } from './tax.ts';

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
  groupPrice?: LineToPrice['groupPrice'];
  rates: readonly TaxRate[];
}

/** A basket as it is priced. */
export interface NudgedBasket {
  lines: readonly LineToPrice[];
  rules: PricingRules;
  discounts: readonly TypedDiscount[];
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
/** So much may be done even where the basket is priced with less. */
const LEAST_WORK = 10_000;

/** With tax and together with others, an offer saves so many times what it takes off by itself, hardly ever more. */
const HOPES = 1.5;

/** Something that may be worth saying, before it is known what it would save. */
interface Idea {
  offer: Offer;
  words: string;
  adds: string | null;
  act: Nudge['act'];
  askedFor: boolean;
  lines: readonly LineToPrice[];
  change: Partial<OfferSituation>;
  /** What it may save by itself. */
  hope: Money;
}

/** What to say, what the customer saves most by first. Offers that were asked for by a code and yield nothing come before. */
export function nudgesFor(
  basket: NudgedBasket,
  index: OfferIndex,
  situation: OfferSituation,
  facts: NudgeFacts,
): Nudge[] {
  const steps = findNudges(basket, index, situation, facts);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/**
 * Looks for what is worth saying, one suggestion at a step, so that something more urgent can come between. What an
 * offer would save is what the customer then pays less, discounts and tax included. All together do at most about twice
 * the work of pricing the basket once, those first that may save most.
 */
export function* findNudges(
  basket: NudgedBasket,
  index: OfferIndex,
  situation: OfferSituation,
  facts: NudgeFacts,
): Generator<undefined, Nudge[]> {
  const memory: OfferMemory = new Map();
  let done = 0;
  const priced = (lines: readonly LineToPrice[], change: Partial<OfferSituation> = {}): PricedBasket => {
    const work = { left: MOST_WORK };
    const offering = { index, situation: { ...situation, ...change }, work, memory };
    const found = priceBasket(lines, basket.rules, basket.discounts, offering);
    done += MOST_WORK - work.left;
    return found;
  };
  const plain = (lines: readonly LineToPrice[]): Money =>
    priceBasket(lines, basket.rules, basket.discounts).total;

  const now = priced(basket.lines);
  const plainNow = plain(basket.lines);
  const most = done + Math.max(done, LEAST_WORK);
  yield;
  const ideas = ideasFor(basket, now, index, situation, facts).sort(
    (a, b) => Number(b.askedFor) - Number(a.askedFor) || b.hope - a.hope || a.offer.id - b.offer.id,
  );
  const found: (Nudge & { askedFor: boolean })[] = [];
  for (const { offer, lines, change, hope, ...said } of ideas) {
    const worst =
      found.length < MOST_NUDGES ? 0 : Math.min(...found.slice(0, MOST_NUDGES).map(({ saving }) => saving));
    if (!said.askedFor && (hope * HOPES <= worst || done >= most)) continue;
    const more = [...basket.lines, ...lines];
    let saving = 0;
    if (hope > 0) {
      const then = priced(more, change);
      yield;
      const plainly = lines.length > 0 ? plain(more) - plainNow : 0;
      if (amountOf(then, offer) > amountOf(now, offer)) saving = now.total + plainly - then.total;
    }
    if (saving <= 0 && !said.askedFor) continue;
    const gives = ruleWords(offer, facts.names);
    found.push({ offerId: offer.id, offer: offer.name, gives, ...said, saving: Math.max(0, saving) });
    found.sort(
      (a, b) => Number(b.askedFor) - Number(a.askedFor) || b.saving - a.saving || a.offerId - b.offerId,
    );
  }
  return found.slice(0, MOST_NUDGES).map(({ askedFor: _, ...nudge }) => nudge);
}

const amountOf = ({ offers }: PricedBasket, { id }: Offer): Money =>
  offers.find((one) => one.id === id)?.amount ?? 0;

/** What may be said of each offer that touches the basket or was asked for. */
function ideasFor(
  { lines, rules, discounts }: NudgedBasket,
  now: PricedBasket,
  index: OfferIndex,
  situation: OfferSituation,
  facts: NudgeFacts,
): Idea[] {
  const onLines = discounts.filter(({ lineIds }) => lineIds !== null);
  const offered = (of: readonly LineToPrice[]) => offerLines(priceBasket(of, rules, onLines).lines, of);
  const standing = offered(lines);
  const used = new Set(now.offers.map(({ id }) => id));
  const touching = new Set(
    standing
      .filter(({ closed, quantity }) => !closed && quantity > 0)
      .flatMap(({ goods }) => [...index.find(goods).keys()]),
  );
  const units = unitsOf(standing);
  /** What one offer takes off by itself, however good others are. */
  const hopeOf = (offer: Offer, more: readonly LineToPrice[], change: Partial<OfferSituation>): Money => {
    const [open] = openOffers([offer], { ...situation, ...change });
    return open ? offerAlone(unitsOf([...standing, ...offered(more)]), open) : 0;
  };
  return index.offers.flatMap((offer): Idea[] => {
    const askedFor = (situation.unlocked.get(offer.id) ?? 0) > 0;
    if (!touching.has(offer) && !askedFor) return [];
    const idea = { offer, askedFor, adds: null, lines: [], change: {}, hope: 0 };
    const state = openness(offer, situation);
    if ('hindrance' in state) {
      const { hindrance } = state;
      if (askedFor) return [{ ...idea, words: hindranceWords(hindrance, offer), act: actFor(hindrance) }];
      if (!unlockable(hindrance, offer, facts)) return [];
      const change = opened(offer, situation);
      const act = actOf(hindrance, offer);
      return [
        { ...idea, words: unlockWords(hindrance, offer), act, change, hope: hopeOf(offer, [], change) },
      ];
    }
    const applies = used.has(offer.id);
    const missing = missingFor(offer, lines, units, applies, facts, askedFor && !applies);
    if (missing) return [{ ...idea, ...missing, hope: hopeOf(offer, missing.lines, {}) }];
    // Everything is there, and yet it does nothing.
    return askedFor && !applies ? [{ ...idea, words: 'Another offer takes off more here.', act: null }] : [];
  });
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
  lines: readonly LineToPrice[];
  act: Nudge['act'];
}

/** What is missing for an offer, or for more of it, if that is within reach. @param anyway however far it is */
function missingFor(
  offer: Offer,
  lines: readonly LineToPrice[],
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
  const listed = sum(meant.map(({ list, count }) => list * count));
  const many = howMany(meant);
  const { digits } = facts.names;
  if (listed < conditions.minimum) {
    const goods = groupsOf(rule).map((group) => group.goods)[0] ?? { itemIds: [], categories: [] };
    return missingMoney(goods, conditions.minimum - listed, conditions.minimum, lines, meant, facts, anyway);
  }
  switch (rule.kind) {
    case 'each':
      return anyway && meant.length === 0
        ? { words: `Needs ${goodsWords(rule.goods, facts.names)}`, adds: null, lines: [], act: null }
        : undefined;
    case 'spend': {
      const next = rule.tiers.find(({ from }) => from > listed);
      if (!next || (applies && rule.tiers.at(-1) !== next && listed >= next.from)) return undefined;
      return missingMoney(rule.goods, next.from - listed, next.from, lines, meant, facts, anyway);
    }
    case 'quantity': {
      const next = rule.tiers.find(({ from }) => from > many);
      const count = (next?.from ?? 0) - many;
      if (!next || (!anyway && (meant.length === 0 || count > Math.max(REACH_UNITS, next.from * REACH_PART))))
        return undefined;
      return missingUnits([{ goods: rule.goods, count }], lines, units, facts, digits);
    }
    case 'together': {
      const have = rule.groups.map(({ goods }) =>
        howMany(units.filter((unit) => unit.counted && means(goods, unit.goods))),
      );
      const done = Math.min(...rule.groups.map(({ count }, at) => Math.floor((have[at] ?? 0) / count)));
      const groups = rule.groups
        .map(({ goods, count }, at) => ({ goods, count: Math.max(0, (done + 1) * count - (have[at] ?? 0)) }))
        .filter(({ count }) => count > 0);
      const count = sum(groups.map((group) => group.count));
      const size = sum(rule.groups.map((group) => group.count));
      if (!anyway && (count > REACH_UNITS || count >= size)) return undefined;
      return missingUnits(groups, lines, units, facts, digits);
    }
  }
}

function missingUnits(
  groups: readonly { goods: OfferGoods; count: number }[],
  lines: readonly LineToPrice[],
  units: readonly OfferUnit[],
  facts: NudgeFacts,
  digits: number,
): Missing {
  const chosen = groups.map(({ goods, count }) => ({ count, item: itemFor(goods, lines, units, facts) }));
  const words = groups
    .map(({ goods, count }) => `${count} more of ${goodsWords(goods, facts.names)}`)
    .join(' and ');
  const [only] = chosen;
  const known = chosen.length === 1 && only?.item && only.item.known ? only.item : undefined;
  return {
    words,
    adds: known
      ? `${facts.names.item(known.itemId)} at ${formatMoney(Math.min(known.price, known.groupPrice?.unitPrice ?? known.price), digits)}`
      : null,
    lines: chosen.flatMap(({ item, count }, at) => (item ? [lineOf(item, count, at)] : [])),
    act: known && only ? { kind: 'add', itemId: known.itemId, count: only.count } : null,
  };
}

/** The one item that is meant; else one of them that is in the basket, the cheapest; else an example. */
function itemFor(
  goods: OfferGoods,
  lines: readonly LineToPrice[],
  units: readonly OfferUnit[],
  facts: NudgeFacts,
): (NudgeItem & { known: boolean }) | undefined {
  const inBasket = units.findLast((unit) => unit.counted && means(goods, unit.goods));
  const line = inBasket && lines[inBasket.line];
  if (line)
    return {
      ...inBasket.goods,
      price: line.listPrice,
      groupPrice: line.groupPrice,
      rates: line.rates,
      known: true,
    };
  const example = facts.example(goods);
  const single = goods.itemIds.length === 1 && goods.categories.length === 0;
  return example && { ...example, known: single && example.itemId === goods.itemIds[0] };
}

const lineOf = (
  { itemId, familyId, category, price, groupPrice, rates }: NudgeItem,
  count: number,
  at: number,
): LineToPrice => ({
  id: `~${at}`,
  goods: { itemId, familyId, category },
  quantity: count * ONE,
  counted: true,
  listPrice: price,
  groupPrice,
  rates,
});

function missingMoney(
  goods: OfferGoods,
  missing: Money,
  from: Money,
  lines: readonly LineToPrice[],
  meant: readonly OfferUnit[],
  facts: NudgeFacts,
  anyway: boolean,
): Missing | undefined {
  if (!anyway && (meant.length === 0 || missing > from * REACH_PART)) return undefined;
  const [unit] = meant;
  const item: NudgeItem | undefined = unit && {
    ...unit.goods,
    price: missing,
    rates: lines[unit.line]?.rates ?? [],
  };
  return {
    words: `${formatMoney(missing, facts.names.digits)} more on ${goodsWords(goods, facts.names)}`,
    adds: null,
    // Whatever comes to just what is missing.
    lines: item ? [{ ...lineOf(item, 1, 0), counted: unit?.counted ?? true }] : [],
    act: null,
  };
}
