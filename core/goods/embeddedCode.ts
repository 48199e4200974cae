import { multiplyDivide, type Money } from '../money.ts';
import { lineAmount, ONE, type Quantity } from '../quantity.ts';
import { hasRightCheckDigit } from './barcode.ts';

/**
 * How the digits of a code from the range for use inside a shop (20–29) are to be read, one letter for each digit:
 * two digits of the range, `I` the item, `P` a price in minor units or `W` a weight in thousandths, `V` a digit
 * that is not read, `C` the check digit. `28IIIIIPPPPPC` holds five digits of item and five of price
 * (GS1 General Specifications, 2.1.12: variable measure items, layout left to the user).
 */
export type CodeLayout = string;

const LAYOUT = /^2\d(I{3,6})(V?)(P{4,6}|W{4,6})(V?)C$/;

/** Whether a text is a layout. */
export function isCodeLayout(text: string): text is CodeLayout {
  return text.length === 13 && LAYOUT.test(text);
}

/** What a code with a price or weight inside says. */
export interface EmbeddedCode {
  /** The range and the item's digits: the code under which the item is known. */
  itemCode: string;
  /** What the label asks for, whatever the weight. */
  price?: Money;
  weight?: Quantity;
}

/** Reads a code by the first layout whose range it has. @returns `null` when none fits or the check digit is wrong */
export function readEmbeddedCode(code: string, layouts: readonly CodeLayout[]): EmbeddedCode | null {
  if (!/^2\d{12}$/.test(code) || !hasRightCheckDigit(code)) return null;
  const layout = layouts.find((one) => one.startsWith(code.slice(0, 2)));
  if (!layout) return null;
  const digits = (letter: string) =>
    [...layout].map((is, at) => (is === letter ? (code[at] ?? '') : '')).join('');
  const itemCode = code.slice(0, 2) + digits('I');
  const price = digits('P');
  return price ? { itemCode, price: Number(price) } : { itemCode, weight: Number(digits('W')) };
}

/**
 * What a label asks for: its price, or its weight at the item's price.
 * @returns `null` when the code is none of the item's labels, or holds a weight of an item without a price
 */
export function labelAmount(
  code: string,
  { price }: { price: Money | null },
  layouts: readonly CodeLayout[],
): Money | null {
  const read = readEmbeddedCode(code, layouts);
  if (read?.price !== undefined) return read.price;
  return read?.weight === undefined || price === null ? null : lineAmount(price, read.weight);
}

/**
 * How much of an item a label stands for: the weight on it, what its price buys, or one unit.
 * @param decimals how many the item's quantity may have
 */
export function labelQuantity(
  { price: asked, weight }: EmbeddedCode,
  { price, decimals }: { price: Money | null; decimals: number },
): Quantity {
  if (weight !== undefined) return weight;
  if (decimals === 0 || !price) return ONE;
  const step = ONE / 10 ** decimals;
  return Math.max(step, multiplyDivide(asked ?? 0, ONE, price * step) * step);
}
