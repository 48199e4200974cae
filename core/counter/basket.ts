import type { Item } from '../goods/item.ts';
import type { Money } from '../money.ts';
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
  typedPrice?: { unitPrice: Money; reason: string } | undefined;
}

/** Goods being rung up. The id becomes the id of the sale, so that finishing twice is finishing once. */
export interface Basket {
  id: string;
  lines: BasketLine[];
}

/** Says why a step on a basket cannot be done, in words for the cashier. */
export class BasketError extends Error {}

/**
 * Adds an item: more of the last line when that is the same item at the same price, else a new line.
 * @param lineId the id for a new line
 * @param unitPrice what was asked for when the item has no fixed price
 * @returns the basket with the item and the line that it is on
 */
export function addItem(
  basket: Basket,
  item: Item,
  { lineId, quantity = ONE, unitPrice }: { lineId: string; quantity?: Quantity; unitPrice?: Money },
): { basket: Basket; lineId: string } {
  const price = item.price ?? unitPrice;
  if (price === undefined) throw new BasketError(`${item.name} has no fixed price: type its price.`);
  const last = basket.lines.at(-1);
  if (last?.itemId === item.id && last.listPrice === price && !last.typedPrice && item.price !== null) {
    return { basket: setQuantity(basket, last.id, last.quantity + quantity), lineId: last.id };
  }
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
  };
  checkQuantity(line, quantity);
  return { basket: { ...basket, lines: [...basket.lines, line] }, lineId };
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
