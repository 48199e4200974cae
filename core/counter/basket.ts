import { counted } from '../locale.ts';
import { kindOf, type Item, type ItemKind } from '../goods/item.ts';
import { sum, type Money } from '../money.ts';
import type { TypedDiscount } from '../pricing/discount.ts';
import type { Condition, ReturnWay } from '../journal/returns.ts';
import type { FixedFigures, PricedBasket } from '../pricing/price.ts';
import { isDeposit, type Promised } from '../promises/promised.ts';
import { MOST, ONE, type Quantity } from '../quantity.ts';

/** One row of a basket. Item facts are copied so that a basket can be shown before the catalogue is there. */
export interface BasketLine {
  id: string;
  itemId: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  taxCategoryId: number;
  quantity: Quantity;
  listPrice: Money;
  /** Another price of one unit, with the reason, and who approved it where the cashier may not. */
  typedPrice?: { unitPrice: Money; reason: string; countersign?: string | undefined } | undefined;
  /** The serial number of the one unit. */
  serial?: string | undefined;
  /** What a label with a price or weight inside says; the server reads the code again. */
  label?: { code: string; amount: Money } | undefined;
  /** Somebody has checked that the customer is old enough. */
  ageChecked?: boolean | undefined;
  /** The bundle it was rung up with. */
  bundle?: string | undefined;
  /** Who approved that goods come back without their receipt. */
  returnCountersign?: string | undefined;
  /** Why goods come back, what becomes of them, and the sale they are from where it is known. */
  comesBack?: ComesBack | undefined;
  /** The line that comes back for this one: it takes over what was taken off that. */
  swaps?: string | undefined;
  /** Who approved an open price above the limit. */
  openPriceCountersign?: string | undefined;
  /** The gift card or certificate that is sold or topped up; active once it is paid for. */
  storedValue?: SoldValue | undefined;
  /** What it has to do with a promise: goods that are handed over, or the money that is held for it. */
  promised?: Promised | undefined;
  /** Money that is paid onto a house account, or paid out of it. */
  account?: AccountMoney | undefined;
  note?: string | undefined;
  /** Goes on the gift receipt, which has no prices. */
  gift?: boolean | undefined;
}

/** Goods that come back. */
export interface ComesBack {
  reason: string;
  condition: Condition;
  sale?: ReturnedFrom | undefined;
}

/** The line of an earlier sale that goods come back from. */
export interface ReturnedFrom {
  saleId: string;
  /** Receipt number as printed. */
  receipt: string;
  position: number;
  way: Exclude<ReturnWay, 'ask'>;
  /** What is refunded, as the server has worked it out; amounts below zero. */
  figures: FixedFigures;
  /** The time for returns has passed: somebody has to approve it. */
  late: boolean;
  countersign?: string | undefined;
}

/** A gift card or certificate as it is sold. */
export interface SoldValue {
  number: string;
  kind: 'gift-card' | 'certificate';
  /** More on a card that is in use already. */
  topUp?: boolean | undefined;
  /** Where an electronic one is sent. */
  mail?: string | undefined;
}

/** The house account that money is for. */
export interface AccountMoney {
  accountId: number;
  /** Whose it is. */
  name: string;
  /** Charges that are paid first; without them, the oldest. */
  items?: number[] | undefined;
}

/** Why a sale is without tax. */
export interface Exemption {
  reason: string;
  /** Number of the certificate that was shown, if any. */
  certificate: string;
  countersign?: string | undefined;
}

/** Who the goods are for. */
export interface BasketCustomer {
  id: number;
  name: string;
}

/** A code for an offer. */
export interface BasketCode {
  code: string;
  offerId: number;
  /** Opens the offer for one use only. */
  single: boolean;
}

/** Goods being rung up. The id becomes the id of the sale, so that finishing twice is finishing once. */
export interface Basket {
  id: string;
  lines: BasketLine[];
  customer?: BasketCustomer | undefined;
  /** What somebody takes off, in the order in which it was given. */
  discounts?: TypedDiscount[] | undefined;
  /** Codes that were shown, each for the offer that it opens. */
  codes?: BasketCode[] | undefined;
  /** Offers that are to be paid with points, once for each use. */
  rewards?: number[] | undefined;
  /** Points that the customer gives for money off, as far as the goods and their points go. */
  pointsOff?: number | undefined;
  /** What the customer gives to a fund, so that the total is a round one. */
  roundUp?: { fundId: number; fund: string; amount: Money } | undefined;
  /** From here on, taking a line out needs a right. */
  paymentBegan?: boolean | undefined;
  note?: string | undefined;
  exemption?: Exemption | undefined;
  /** Who approved that more is refunded than the cashier may alone. */
  refundCountersign?: string | undefined;
}

/** So many lines a basket holds: what is more is another sale. */
export const MOST_LINES = 500;

/** Says why a step on a basket cannot be done, in words for the cashier. */
export class BasketError extends Error {}

