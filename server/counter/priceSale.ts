import type { FigureProblem } from '../../contract/counter.ts';
import type { Person } from '../../contract/staff.ts';
import {
  largeDiscounts,
  lineProblem,
  neededRights,
  type Basket,
  type BasketCode,
  type BasketLine,
} from '../../core/counter/basket.ts';
import { situationOf } from '../../core/counter/offering.ts';
import { linesToPrice } from '../../core/counter/toPrice.ts';
import { labelAmount, labelQuantity, readEmbeddedCode } from '../../core/goods/embeddedCode.ts';
import { formatMoney, type Money } from '../../core/money.ts';
import { presetNeeds } from '../../core/offers/discount.ts';
import type { OfferedGoods, OfferIndex } from '../../core/offers/offerUnits.ts';
import { priceBasket, type PricedBasket } from '../../core/offers/price.ts';
import { ratesOn } from '../../core/offers/taxRates.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { RIGHTS, type Right } from '../../core/staff/rights.ts';
import { businessDate, timeOfDay } from '../clock.ts';
import type { SellableItem } from '../goods/store.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { offersInForce } from '../offers/inForce.ts';
import * as store from './store.ts';

/** What a sale is priced from, the offers in force among it. */
export interface Facts extends store.PricingFacts {
  offers: OfferIndex;
}

/** Reads everything that a basket is priced by. */
export async function factsFor(
  { database }: House,
  person: Pick<Person, 'tillId'>,
  basket: Basket,
  at: Date,
): Promise<Facts> {
  const facts = await database.ask((sql) => store.pricingFacts(sql, person.tillId, basket, at));
  return { ...facts, offers: await offersInForce(database, facts.offerRevision) };
}

/** Every step that not everybody may take needs the right, or an approval given for this very basket. */
export function checkRights(person: Person, basket: Basket, priced: PricedBasket, facts: Facts): void {
  const open = new Set(facts.items.filter(({ price }) => price === null).map(({ id }) => id));
  const { presets, discountLimits } = facts;
  for (const discount of basket.discounts ?? []) {
    const preset = presets.find(({ id }) => id === discount.presetId);
    const needs =
      preset &&
      presetNeeds(preset, basket.customer ? { ...basket.customer, groups: facts.customerGroups } : null);
    if (needs) throw fieldProblem('basket.discounts', needs);
  }
  const needed = [
    ...neededRights(basket, open, facts.openPriceLimit),
    ...largeDiscounts(basket, priced, discountLimits[person.role], presets),
  ];
  for (const { right, countersign } of needed) {
    const approved = facts.countersigns.some((given) => given.id === countersign && given.right === right);
    if (!approved && !person.rights.includes(right)) throw countersignNeeded(person, right);
  }
}

/** Says that a step needs somebody with more rights. */
export function countersignNeeded(person: Person, right: Right, data: object | null = null): Problem {
  return new Problem(403, 'countersign-needed', `${person.name} may not do this alone: ${RIGHTS[right]}.`, {
    detail: 'Somebody with more rights can approve it here with their PIN.',
    data,
  });
}

/**
 * Names and prices of fixed-price items come from the server, what a label says is read again, and what comes back is
 * worth no more than the item's lowest price; a price that was asked for comes from the basket.
 */
export function priceFromFacts(basket: Basket, facts: Facts, at: Date) {
  const items = new Map(facts.items.map((item) => [item.id, item]));
  if (!facts.customerKnown) throw fieldProblem('basket.customer', 'This customer is not known any more.');
  const lines = basket.lines.map((line, place): BasketLine => {
    const item = items.get(line.itemId);
    const field = `basket.lines[${place}]`;
    if (!item) throw fieldProblem(field, `${line.name} is no longer sold. Remove the line.`);
    const wrong = lineProblem(line, { ...item, sellsValue: item.id === facts.giftCardItemId });
    if (wrong) throw fieldProblem(field, wrong);
    const { number, name, unit, decimals, taxCategoryId } = item;
    const fresh = {
      ...line,
      number,
      name,
      unit,
      decimals,
      taxCategoryId,
      listPrice: priceOf(line, item, facts),
    };
    return line.label ? { ...fresh, ...labelAgain(line.label.code, field, item, facts.codeLayouts) } : fresh;
  });
  const day = businessDate(at, facts.timezone);
  const checked = { ...basket, lines, codes: knownCodes(basket, facts) };
  const situation = situationOf(checked, facts.offers.offers, {
    day,
    time: timeOfDay(at, facts.timezone),
    placeId: facts.placeId,
    used: facts.offerCounts,
    customer: basket.customer
      ? { groups: facts.customerGroups, points: facts.points, offerUses: facts.customerUses }
      : null,
  });
  const goodsOf = (itemId: number): OfferedGoods | undefined => {
    const item = items.get(itemId);
    return item && { itemId, familyId: item.familyId ?? undefined, category: item.category };
  };
  const priced = priceBasket(
    linesToPrice(checked, { rates: ratesOn(facts.rates, day), groupPrices: facts.groupPrices, goodsOf }),
    facts,
    basket.discounts,
    { index: facts.offers, situation },
  );
  return { lines, priced };
}

/** The basket's codes that open what they say; others are left out, and the figures differ. */
const knownCodes = ({ codes = [] }: Basket, { codes: known }: Facts): BasketCode[] =>
  known.filter(({ code }) => codes.some((one) => one.code === code));

function priceOf(line: BasketLine, item: SellableItem, { returnPrices }: Facts): Money {
  const known = item.price ?? line.listPrice;
  if (line.quantity > 0) return known;
  return returnPrices.find(({ itemId }) => itemId === item.id)?.price ?? known;
}

/** What a label with a price or weight inside says, read on the server. @throws Problem 422 when it is another item's */
function labelAgain(code: string, field: string, item: SellableItem, layouts: readonly string[]) {
  const read = readEmbeddedCode(code, layouts);
  const amount = labelAmount(code, item, layouts);
  if (!read || amount === null || !item.codes.includes(read.itemCode)) {
    throw fieldProblem(field, `The label of ${item.name} cannot be read. Scan it again.`);
  }
  return { label: { code, amount }, quantity: labelQuantity(read, item) };
}

/** The screen showed another total: the right figures come along, and nothing is taken. */
export function figuresDiffer(basket: Basket, priced: PricedBasket, currency: string): Problem {
  const data: FigureProblem = { basket, priced };
  return new Problem(409, 'figures-differ', 'A price has changed meanwhile. Nothing was taken.', {
    detail: `The total is now ${formatMoney(priced.total, currencyOf(currency).digits)}. Tell the customer, then take the payment.`,
    data,
  });
}
