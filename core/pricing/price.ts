import { sum, type Money } from '../money.ts';
import { applyOffers, type OfferMemory, type OfferResult } from '../offers/applyOffers.ts';
import { discountParts, type TypedDiscount } from './discount.ts';
import { openOffers, type OfferSituation } from '../offers/offer.ts';
import { pointsTakenOff, type PaidPoints, type PointsOff } from '../offers/pointsOff.ts';
import type { Work } from '../offers/offerTable.ts';
import type { OfferedGoods, OfferIndex, OfferLine } from '../offers/offerUnits.ts';
import { lineAmount, type Quantity } from '../quantity.ts';
import type { FixedFigures, PriceRecord } from './priceRecord.ts';
import { spread } from '../spread.ts';
import { swappedFigures } from './swap.ts';

import { addTaxes, computeTax, type TaxAmount, type TaxMode, type TaxRate, type TaxRounding } from './tax.ts';

export type { FixedFigures, PriceRecord };

export interface LineToPrice {
  id: string;
  quantity: Quantity;
  /** The item's own price of one unit. */
  listPrice: Money;
  /** The price of one unit for a group that the customer belongs to. */
  groupPrice?: { unitPrice: Money; group: string } | undefined;
  /** What the label on the goods asks for, whatever the quantity. */
  label?: { amount: Money } | undefined;
  /** A price somebody typed instead, with the reason. */
  typedPrice?: { unitPrice: Money; reason: string } | undefined;
  rates: readonly TaxRate[];
  /** What offers look at; goods without take part in none. */
  goods?: OfferedGoods | undefined;
  /** Sold in whole units, which offers count. */
  counted?: boolean | undefined;
  /** Closed to discounts and offers, whatever is typed. */
  closed?: boolean | undefined;
  /** Goods of an earlier sale that come back: what is refunded for them stands. */
  refund?: FixedFigures | undefined;
  /** What it costs before tax where that was promised. */
  promised?: Omit<FixedFigures, 'taxes'> | undefined;
  /** What comes back for it, where it is taken in exchange within a family. */
  swaps?: FixedFigures | undefined;
}

export interface PricedLine {
  id: string;
  unitPrice: Money;
  /** List price × quantity. */
  regular: Money;
  records: PriceRecord[];
  /** `regular` plus all records; without tax on top, with tax inside. */
  net: Money;
  taxes: TaxAmount[];
}

export interface PricedBasket {
  lines: PricedLine[];
  /** Sum of the lines' regular prices. */
  regular: Money;
  /** Sum of all records. */
  reductions: Money;
  taxes: TaxAmount[];
  taxMode: TaxMode;
  /** What the customer pays. */
  total: Money;
  /** The offers that apply. */
  offers: AppliedOffer[];
  /** So much more another choice among the offers may take off; zero where this one is proved the best. */
  notProved: Money;
  /** What is paid with points as money off; nothing where no points are. */
  pointsOff?: PaidPoints | undefined;
}

/** All points that a basket takes: for rewards, and for money off. */
export const pointsTaken = ({ offers, pointsOff }: Pick<PricedBasket, 'offers' | 'pointsOff'>): number =>
  sum(offers.map(({ points }) => points)) + (pointsOff?.points ?? 0);

/** An offer that applies to a basket. */
export interface AppliedOffer {
  id: number;
  name: string;
  uses: number;
  /** What it costs in points. */
  points: number;
  /** What it takes off, above zero. */
  amount: Money;
}

/** The shop's offers, and when, where and for whom the basket is priced. */
export interface Offering {
  index: OfferIndex;
  situation: OfferSituation;
  /** What may be done to find the best price, where others than the usual limits hold. */
  work?: Work;
  /** What was found for like goods. */
  memory?: OfferMemory;
}

export interface PricingRules {
  taxMode: TaxMode;
  taxRounding: TaxRounding;
}

/**
 * Prices a basket: unit prices (list, group, label or typed), typed discounts on lines, offers, typed discounts on the
 * basket, points as money off, then tax on what is left. The records of a line add up to the difference
 * between its regular and its net amount, to the minor unit. Does not depend on the order of the lines,
 * but for which line takes an odd cent of the tax.
 */
