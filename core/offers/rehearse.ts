import { sum, type Money } from '../money.ts';
import { lineAmount, ONE, type Quantity } from '../quantity.ts';
import { applyOffers, type OfferResult } from './applyOffers.ts';
import { openOffers, type Offer, type OfferSituation } from './offer.ts';
import { indexOffers, type OfferIndex, type OfferLine } from './offerUnits.ts';

/** A basket that was sold, as far as offers look at it. */
export interface PastBasket {
  saleId: string;
  /** Receipt number as printed. */
  number: string;
  day: string;
  time: string;
  placeId: number;
  customer: boolean;
  groups: readonly string[];
  /** Offers that codes and points opened, and for how many uses. */
  opened: readonly { offerId: number; uses: number }[];
  lines: readonly PastLine[];
}

export interface PastLine extends OfferLine {
  /** What was taken off after the offers. */
  later: Money;
  /** What one unit costs the shop, where it is known. */
  cost: Money | null;
  quantity: Quantity;
}

/** What a rehearsal has found. */
export interface RehearsalSums {
  applied: number;
  uses: number;
  /** What the offer takes off. */
  reduction: Money;
  /** What customers pay less in all, what other offers lose by it taken into account. */
  cost: Money;
  net: { before: Money; after: Money };
  /** Of goods whose cost is known. */
  margin: { before: Money; after: Money };
  /** Lines whose cost is not known. */
  costUnknown: number;
  days: Map<string, { applied: number; cost: Money }>;
  others: Map<number, { name: string; before: Money; after: Money }>;
  changed: { saleId: string; number: string; day: string; before: Money; after: Money }[];
}

export const noSums = (): RehearsalSums => ({
  applied: 0,
  uses: 0,
  reduction: 0,
  cost: 0,
  net: { before: 0, after: 0 },
  margin: { before: 0, after: 0 },
  costUnknown: 0,
  days: new Map(),
  others: new Map(),
  changed: [],
});

/** The offers as they are and with the one that is rehearsed. */
export interface RehearsedOffers {
  draft: Offer;
  before: OfferIndex;
  after: OfferIndex;
}

/**
 * Sets up a rehearsal. The draft applies on every day of the past, whatever its own dates are, and to everybody who
 * would need a code or points for it; weekdays, hours, places and groups count.
 * @param live the offers in force; what an offer does is measured against the others, as if it had never been there
 */
export function rehearsed(draft: Offer, live: readonly Offer[]): RehearsedOffers {
  const open: Offer = {
    ...draft,
    needs: 'nothing',
    points: 0,
    conditions: { ...draft.conditions, from: null, to: null },
    limits: { ...draft.limits, total: null, perCustomer: null },
  };
  const others = live.filter(({ id }) => id !== draft.id);
  return { draft: open, before: indexOffers(others), after: indexOffers([...others, open]) };
}

/** Prices one past basket with and without the draft and adds what differs to the sums. */
export function rehearseBasket(
  basket: PastBasket,
  { draft, before, after }: RehearsedOffers,
  sums: RehearsalSums,
): void {
  const situation: OfferSituation = {
    day: basket.day,
    time: basket.time,
    placeId: basket.placeId,
    customer: basket.customer,
    groups: basket.groups,
    unlocked: new Map(basket.opened.map(({ offerId, uses }) => [offerId, uses])),
    left: new Map(),
  };
  const was = applyOffers(basket.lines, openOffers(before.offers, situation), before);
  const now = applyOffers(basket.lines, openOffers(after.offers, situation), after);
  const cost = now.value - was.value;
  addMoney(sums, basket.lines, was, now);
  const use = now.uses.find(({ offer }) => offer === draft);
  const day = sums.days.get(basket.day) ?? { applied: 0, cost: 0 };
  sums.days.set(basket.day, { applied: day.applied + (use ? 1 : 0), cost: day.cost + cost });
  sums.cost += cost;
  if (use) {
    sums.applied += 1;
    sums.uses += use.uses;
    sums.reduction += use.amount;
  }
  if (use || cost !== 0) {
    const net = sum(basket.lines.map((line) => line.net + line.later));
    const { saleId, number, day: on } = basket;
    sums.changed.push({ saleId, number, day: on, before: net - was.value, after: net - now.value });
  }
  for (const [result, side] of [
    [was, 'before'],
    [now, 'after'],
  ] as const) {
    for (const { offer, amount } of result.uses) {
      if (offer.id === draft.id) continue;
      const other = sums.others.get(offer.id) ?? { name: offer.name, before: 0, after: 0 };
      sums.others.set(offer.id, { ...other, [side]: other[side] + amount });
    }
  }
}

function addMoney(sums: RehearsalSums, lines: readonly PastLine[], was: OfferResult, now: OfferResult): void {
  lines.forEach(({ net, later, quantity, cost }, at) => {
    const off = (result: OfferResult) =>
      sum(result.parts.filter(({ line }) => line === at).map(({ amount }) => amount));
    const [before, after] = [net + later - off(was), net + later - off(now)];
    sums.net.before += before;
    sums.net.after += after;
    if (cost === null) {
      sums.costUnknown += 1;
      return;
    }
    const paid = lineAmount(cost, quantity);
    sums.margin.before += before - paid;
    sums.margin.after += after - paid;
  });
}

/** A line that was sold, with what was taken off it step by step. */
export interface SoldLine {
  goods: OfferLine['goods'];
  quantity: Quantity;
  decimals: number;
  regular: Money;
  records: readonly { kind: string; amount: Money }[];
  cost: Money | null;
}

/** A sold line as it stood when offers came to it: what was taken off before them, and what after. */
export function pastLine(
  { goods, quantity, decimals, regular, records, cost }: SoldLine,
  at: number,
): PastLine {
  const first = records.findIndex(({ kind }) => kind === 'offer' || kind === 'reward');
  const isOffer = ({ kind }: { kind: string }) => kind === 'offer' || kind === 'reward';
  const earlier = first < 0 ? records : records.slice(0, first);
  const later = first < 0 ? [] : records.slice(first).filter((record) => !isOffer(record));
  return {
    id: `line ${String(at).padStart(3, '0')}`,
    goods,
    quantity,
    counted: decimals === 0 && quantity % ONE === 0 && !records.some(({ kind }) => kind === 'label-price'),
    regular,
    net: regular + sum(earlier.map(({ amount }) => amount)),
    later: sum(later.map(({ amount }) => amount)),
    closed: false,
    cost,
  };
}
