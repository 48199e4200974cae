import type { FigureProblem, FinishedSale, FinishSale, StoredBasket } from '../../contract/counter.ts';
import type { Person } from '../../contract/staff.ts';
import { presetNeeds } from '../../core/offers/discount.ts';
import {
  largeDiscounts,
  lineProblem,
  neededRights,
  takesOut,
  type Basket,
  type BasketCode,
  type BasketLine,
} from '../../core/counter/basket.ts';
import { situationOf } from '../../core/counter/offering.ts';
import { linesToPrice } from '../../core/counter/toPrice.ts';
import { labelAmount, labelQuantity, readEmbeddedCode } from '../../core/goods/embeddedCode.ts';
import { receiptNumber } from '../../core/journal/receiptNumber.ts';
import { saleEntries } from '../../core/ledger/entries.ts';
import { formatMoney, sum, type Money } from '../../core/money.ts';
import { sharesUses } from '../../core/offers/offer.ts';
import type { OfferedGoods, OfferIndex } from '../../core/offers/offerUnits.ts';
import { priceBasket, type PricedBasket } from '../../core/offers/price.ts';
import { ratesOn } from '../../core/offers/taxRates.ts';
import { change } from '../../core/payment/cash.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { RIGHTS, type Right } from '../../core/staff/rights.ts';
import { businessDate, timeOfDay } from '../clock.ts';
import { offersInForce } from '../offers/inForce.ts';
import { claimOffers, offerUses, usedUp } from '../offers/service.ts';
import { RAISED, sqlState, type Database, type Writer } from '../db/database.ts';
import type { SellableItem } from '../goods/store.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { isApproved } from '../staff/store.ts';
import * as store from './store.ts';

/** What a sale is priced from, the offers in force among it. */
interface Facts extends store.PricingFacts {
  offers: OfferIndex;
}

async function factsFor({ database }: House, person: Person, basket: Basket, at: Date): Promise<Facts> {
  const facts = await database.ask((sql) => store.pricingFacts(sql, person.tillId, basket, at));
  return { ...facts, offers: await offersInForce(database, facts.offerRevision) };
}

/** Stores the basket of a till. @throws Problem 409 when it was changed elsewhere or its sale is finished */
export async function saveBasket(
  sql: Writer,
  person: Person,
  { basket, revision }: StoredBasket,
  at: Date,
): Promise<{ revision: number }> {
  if (await store.isFinished(sql, basket.id)) {
    throw new Problem(409, 'sale-finished', 'This basket has been paid already.', {
      data: await store.basketOf(sql, person.tillId),
    });
  }
  // What was sent before it was held may arrive after it.
  if (await store.isHeld(sql, basket.id)) {
    throw new Problem(409, 'basket-held', 'This basket was put on hold.', {
      data: await store.basketOf(sql, person.tillId),
    });
  }
  await checkTakingOut(sql, person, basket);
  const stored = await store.putBasket(sql, person.tillId, basket, revision, at);
  if (stored === undefined) {
    throw new Problem(409, 'basket-changed', 'The basket was changed in another window of this till.', {
      data: await store.basketOf(sql, person.tillId),
    });
  }
  return { revision: stored };
}

/** Once payment has begun, goods leave the basket only with the right, or an approval for this very basket. */
async function checkTakingOut(sql: Writer, person: Person, basket: Basket): Promise<void> {
  const before = (await store.basketOf(sql, person.tillId))?.basket;
  if (before?.id !== basket.id || !before.paymentBegan) return;
  if (!basket.paymentBegan) throw fieldProblem('basket', 'The payment of this basket has begun.');
  if (person.rights.includes('line.remove-late') || !takesOut(before, basket)) return;
  if (await isApproved(sql, basket.id, 'line.remove-late')) return;
  throw countersignNeeded(person, 'line.remove-late', await store.basketOf(sql, person.tillId));
}

/**
 * Finishes a sale in cash: prices the basket again from the server's own data, then stores the sale, its tender,
 * stock moves, ledger entries and receipt in one transaction. The basket's id makes a repeat harmless.
 * @throws Problem 409 `figures-differ` with the right figures when the screen showed others; nothing is taken then
 */
