import { isDeepStrictEqual } from 'node:util';
import type { FigureProblem } from '../../contract/counter.ts';
import type { Person } from '../../contract/staff.ts';
import {
  lineProblem,
  type MoneyPart,
  type Basket,
  type BasketCode,
  type BasketLine,
} from '../../core/counter/basket.ts';
import { accountMoneyName, accountMoneyProblem } from '../../core/counter/accountLines.ts';
import { largeDiscounts, largeRefund, neededRights, waivedFees } from '../../core/counter/neededRights.ts';
import { situationOf } from '../../core/counter/offering.ts';
import { promiseChanges, promisedAgain, type PromiseInBasket } from '../../core/counter/promisedLines.ts';
import { isSwap, linesToPrice, type PriceFacts } from '../../core/counter/toPrice.ts';
import { labelAmount, labelQuantity, readEmbeddedCode } from '../../core/goods/embeddedCode.ts';
import { formatMoney, type Money } from '../../core/money.ts';
import { presetNeeds } from '../../core/pricing/discount.ts';
import type { OfferedGoods, OfferIndex } from '../../core/offers/offerUnits.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import { ratesOn } from '../../core/pricing/taxRates.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { holdsMoney } from '../../core/payment/tender.ts';
import { approvalProblem, type Approval } from '../../core/staff/approval.ts';
import { businessDate, instant, timeOfDay } from '../clock.ts';
import type { SellableItem } from '../goods/store.ts';
import type { House } from '../house.ts';
import type { Asked } from '../http/answerStore.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import {
  figuresOf,
  partsOf,
  refundParts,
  returnFacts,
  type ReturnFacts,
} from '../journal/returns/service.ts';
import { offersInForce } from '../offers/inForce.ts';
import { accountsInBasket, type AccountInBasket } from '../people/accountStore.ts';
import { promisesInBasket } from '../promises/store.ts';
import { asStored } from '../tenders/begin.ts';
import type { BegunFigures, PaymentRow } from '../tenders/store.ts';
import { countersignNeeded, takerOf } from '../staff/approval.ts';
import * as store from './store.ts';

/** What a sale is priced from, the offers in force among it. */
export interface Facts extends store.PricingFacts {
  offers: OfferIndex;
  /** Promises that the basket touches, by their id. */
  promises: ReadonlyMap<string, PromiseInBasket>;
  /** House accounts that money in the basket is for, by their id. */
  accounts: ReadonlyMap<number, AccountInBasket>;
  /** Sales that goods in the basket come back from, by their id. */
  returns: ReadonlyMap<string, ReturnFacts>;
}

/** The payment of a basket that holds money, or may: what the basket came to when it began stands until it is over. */
function begunPayment({ payment, tenders }: Facts): PaymentRow | null {
  return payment?.state === 'open' && tenders.some(({ state }) => holdsMoney(state)) ? payment : null;
}

/**
 * What a basket comes to. Once money is held for it, that is what it came to when its payment began; where it was
 * changed since, it is priced by that moment.
 */
export async function figuresFor(
  house: House,
  basket: Basket,
  facts: Facts,
  at: Date,
): Promise<BegunFigures> {
  const begun = begunPayment(facts);
  if (!begun?.figures) return priceFromFacts(house, basket, facts, at);
  if (isDeepStrictEqual(begun.basket, asStored(basket))) return begun.figures;
  return priceFromFacts(house, basket, facts, instant(begun.beganAt).toJSDate(), begun.figures.lines);
}

/** Reads everything that a basket is priced by. @param asked the request that it is for, where it is one */
export async function factsFor(
  { database }: House,
  person: Pick<Person, 'tillId'>,
  basket: Basket,
  at: Date,
  asked?: Asked,
): Promise<Facts> {
  const facts = await database.ask((sql) => store.pricingFacts(sql, person.tillId, basket, at, asked?.key));
  const origins = [...new Set(basket.lines.flatMap(({ comesBack }) => comesBack?.sale?.saleId ?? []))];
  const returns = new Map<string, ReturnFacts>();
  for (const id of origins) returns.set(id, await database.ask((sql) => returnFacts(sql, id, at)));
  const touched = [...new Set(basket.lines.flatMap(({ promised }) => promised?.promiseId ?? []))];
  const promises = await database.ask((sql) => promisesInBasket(sql, touched, facts.placeId));
  const charged = [...new Set(basket.lines.flatMap(({ account }) => account?.accountId ?? []))];
  const accounts = await database.ask((sql) => accountsInBasket(sql, charged));
  return {
    ...facts,
    returns,
    promises,
    accounts,
    offers: await offersInForce(database, facts.offerRevision),
  };
}