/** What comes with an item when it is added, because it was asked for or stood on the label. */
export interface Given extends Pick<
  BasketLine,
  | 'openPriceCountersign'
  | 'serial'
  | 'label'
  | 'storedValue'
  | 'ageChecked'
  | 'bundle'
  | 'note'
  | 'returnCountersign'
  | 'comesBack'
  | 'swaps'
> {
  /** The price of one unit, where the item has none of its own or the goods come back. */
  unitPrice?: Money | undefined;
}

/**
 * Adds an item: more of the line that has the same item at the same price and nothing special about it, else a new
 * line.
 * @param lineId the id for a new line
 * @param quantity below zero where goods come back
 * @returns the basket with the item and the line that it is on
 */
export function addItem(
  basket: Basket,
  item: Item,
  { lineId, quantity = ONE, unitPrice, ...given }: { lineId: string; quantity?: Quantity } & Given,
): { basket: Basket; lineId: string } {
  const comesBack = quantity < 0;
  const price = comesBack ? unitPrice : (item.price ?? unitPrice ?? given.label?.amount);
  if (kindOf(item) !== 'goods') throw new BasketError(`${item.name}: choose what to ring up.`);
  if (price === undefined) throw new BasketError(`${item.name} has no fixed price: type its price.`);
  const line: BasketLine = {
    id: lineId,
    itemId: item.id,
    number: item.number,
    name: item.name,
    unit: item.unit,
    decimals: item.decimals,
    taxCategoryId: item.taxCategoryId,
    quantity,
    listPrice: price,
    ...given,
  };
  const discounted = new Set(basket.discounts?.flatMap(({ lineIds }) => lineIds ?? []));
  const mergeable = basket.lines.filter(({ id }) => !discounted.has(id));
  const same = item.price === null ? undefined : mergeable.find((other) => canMerge(other, line));
  if (same) return { basket: setQuantity(basket, same.id, same.quantity + quantity), lineId: same.id };
  if (line.serial) checkSerialOnce(basket, line);
  const { storedValue } = line;
  if (storedValue && basket.lines.some((one) => one.storedValue?.number === storedValue.number)) {
    throw new BasketError(`${storedValue.number} is in the basket already.`);
  }
  checkQuantity(line, quantity);
  return { basket: { ...basket, lines: [...basket.lines, line] }, lineId };
}

function canMerge(line: BasketLine, fresh: BasketLine): boolean {
  return (
    line.itemId === fresh.itemId &&
    line.listPrice === fresh.listPrice &&
    line.bundle === fresh.bundle &&
    [line, fresh].every(
      (one) =>
        !one.typedPrice &&
        !one.note &&
        !one.gift &&
        !one.serial &&
        !one.label &&
        !one.swaps &&
        !one.promised &&
        !one.account &&
        one.quantity > 0,
    )
  );
}

function checkSerialOnce(basket: Basket, { itemId, serial, name }: BasketLine): void {
  if (basket.lines.some((line) => line.itemId === itemId && line.serial === serial)) {
    throw new BasketError(`${name} ${serial ?? ''} is in the basket already.`);
  }
}

/**
 * What keeps a line from being sold as it is, in words for the cashier; `null` when nothing does.
 * @param item what the shop says of it now
 */
export function lineProblem(
  line: BasketLine,
  item: {
    kind: ItemKind;
    serials: boolean;
    minAge: number | null;
    sellsValue: boolean;
    /** What it stands for where it is no goods. */
    standsFor?: MoneyPart | null;
  },
): string | null {
  if ((item.standsFor ?? null) !== standsFor(line))
    return `${line.name} is not sold by itself. Remove the line, and take it from Waiting or People.`;
  if (item.kind !== 'goods')
    return `${line.name} cannot be sold itself. Remove the line and choose what it stands for.`;
  if (item.serials && !line.serial)
    return `${line.name} needs its serial number. Remove the line and ring it up again.`;
  if (line.serial && Math.abs(line.quantity) !== ONE)
    return `${line.name} has a serial number: one unit on each line.`;
  if (item.sellsValue !== Boolean(line.storedValue))
    return `${line.name} needs the number of the card. Remove the line and sell the gift card again.`;
  if (line.storedValue && (line.quantity !== ONE || line.typedPrice))
    return `${line.name}: one card on each line, at the amount that is put on it.`;
  if (item.minAge !== null && !line.ageChecked)
    return `${line.name} is sold from ${item.minAge} years on. Remove the line, and ring it up again to check the age.`;
  return null;
}

/** Changes what is typed about a line: its price, its note, its gift mark. */
export function changeLine(
  basket: Basket,
  lineId: string,
  change: Partial<Pick<BasketLine, 'typedPrice' | 'note' | 'gift' | 'listPrice' | 'serial'>>,
): Basket {
  return {
    ...basket,
    lines: basket.lines.map((line) => (line.id === lineId ? { ...line, ...change } : line)),
  };
}

