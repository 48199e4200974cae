import type { Money } from '../money.ts';
import { MOST_WORK, offerAlone, type OfferMemory } from '../offers/applyOffers.ts';
import type { TypedDiscount } from '../pricing/discount.ts';
import { missingForOffer } from './missingForOffer.ts';
import type { Nudge, NudgeFacts } from './nudge.ts';
import { openness, openOffers, type Hindrance, type Offer, type OfferSituation } from '../offers/offer.ts';
import { unitsOf, type OfferIndex } from '../offers/offerUnits.ts';
import { hindranceWords, ruleWords } from '../offers/offerWords.ts';
import {
  offerLines,
  priceBasket,
  type LineToPrice,
  type PricedBasket,
  type PricingRules,
} from '../pricing/price.ts';

/** A basket as it is priced. */
export interface NudgedBasket {
  lines: readonly LineToPrice[];
  rules: PricingRules;
  discounts: readonly TypedDiscount[];
}

const MOST_NUDGES = 3;
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

/**
 * What to say, what the customer saves most by first. Offers that were asked for by a code and yield nothing come
 * before.
 */
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
    // What points pay for is no saving of an offer.
    const offering = { index, situation: { ...situation, ...change, pointsOff: undefined }, work, memory };
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
      if (askedFor)
        return [{ ...idea, words: hindranceWords(hindrance, offer, facts.names), act: actFor(hindrance) }];
      if (!unlockable(hindrance, offer, facts)) return [];
      const change = opened(offer, situation);
      const act = actOf(hindrance, offer, facts);
      return [
        {
          ...idea,
          words: unlockWords(hindrance, offer, facts),
          act,
          change,
          hope: hopeOf(offer, [], change),
        },
      ];
    }
    const applies = used.has(offer.id);
    const missing = missingForOffer(offer, lines, units, facts, askedFor && !applies);
    if (missing) return [{ ...idea, ...missing, hope: hopeOf(offer, missing.lines, {}) }];
    // Everything is there, and yet it does nothing.
    return askedFor && !applies ? [{ ...idea, words: 'Another offer takes off more here.', act: null }] : [];
  });
}

const actFor = (hindrance: Hindrance): Nudge['act'] =>
  hindrance === 'customer' || hindrance === 'group' ? { kind: 'customer' } : null;

/** A reward is worth a word where so much of its points is missing at most. */
const WITHIN_REACH = 0.25;

/** Whether something that the customer may have or be, or has nearly, opens an offer. */
function unlockable(hindrance: Hindrance, { needs, points }: Offer, facts: NudgeFacts): boolean {
  if (hindrance === 'points') return points - facts.points <= points * WITHIN_REACH;
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

function unlockWords(hindrance: Hindrance, offer: Offer, { names, points }: NudgeFacts): string {
  if (hindrance === 'points' && offer.points > points) {
    const missing = offer.points - Math.max(0, points);
    return `${missing} ${names.points} more, then ${offer.points} pay for it`;
  }
  if (hindrance === 'points') return `${offer.points} ${names.points} pay for it`;
  return hindrance === 'group'
    ? `Member of ${offer.conditions.groups.join(' or ')}?`
    : 'With a customer on the sale';
}

function actOf(hindrance: Hindrance, { id, points }: Offer, facts: NudgeFacts): Nudge['act'] {
  if (hindrance !== 'points') return { kind: 'customer' };
  return points <= facts.points ? { kind: 'reward', offerId: id } : null;
}
