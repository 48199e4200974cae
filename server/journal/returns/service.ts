import { DAY_MS, dayLater } from '../../../core/day.ts';
import type { RefundQuote, Returnable, WithoutReceipt } from '../../../contract/returns.ts';
import type { Basket } from '../../../core/counter/basket.ts';
import { returnProblem } from '../../../core/journal/afterTheSale.ts';
import { keptCost } from '../../../core/journal/reprice.ts';
import { receiptNumber } from '../../../core/journal/receiptNumber.ts';
import {
  keptParts,
  refundsFor,
  ReturnError,
  wayOf,
  type Refund,
  type ReturnedPart,
  type ReturnWay,
} from '../../../core/journal/returns.ts';
import type { FixedFigures } from '../../../core/pricing/price.ts';
import { indexOffers } from '../../../core/offers/offerUnits.ts';
import { businessDate, instant, iso, timeOfDay } from '../../clock.ts';
import type { Reader } from '../../db/database.ts';
import { Problem } from '../../http/problem.ts';
import { readShop } from '../../shop/store.ts';
import * as store from './store.ts';

/** A sale that goods may come back from, with the rules of the shop. */
export interface ReturnFacts {
  origin: store.Origin;
  receipt: string;
  late: boolean;
  /** What its offers ask for. */
  way: ReturnWay;
  timezone: string;
}

/** @throws Problem 404 */
export async function returnFacts(sql: Reader, saleId: string, at: Date): Promise<ReturnFacts> {
  const origin = await store.originOf(sql, saleId);
  if (!origin) throw new Problem('no-sale', 'There is no such sale.');
  const { timezone } = await readShop(sql);
  const { returnDays } = await store.returnRules(sql);
  const { sale, lines, offers } = origin;
  const last = dayLater(sale.businessDate, { days: returnDays });
  const used = new Set(
    lines.flatMap(({ records }) =>
      records.flatMap(({ offerId }) => (offerId === undefined ? [] : [offerId])),
    ),
  );
  return {
    origin,
    receipt: receiptNumber(sale.till, sale.count),
    late: businessDate(at, timezone) > last,
    way: wayOf(store.waysOf(offers, used)),
    timezone,
  };
}

/** What can come back from a sale, and under which rules. */
export function returnable({ origin, receipt, late, way }: ReturnFacts): Returnable {
  const { sale, lines } = origin;
  return {
    saleId: sale.id,
    receipt,
    soldAt: iso(sale.finishedAt),
    late,
    way,
    voided: sale.voided !== null,
    customer: sale.customer,
    lines: lines.map((line) => ({
      position: line.position,
      itemId: line.itemId,
      number: line.number,
      name: line.name,
      unit: line.unit,
      decimals: line.decimals,
      taxCategoryId: line.taxCategoryId,
      unitPrice: line.unitPrice,
      quantity: line.quantity,
      net: line.net,
      left: line.noGoods ? 0 : line.quantity - line.back.quantity,
      serial: line.serial,
      // A measured unit with its own label comes back whole.
      whole: line.serial !== null || line.label,
      why: line.noGoods
        ? 'Gift cards and deposits do not come back; void the sale in its shift, or cancel what was promised.'
        : '',
    })),
  };
}

/**
 * The refund of parts of a sale, the way that its offers ask for; of what is swapped, its share. @throws Problem 409
 * where more would come back than is left
 */
export function refundParts(
  facts: ReturnFacts,
  parts: readonly ReturnedPart[],
  way: ReturnWay | 'swap',
): Refund[] {
  const lines = facts.origin.lines.filter(({ noGoods }) => !noGoods);
  const asked = way === 'swap' ? 'share' : facts.way === 'ask' ? way : facts.way;
  const problem = returnProblem(facts.origin.sale);
  if (problem) throw new Problem('returned-meanwhile', `Sale ${facts.receipt}: ${problem}`);
  try {
    return refundsFor(lines, parts, asked === 're-price' ? costOfKept(facts, parts) : undefined);
  } catch (error) {
    if (!(error instanceof ReturnError)) throw error;
    throw new Problem('returned-meanwhile', `${error.message} Look at sale ${facts.receipt} again.`);
  }
}

/** What of a sale comes back in a basket, by the lines of the sale. */
export function partsOf({ lines }: Pick<Basket, 'lines'>, saleId: string): ReturnedPart[] {
  return lines.flatMap(({ quantity, comesBack }) =>
    comesBack?.sale?.saleId === saleId ? [{ position: comesBack.sale.position, quantity: 0 - quantity }] : [],
  );
}

/** Makes sure that what a basket brings back from a sale can still come back. @throws Problem 409 */
export async function checkStillThere(sql: Reader, basket: Basket, saleId: string, at: Date): Promise<void> {
  refundParts(await returnFacts(sql, saleId, at), partsOf(basket, saleId), 'share');
}

function costOfKept({ origin, timezone }: ReturnFacts, parts: readonly ReturnedPart[]): number {
  const { sale, lines, offers, unlocked } = origin;
  const at = instant(sale.finishedAt).toJSDate();
  const goods = lines
    .filter(({ noGoods }) => !noGoods)
    .map((line) => ({
      ...line,
      goods: { itemId: line.itemId, familyId: line.familyId ?? undefined, category: line.category },
      counted: line.decimals === 0 && !line.label,
    }));
  return keptCost(goods, keptParts(goods, parts), {
    index: indexOffers(store.plainOffers(offers)),
    situation: {
      day: sale.businessDate,
      time: timeOfDay(at, timezone),
      placeId: sale.placeId,
      customer: sale.hadCustomer,
      groups: sale.customerGroups,
      unlocked: new Map(unlocked.map(({ offerId, uses }) => [offerId, uses])),
      left: new Map(),
    },
  });
}

/** A refund as a line of a basket has it. */
export const figuresOf = (refund: Refund, unitPrice: number): FixedFigures => {
  const { regular, net, records, taxes } = refund;
  return { unitPrice, regular, net, records, taxes };
};

/** Both ways of refunding, side by side, where a person may choose. */
export function quote(facts: ReturnFacts, parts: readonly ReturnedPart[]): RefundQuote {
  const priceOf = new Map(facts.origin.lines.map(({ position, unitPrice }) => [position, unitPrice]));
  const worked = (way: Exclude<ReturnWay, 'ask'> | 'swap') =>
    refundParts(facts, parts, way).map((refund) => ({
      position: refund.position,
      figures: figuresOf(refund, priceOf.get(refund.position) ?? 0),
    }));
  const way = facts.way === 'ask' ? 'share' : facts.way;
  return {
    way,
    chosen: worked(way),
    other: facts.way === 'ask' ? worked('re-price') : null,
    swap: worked('swap'),
  };
}

/** How often a customer has brought goods back without a receipt, and how often is too often. */
export async function withoutReceipt(sql: Reader, customerId: number, at: Date): Promise<WithoutReceipt> {
  const { noReceiptDays: days, noReceiptWarning: warning } = await store.returnRules(sql);
  const since = new Date(at.getTime() - days * DAY_MS);
  return { ...(await store.returnsWithoutReceipt(sql, customerId, since)), days, warning };
}