export async function finishSale(house: House, person: Person, wanted: FinishSale): Promise<FinishedSale> {
  const { database, clock } = house;
  const { basket, handed } = wanted;
  if (basket.lines.length === 0) throw fieldProblem('basket', 'The basket is empty: scan something first.');
  const itemIds = [...new Set(basket.lines.map(({ itemId }) => itemId))];
  const at = clock.now();
  const facts = await factsFor(house, person, basket, at);
  if (facts.earlier) return earlierSale(basket.id, facts.tillNumber, facts.earlier);

  const items = new Map(facts.items.map((item) => [item.id, item]));
  const { lines, priced } = priceFromFacts(basket, facts, at);
  checkRights(person, basket, priced, facts);
  if (priced.total !== wanted.expectedTotal)
    throw figuresDiffer({ ...basket, lines }, priced, facts.currency);
  const { digits } = currencyOf(facts.currency);
  if (priced.total < 0) {
    throw fieldProblem('basket', 'More comes back than is bought: add what the customer takes instead.');
  }
  const back = change(handed, priced.total);
  if (back < 0) {
    const missing = formatMoney(-back, digits);
    throw fieldProblem('handed', `${formatMoney(handed, digits)} does not cover it: ${missing} is missing.`);
  }

  const stored = await finishStoring(database, {
    id: basket.id,
    tillId: person.tillId,
    placeId: facts.placeId,
    staffId: person.staffId,
    at: at.toISOString(),
    businessDate: businessDate(at, facts.timezone),
    currency: facts.currency,
    taxMode: priced.taxMode,
    regular: priced.regular,
    reductions: priced.reductions,
    tax: sum(priced.taxes.map(({ tax }) => tax)),
    total: priced.total,
    note: basket.note ?? '',
    customerId: basket.customer?.id ?? null,
    exemptReason: basket.exemption?.reason ?? null,
    exemptCertificate: basket.exemption?.certificate ?? '',
    lines: lines.map((line, at) => ({
      position: at + 1,
      ...line,
      note: line.note ?? '',
      gift: line.gift ?? false,
      ...pricesOf(priced, at),
      stocked: items.get(line.itemId)?.stocked ?? false,
    })),
    taxes: priced.taxes.map((tax, at) => ({ position: at + 1, ...tax })),
    tenders: priced.total > 0 ? [{ position: 1, kind: 'cash', amount: priced.total, handed }] : [],
    offerUses: offerUses(basket, priced, facts),
    entries: saleEntries({ tillId: person.tillId, total: priced.total, taxes: priced.taxes }),
  });
  if (!stored.again) void tellTills(house, person.tillId, basket.id, facts.placeId, itemIds);
  return {
    id: basket.id,
    number: receiptNumber(facts.tillNumber, stored.number),
    total: priced.total,
    handed,
    change: back,
  };
}

/** Holds what a basket uses of offers with limits, so that it is not promised twice. @throws Problem 409 `offer-used-up` */
export async function claimForBasket(house: House, person: Person, basket: Basket): Promise<void> {
  const at = house.clock.now();
  const facts = await factsFor(house, person, basket, at);
  const limited = new Set(facts.offers.offers.filter(sharesUses).map(({ id }) => id));
  if (facts.earlier || limited.size === 0) return;
  const { priced } = priceFromFacts(basket, facts, at);
  await house.database.write((sql) => claimOffers(sql, basket, priced, facts, at));
  // Other tills see at once what is left.
  if (priced.offers.some(({ id }) => limited.has(id))) house.events.tell({ kind: 'shop-changed' });
}

/** Stores the sale; what was taken elsewhere meanwhile is said in words, and nothing is stored. */
async function finishStoring(database: Database, sale: object): Promise<{ number: number; again: boolean }> {
  try {
    return await database.ask((sql) => store.finishSale(sql, sale));
  } catch (error) {
    if (sqlState(error) === RAISED.offerUsedUp) throw usedUp([(error as Error).message], []);
    throw error;
  }
}

/** Every step that not everybody may take needs the right, or an approval given for this very basket. */
function checkRights(person: Person, basket: Basket, priced: PricedBasket, facts: Facts): void {
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

function countersignNeeded(person: Person, right: Right, data: object | null = null): Problem {
  return new Problem(403, 'countersign-needed', `${person.name} may not do this alone: ${RIGHTS[right]}.`, {
    detail: 'Somebody with more rights can approve it here with their PIN.',
    data,
  });
}

function pricesOf(priced: PricedBasket, at: number) {
  const line = priced.lines[at];
  if (!line) throw new Error('a line was not priced');
  const { unitPrice, regular, net, records } = line;
  return { unitPrice, regular, net, records };
}

function earlierSale(id: string, tillNumber: number, earlier: store.EarlierSale): FinishedSale {
  const { total, handed } = earlier;
  return { id, number: receiptNumber(tillNumber, earlier.number), total, handed, change: handed - total };
}

/**
 * Names and prices of fixed-price items come from the server, what a label says is read again, and what comes back is
 * worth no more than the item's lowest price; a price that was asked for comes from the basket.
 */
function priceFromFacts(basket: Basket, facts: Facts, at: Date) {
  const items = new Map(facts.items.map((item) => [item.id, item]));
  if (!facts.customerKnown) throw fieldProblem('basket.customer', 'This customer is not known any more.');
  const lines = basket.lines.map((line, place): BasketLine => {
    const item = items.get(line.itemId);
    const field = `basket.lines[${place}]`;
    if (!item) throw fieldProblem(field, `${line.name} is no longer sold. Remove the line.`);
    const wrong = lineProblem(line, item);
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

function figuresDiffer(basket: Basket, priced: PricedBasket, currency: string): Problem {
  const data: FigureProblem = { basket, priced };
  return new Problem(409, 'figures-differ', 'A price has changed meanwhile. Nothing was taken.', {
    detail: `The total is now ${formatMoney(priced.total, currencyOf(currency).digits)}. Tell the customer, then take the payment.`,
    data,
  });
}

async function tellTills(house: House, tillId: number, saleId: string, placeId: number, itemIds: number[]) {
  house.events.tell({ kind: 'sale-finished', tillId, saleId });
  house.printing.wake();
  const levels = await house.database.ask((sql) => store.levelsAt(sql, placeId, itemIds));
  house.events.tell({ kind: 'stock-changed', placeId, levels });
}
