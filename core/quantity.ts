import { decimalSign } from './locale.ts';
import { exact, multiplyDivide, type Money } from './money.ts';

/** A quantity is an integer count of thousandths of the item's unit: 2.5 m is 2500. */
export type Quantity = number;

/** One whole unit. */
export const ONE: Quantity = 1000;

/** The largest quantity of one line: 99,999 units. */
export const MOST: Quantity = 99_999 * ONE;

/** A quantity in figures without superfluous zeros: 2500 is `2.5`. */
export function formatQuantity(quantity: Quantity): string {
  const size = Math.abs(exact(quantity));
  const part = String(size % ONE)
    .padStart(3, '0')
    .replace(/0+$/, '');
  const whole = String(Math.floor(size / ONE));
  return `${quantity < 0 ? '\u2212' : ''}${whole}${part ? `${decimalSign()}${part}` : ''}`;
}

/**
 * Reads a quantity as people type it.
 * @param decimals how many decimals the item's unit takes (0 to 3)
 * @returns thousandths, or `null` when the text is no quantity or has more decimals than allowed
 */
export function parseQuantity(text: string, decimals = 3): Quantity | null {
  const match = /^(-?)(\d{0,6})(?:[.,](\d{1,3}))?$/.exec(text.trim().replaceAll('\u2212', '-'));
  if (!match) return null;
  const [, sign, whole = '', part = ''] = match;
  if ((whole === '' && part === '') || part.length > decimals) return null;
  const quantity = Number(whole || '0') * ONE + Number(part.padEnd(3, '0'));
  return sign && quantity !== 0 ? -quantity : quantity;
}

/** What is wrong with a quantity of something that takes so many decimals; nothing where it is right. */
export const decimalsProblem = (quantity: Quantity, decimals: number): string | null =>
  quantity % 10 ** (3 - decimals) === 0 ? null : `A quantity of it has ${decimals || 'no'} decimals.`;

/** Unit price × quantity, rounded half away from zero to the minor unit. */
export function lineAmount(unitPrice: Money, quantity: Quantity): Money {
  return multiplyDivide(unitPrice, quantity, ONE);
}
