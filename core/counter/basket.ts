import type { Item } from '../goods/item.ts';
import type { Money } from '../money.ts';
import type { Right } from '../staff/rights.ts';
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
  /** Who approved an open price above the limit. */
  openPriceCountersign?: string | undefined;
  note?: string | undefined;
  /** Goes on the gift receipt, which has no prices. */
  gift?: boolean | undefined;
}

/** Why a sale is without tax. */
export interface Exemption {
  reason: string;
  /** Number of the certificate that was shown, if any. */
  certificate: string;
  countersign?: string | undefined;
}

/** Goods being rung up. The id becomes the id of the sale, so that finishing twice is finishing once. */
export interface Basket {
  id: string;
  lines: BasketLine[];
  note?: string | undefined;
  exemption?: Exemption | undefined;
}

/** Says why a step on a basket cannot be done, in words for the cashier. */
export class BasketError extends Error {}

/**
 * Adds an item: more of the line that has the same item at the same price and nothing special about it, else a new line.
 * @param lineId the id for a new line
 * @param unitPrice what was asked for when the item has no fixed price
 * @returns the basket with the item and the line that it is on
 */
export function addItem(
  basket: Basket,
  item: Item,
  {
    lineId,
    quantity = ONE,
    unitPrice,
    openPriceCountersign,
  }: { lineId: string; quantity?: Quantity; unitPrice?: Money; openPriceCountersign?: string | undefined },
): { basket: Basket; lineId: string } {
  const price = item.price ?? unitPrice;
  if (price === undefined) throw new BasketError(`${item.name} has no fixed price: type its price.`);
  const same = item.price === null ? undefined : basket.lines.find((line) => isPlain(line, item.id, price));
  if (same) return { basket: setQuantity(basket, same.id, same.quantity + quantity), lineId: same.id };
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
    openPriceCountersign,
  };
  checkQuantity(line, quantity);
  return { basket: { ...basket, lines: [...basket.lines, line] }, lineId };
}

function isPlain(line: BasketLine, itemId: number, price: Money): boolean {
  return line.itemId === itemId && line.listPrice === price && !line.typedPrice && !line.note && !line.gift;
}

/** Changes what is typed about a line: its price, its note, its gift mark. */
export function changeLine(
  basket: Basket,
  lineId: string,
  change: Partial<Pick<BasketLine, 'typedPrice' | 'note' | 'gift'>>,
): Basket {
  return {
    ...basket,
    lines: basket.lines.map((line) => (line.id === lineId ? { ...line, ...change } : line)),
  };
}

/** What somebody needs more rights for, or an approval by a second person. */
export interface NeededRight {
  right: Extract<Right, 'price.change' | 'tax.exempt' | 'open-price.large'>;
  /** The approval that the basket carries, if any. */
  countersign: string | undefined;
}

/** Every step in a basket that not everybody may take. @param openPriceLimit up to which anybody may sell at an open price */
export function neededRights(
  basket: Basket,
  openItems: ReadonlySet<number>,
  openPriceLimit: Money,
): NeededRight[] {
  const needed: NeededRight[] = [];
  for (const { itemId, listPrice, typedPrice, openPriceCountersign } of basket.lines) {
    if (typedPrice) needed.push({ right: 'price.change', countersign: typedPrice.countersign });
    if (openItems.has(itemId) && listPrice > openPriceLimit) {
      needed.push({ right: 'open-price.large', countersign: openPriceCountersign });
    }
  }
  if (basket.exemption) needed.push({ right: 'tax.exempt', countersign: basket.exemption.countersign });
  return needed;
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

/** Takes a line out. */
export function removeLine(basket: Basket, lineId: string): Basket {
  return { ...basket, lines: basket.lines.filter((line) => line.id !== lineId) };
}

/** Puts a removed line back where it was. */
export function restoreLine(basket: Basket, line: BasketLine, at: number): Basket {
  return { ...basket, lines: basket.lines.toSpliced(at, 0, line) };
}

/** The smallest step of a quantity with so many decimals, in thousandths. */
export function quantityStep(decimals: number): Quantity {
  return ONE / 10 ** decimals;
}

function checkQuantity(line: BasketLine, quantity: Quantity): void {
  if (quantity <= 0) throw new BasketError('The quantity must be more than zero. Remove the line instead.');
  if (quantity > MOST) throw new BasketError('That is more than one line can hold (99,999).');
  if (quantity % quantityStep(line.decimals) !== 0) {
    throw new BasketError(
      line.decimals === 0
        ? `${line.name} is sold in whole units.`
        : `${line.name} takes at most ${line.decimals} decimal${line.decimals === 1 ? '' : 's'}.`,
    );
  }
}