/** Sets the quantity of a line. @throws BasketError when the item does not come in that quantity */
export function setQuantity(basket: Basket, lineId: string, quantity: Quantity): Basket {
  return {
    ...basket,
    lines: basket.lines.map((line) => {
      if (line.id !== lineId) return line;
      checkQuantity(line, quantity);
      return { ...line, quantity };
    }),
  };
}

/** What is refunded for those of some lines of a basket that come back, deposits among them, with their tax. */
export function refunded({ lines }: Pick<Basket, 'lines'>, priced: PricedBasket): Money {
  const figuresOf = new Map(priced.lines.map((line) => [line.id, line]));
  return sum(
    lines.map(({ id, quantity, promised }) => {
      const figures = figuresOf.get(id);
      const comesBack = quantity < 0 || promised?.part === 'back' || promised?.part === 'fee';
      if (!comesBack || !figures) return 0;
      const tax = priced.taxMode === 'on-top' ? sum(figures.taxes.map((amount) => amount.tax)) : 0;
      return 0 - figures.net - tax;
    }),
  );
}

/** Puts goods of an earlier sale that come back into a basket, in the place of what came back from it before. */
export function putReturn(basket: Basket, saleId: string, lines: readonly BasketLine[]): Basket {
  const others = basket.lines.filter((line) => line.comesBack?.sale?.saleId !== saleId);
  return { ...basket, lines: [...others, ...lines] };
}

/** Money that is no goods: held for a promise, a fee that is kept of that, or money for a house account. */
export type MoneyPart = 'deposit' | 'fee' | 'account';

/** Whether a line is money and no goods: of a promise, or for a house account. */
export const isMoney = ({ promised, account }: Pick<BasketLine, 'promised' | 'account'>): boolean =>
  account !== undefined || (promised !== undefined && promised.part !== 'goods');

/** What a line stands for, where it is no goods. */
function standsFor({ promised, account }: BasketLine): MoneyPart | null {
  if (account) return 'account';
  if (promised?.part === 'fee') return 'fee';
  return isDeposit(promised?.part) ? 'deposit' : null;
}

/** Takes lines out. What a promise has brought belongs together and goes together. */
export function removeLines(basket: Basket, lineIds: ReadonlySet<string>): Basket {
  const promises = new Set(
    basket.lines.flatMap(({ id, promised }) => (lineIds.has(id) && promised ? promised.promiseId : [])),
  );
  const lines = basket.lines.filter(
    ({ id, promised }) => !lineIds.has(id) && !(promised && promises.has(promised.promiseId)),
  );
  // A discount goes with the last of its lines.
  const discounts = basket.discounts?.filter(
    (discount) => discount.lineIds?.some((id) => lines.some((line) => line.id === id)) ?? lines.length > 0,
  );
  return { ...basket, lines, ...(basket.discounts && { discounts }) };
}

/** Puts lines that were taken out back where they were; what has changed or come since stays. */
export function restoreLines(now: Basket, before: Basket): Basket {
  const current = new Map(now.lines.map((line) => [line.id, line]));
  const known = new Set(before.lines.map(({ id }) => id));
  return {
    ...now,
    ...(before.discounts && { discounts: before.discounts }),
    lines: [
      ...before.lines.map((line) => current.get(line.id) ?? line),
      ...now.lines.filter(({ id }) => !known.has(id)),
    ],
  };
}

/** The smallest step of a quantity with so many decimals, in thousandths. */
export function quantityStep(decimals: number): Quantity {
  return ONE / 10 ** decimals;
}

function checkQuantity(line: BasketLine, quantity: Quantity): void {
  if (line.quantity * quantity <= 0)
    throw new BasketError('The quantity must be more than zero. Remove the line instead.');
  if (line.serial && Math.abs(quantity) !== ONE)
    throw new BasketError(`${line.name} has a serial number: ring up each one by itself.`);
  if (line.comesBack?.sale && quantity !== line.quantity)
    throw new BasketError(`${line.name} comes back from a sale: choose how many on its return.`);
  if (line.storedValue && quantity !== line.quantity)
    throw new BasketError(`${line.name} has a number: sell each card by itself.`);
  if (line.account && quantity !== line.quantity)
    throw new BasketError(`${line.name}: take the line out, and type another amount.`);
  if (line.promised && quantity !== line.quantity)
    throw new BasketError(`${line.name} belongs to ${line.promised.number}: choose how many under Waiting.`);
  if (line.label && quantity !== line.quantity)
    throw new BasketError(`${line.name} has its price or weight on the label: scan each label.`);
  if (Math.abs(quantity) > MOST) throw new BasketError('That is more than one line can hold (99,999).');
  if (quantity % quantityStep(line.decimals) !== 0) {
    throw new BasketError(
      line.decimals === 0
        ? `${line.name} is sold in whole units.`
        : `${line.name} takes at most ${counted(line.decimals, 'decimal')}.`,
    );
  }
}