/**
 * Every step that not everybody may take needs the right, or an approval that was given for just this step of this very
 * basket. @returns approvals that are used by it. @throws Problem 403 `countersign-needed`, 422 for a preset's
 * conditions
 */
export function checkRights(
  person: Person,
  basket: Basket,
  priced: PricedBasket,
  facts: Facts,
  at: Date,
): Approval[] {
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
    ...largeRefund(basket, priced, facts.refundLimits[person.role]),
    ...waivedFees(basket, facts.promises),
  ].filter(({ right }) => !person.rights.includes(right));
  const used: Approval[] = [];
  for (const { right, countersign } of needed) {
    // What rests on one approval is judged together: it was given once.
    const steps = needed
      .filter((one) => one.right === right && one.countersign === countersign)
      .map(({ step }) => step);
    const approval = facts.countersigns.find(({ id }) => id === countersign);
    const problem = approvalProblem(approval, right, steps, takerOf(person, basket.id, at));
    if (problem) {
      const { digits } = currencyOf(facts.currency);
      throw countersignNeeded(person, { right, about: basket.id, steps }, problem, digits);
    }
    if (approval?.usedFor === null) used.push(approval);
  }
  return used;
}

/**
 * Names and prices of fixed-price items come from the server, what a label says is read again, and what comes back is
 * worth no more than the item's lowest price; a price that was asked for comes from the basket.
 * @param begun lines whose payment has begun: they keep their prices
 */