export function priceBasket(
  lines: readonly LineToPrice[],
  rules: PricingRules,
  discounts: readonly TypedDiscount[] = [],
  offering?: Offering,
): PricedBasket {
  const priced = lines.map((line): PricedLine => {
    if (line.refund) return { id: line.id, ...line.refund, records: [...line.refund.records] };
    if (line.promised)
      return { id: line.id, ...line.promised, records: [...line.promised.records], taxes: [] };
    const regular = lineAmount(line.listPrice, line.quantity);
    if (line.swaps) {
      const { records, net } = swappedFigures(regular, line.swaps, line.rates);
      return { id: line.id, unitPrice: line.listPrice, regular, records, net, taxes: [] };
    }
    const { unitPrice, record } = unitPriceOf(line, regular);
    const records = record && record.amount !== 0 ? [record] : [];
    return {
      id: line.id,
      unitPrice,
      regular,
      records,
      net: regular + sum(records.map(({ amount }) => amount)),
      taxes: [],
    };
  });
  for (const discount of discounts) if (discount.lineIds) takeOff(discount, priced, lines);
  const offered = offering ? applyOffering(offering, priced, lines) : NO_OFFERS;
  for (const discount of discounts) if (!discount.lineIds) takeOff(discount, priced, lines);
  const pointsOff = takePointsOff(offering?.situation.pointsOff, priced, lines);
  const swapped = lines.map(
    ({ swaps, rates }, at) => swaps && swappedFigures(priced[at]?.regular ?? 0, swaps, rates),
  );
  const taxable = priced.map(({ net }, at) => ({
    net: swapped[at]?.taxed ?? net,
    rates: lines[at]?.refund ? [] : (lines[at]?.rates ?? []),
  }));
  const tax = computeTax(taxable, rules.taxMode, rules.taxRounding);
  priced.forEach((line, at) => {
    if (!lines[at]?.refund) line.taxes = addTaxes([...(tax.lines[at] ?? []), ...(swapped[at]?.taxes ?? [])]);
  });
  const taxes = addTaxes([
    ...tax.totals,
    ...lines.flatMap(({ refund }) => refund?.taxes ?? []),
    ...swapped.flatMap((one) => one?.taxes ?? []),
  ]);
  const regular = sum(priced.map((line) => line.regular));
  const net = sum(priced.map((line) => line.net));
  return {
    lines: priced,
    regular,
    reductions: net - regular,
    taxes,
    taxMode: rules.taxMode,
    total: rules.taxMode === 'on-top' ? net + sum(taxes.map((amount) => amount.tax)) : net,
    offers: offered.uses.map(({ offer: { id, name, needs, points }, uses, amount }) => ({
      id,
      name,
      uses,
      points: needs === 'points' ? points * uses : 0,
      amount,
    })),
    notProved: offered.bound - offered.value,
    ...(pointsOff && { pointsOff }),
  };
}

const NO_OFFERS: OfferResult = { parts: [], uses: [], value: 0, bound: 0 };

/** Applies the shop's offers to lines whose unit prices and own discounts stand. */
function applyOffering(
  { index, situation, work, memory }: Offering,
  priced: PricedLine[],
  lines: readonly LineToPrice[],
): OfferResult {
  const result = applyOffers(
    offerLines(priced, lines),
    openOffers(index.offers, situation),
    index,
    work,
    memory,
  );
  for (const { line: at, offer, amount } of result.parts) {
    const line = priced[at];
    if (!line) continue;
    const kind = offer.needs === 'points' ? 'reward' : 'offer';
    line.records.push({ kind, amount: 0 - amount, why: offer.name, offerId: offer.id });
    line.net -= amount;
  }
  return result;
}

/** Lines as offers look at them. */
export function offerLines(priced: readonly PricedLine[], lines: readonly LineToPrice[]): OfferLine[] {
  return priced.map(({ id, regular, net }, at) => {
    const { goods, quantity = 0, counted = false, closed = false } = lines[at] ?? {};
    return {
      id,
      goods: goods ?? { itemId: 0, category: '' },
      quantity,
      counted,
      regular,
      net,
      closed: closed || goods === undefined || Boolean(lines[at]?.swaps),
    };
  });
}

/** Whether a line may be reduced: goods that come back, are swapped or are closed may not. */
const isOpen = (line: LineToPrice | undefined): boolean =>
  line !== undefined && !line.closed && !line.swaps && line.quantity > 0;

/** What points pay of the goods that may be reduced, spread over them by what they cost. */
function takePointsOff(
  wanted: PointsOff | undefined,
  priced: PricedLine[],
  lines: readonly LineToPrice[],
): PaidPoints | undefined {
  if (!wanted) return undefined;
  const on = priced.filter(({ net }, at) => net > 0 && isOpen(lines[at]));
  const nets = on.map(({ net }) => net);
  const paid = pointsTakenOff(sum(nets), wanted);
  if (paid.points === 0) return undefined;
  const parts = spread(paid.amount, nets);
  on.forEach((line, at) => {
    const part = parts[at] ?? 0;
    if (part === 0) return;
    line.records.push({ kind: 'points', amount: 0 - part, why: wanted.why });
    line.net -= part;
  });
  return paid;
}

function takeOff(discount: TypedDiscount, priced: PricedLine[], lines: readonly LineToPrice[]): void {
  const standing = priced.map(({ id, net }, at) => ({ id, net, open: isOpen(lines[at]) }));
  for (const { lineId, discountId, reason, amount } of discountParts(discount, standing)) {
    const line = priced.find(({ id }) => id === lineId);
    if (!line) continue;
    line.records.push({ kind: 'discount', amount, why: reason, discountId });
    line.net += amount;
  }
}

/** A typed price comes before what the label asks for, that before a group's price, where this is the lower one. */
function unitPriceOf(line: LineToPrice, regular: Money): { unitPrice: Money; record?: PriceRecord } {
  const { listPrice, groupPrice, label, typedPrice, quantity } = line;
  if (typedPrice) {
    const amount = lineAmount(typedPrice.unitPrice, quantity) - regular;
    return {
      unitPrice: typedPrice.unitPrice,
      record: { kind: 'typed-price', amount, why: typedPrice.reason },
    };
  }
  if (label) {
    const record = {
      kind: 'label-price',
      amount: label.amount - regular,
      why: 'Price on the label',
    } as const;
    return { unitPrice: listPrice, record };
  }
  if (groupPrice && groupPrice.unitPrice < listPrice) {
    const amount = lineAmount(groupPrice.unitPrice, quantity) - regular;
    return {
      unitPrice: groupPrice.unitPrice,
      record: { kind: 'group-price', amount, why: groupPrice.group },
    };
  }
  return { unitPrice: listPrice };
}