export async function priceFromFacts(
  { pricing }: Pick<House, 'pricing'>,
  basket: Basket,
  facts: Facts,
  at: Date,
  begun: readonly BasketLine[] = [],
): Promise<BegunFigures> {
  const items = new Map(facts.items.map((item) => [item.id, item]));
  if (!facts.customerKnown) throw fieldProblem('basket.customer', 'This customer is not known any more.');
  const goodsOf = (itemId: number): OfferedGoods | undefined => {
    const item = items.get(itemId);
    return item && { itemId, familyId: item.familyId ?? undefined, category: item.category };
  };
  const refunds = refundsOf(basket, facts, goodsOf);
  const promised = promisedAgain(basket.lines, facts.promises, currencyOf(facts.currency).digits);
  if (typeof promised === 'string') throw fieldProblem('basket', promised);
  const lines = basket.lines.map((asked, place): BasketLine => {
    const line = promised.get(asked.id) ?? accountLine(asked, facts, basket.lines);
    // What was promised is handed over, whatever became of the item since.
    if (line.promised?.part === 'goods') return line;
    const item = items.get(line.itemId);
    const field = `basket.lines[${place}]`;
    const back = refunds.get(line.id);
    if (back) return back;
    // Money of a promise is rung up as an item that is not sold by itself.
    if (!item || (!item.active && !line.promised && !line.account))
      throw fieldProblem(field, `${line.name} is no longer sold. Remove the line.`);
    const wrong = lineProblem(line, {
      ...item,
      sellsValue: item.id === facts.giftCardItemId,
      standsFor: moneyPart(item.id, facts),
    });
    if (wrong) throw fieldProblem(field, wrong);
    const { number, name, unit, decimals, taxCategoryId } = item;
    const fresh = {
      ...line,
      number,
      // Money of a promise, or for an account, says which.
      name: line.promised || line.account ? line.name : name,
      unit,
      decimals,
      taxCategoryId,
      listPrice: begun.find(({ id }) => id === line.id)?.listPrice ?? priceOf(line, item, facts),
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
    points: facts.pointsRate,
  });
  const { taxMode, taxRounding, groupPrices } = facts;
  const priced = await pricing.price(
    {
      lines: linesToPrice(checked, { rates: ratesOn(facts.rates, day), groupPrices, goodsOf }),
      rules: { taxMode, taxRounding },
      discounts: basket.discounts ?? [],
      situation,
    },
    facts.offers,
  );
  const changes = promiseChanges(lines, priced);
  if (typeof changes === 'string') throw fieldProblem('basket', changes);
  return { lines, priced, codes: checked.codes };
}

const moneyPart = (itemId: number, facts: Facts): MoneyPart | null => {
  if (itemId === facts.depositItemId) return 'deposit';
  if (itemId === facts.feeItemId) return 'fee';
  return itemId === facts.accountItemId ? 'account' : null;
};

/** Money for a house account, with the name of today. @throws Problem 422 where it cannot be */
function accountLine(
  line: BasketLine,
  { accounts, currency }: Facts,
  lines: readonly BasketLine[],
): BasketLine {
  if (!line.account) return line;
  const { accountId } = line.account;
  const account = accounts.get(accountId);
  const problem = accountMoneyProblem(lines, accountId, account?.owed, currencyOf(currency).digits);
  if (problem || !account) throw fieldProblem('basket', problem ?? line.name);
  return {
    ...line,
    name: accountMoneyName(account.name, line.listPrice),
    account: { ...line.account, name: account.name },
  };
}

/** Lines of earlier sales that come back, worked out again: what the browser says of them counts for nothing. */
function refundsOf(
  { lines }: Basket,
  { returns }: Facts,
  goodsOf: PriceFacts['goodsOf'],
): Map<string, BasketLine> {
  const found = new Map<string, BasketLine>();
  const known = lines.map((line): BasketLine => {
    const from = line.comesBack?.sale;
    const origin = from && returns.get(from.saleId)?.origin.lines;
    const sold = origin?.find(({ position }) => position === from?.position);
    return sold ? { ...line, itemId: sold.itemId } : line;
  });
  for (const [saleId, facts] of returns) {
    const mine = lines.filter(({ comesBack }) => comesBack?.sale?.saleId === saleId);
    const way = mine[0]?.comesBack?.sale?.way ?? 'share';
    const parts = partsOf({ lines }, saleId);
    if (new Set(parts.map(({ position }) => position)).size < parts.length) {
      throw fieldProblem('basket', `A line of sale ${facts.receipt} comes back twice. Take one out.`);
    }
    const refunds = refundParts(facts, parts, isSwap(known, saleId, goodsOf) ? 'swap' : way);
    mine.forEach((line, at) => {
      const refund = refunds[at];
      const origin = facts.origin.lines.find(({ position }) => position === refund?.position);
      if (!refund || !origin || !line.comesBack?.sale) throw new Error('a refund has no line');
      if (origin.serial !== (line.serial ?? null)) {
        throw fieldProblem(
          'basket',
          `${origin.name} was sold with the serial number ${origin.serial ?? ''}.`,
        );
      }
      const { itemId, number, name, unit, decimals, taxCategoryId, unitPrice } = origin;
      found.set(line.id, {
        ...line,
        itemId,
        number,
        name,
        unit,
        decimals,
        taxCategoryId,
        listPrice: unitPrice,
        comesBack: {
          ...line.comesBack,
          sale: {
            ...line.comesBack.sale,
            receipt: facts.receipt,
            late: facts.late,
            figures: figuresOf(refund, unitPrice),
          },
        },
      });
    });
  }
  return found;
}

/** The basket's codes that open what they say; others are left out, and the figures differ. */
const knownCodes = ({ codes = [] }: Basket, { codes: known }: Facts): BasketCode[] =>
  known.filter(({ code }) => codes.some((one) => one.code === code));

function priceOf(line: BasketLine, item: SellableItem, { returnPrices }: Facts): Money {
  const known = item.price ?? line.listPrice;
  if (line.quantity > 0) return known;
  return returnPrices.find(({ itemId }) => itemId === item.id)?.price ?? known;
}

/**
 * What a label with a price or weight inside says, read on the server. @throws Problem 422 when it is another item's
 */
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
  return new Problem('figures-differ', 'A price has changed meanwhile. Nothing was taken.', {
    detail: `The total is now ${formatMoney(priced.total, currencyOf(currency).digits)}. Tell the customer, then take the payment.`,
    data,
  });
}
