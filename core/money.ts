import { decimalSign, localeOfShop, plainSpaces } from './locale.ts';

/**
 * Money is an integer count of the currency's minor units (cents), held in a safe integer.
 * Nothing in here ever goes through a fraction.
 */
export type Money = number;

/** Thrown when figures leave the range in which integers are exact (±2^53). */
export class OutOfRangeError extends RangeError {}

/** Returns `value` if it is a safe integer. @throws OutOfRangeError otherwise. */
export function exact(value: number): number {
  if (!Number.isSafeInteger(value)) throw new OutOfRangeError(`${value} is not an exact integer`);
  return value;
}

/**
 * `a × b ÷ divisor`, rounded half away from zero, computed exactly.
 * @param divisor a positive integer
 * @throws OutOfRangeError when an operand or the result is not a safe integer
 */
export function multiplyDivide(a: number, b: number, divisor: number): number {
  const product = exact(a) * exact(b);
  if (Number.isSafeInteger(product)) {
    const size = Math.abs(product);
    const rest = size % divisor;
    const whole = (size - rest) / divisor + (2 * rest >= divisor ? 1 : 0);
    return product < 0 ? 0 - whole : whole;
  }
  const big = BigInt(a) * BigInt(b);
  const size = big < 0n ? -big : big;
  const by = BigInt(divisor);
  const whole = (2n * size + by) / (2n * by);
  return exact(Number(big < 0n ? -whole : whole));
}

/** The exact sum of integers. @throws OutOfRangeError */
export function sum(values: Iterable<number>): number {
  let total = 0;
  for (const value of values) total += value;
  return exact(total);
}

const MINUS = '\u2212';

/** Formats take long to make and are always the same. */
const formats = new Map<string, Intl.NumberFormat>();

function figures(amount: Money, digits: number, group: string, decimal: string): string {
  const all = String(Math.abs(exact(amount))).padStart(digits + 1, '0');
  const whole = all.slice(0, all.length - digits).replace(/\B(?=(\d{3})+$)/g, group);
  const part = digits > 0 ? `${decimal}${all.slice(-digits)}` : '';
  return `${amount < 0 ? MINUS : ''}${whole}${part}`;
}

/**
 * An amount in figures, as the shop writes them: thousands grouped, the currency's decimals, a true minus sign in
 * front.
 * @param digits decimals of the currency (ISO 4217 minor unit), e.g. 2 for USD
 */
export function formatMoney(amount: Money, digits = 2): string {
  return formatMoneyIn(localeOfShop(), amount, digits);
}

/** An amount as it stands in a field where it is typed: without groups, with the shop's decimal sign. */
export function plainMoney(amount: Money, digits = 2): string {
  return figures(amount, digits, '', decimalSign());
}

/**
 * An amount as a language writes it (Unicode CLDR, through Intl): grouping, decimal sign and minus of the locale.
 * @param locale a BCP 47 tag, e.g. `de-DE`
 */
export function formatMoneyIn(locale: string, amount: Money, digits = 2): string {
  // Written as Intl does, and far faster.
  if (locale === 'en-US') return figures(amount, digits, ',', '.');
  const key = `${locale} ${digits}`;
  let format = formats.get(key);
  if (!format) {
    format = new Intl.NumberFormat(locale, {
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
      numberingSystem: 'latn',
    });
    formats.set(key, format);
  }
  const exactly = figures(Math.abs(amount), digits, '', '.') as Intl.StringNumericLiteral;
  return `${amount < 0 ? MINUS : ''}${plainSpaces(format.format(exactly))}`;
}

/**
 * Reads an amount as people type it where the shop is: `12`, `12.5`, `1,234.50`, `-3.00`; with a decimal comma
 * `12,5` and `1.234,50`. A point or comma that is no group is always the decimal sign.
 * @returns minor units, or `null` when the text is not an amount of this currency
 */
export function parseMoney(text: string, digits = 2): Money | null {
  // Some group by two above the first three: 12,34,567.
  const groups =
    decimalSign() === ','
      ? /[.\s’'](?=(\d{2,3}[.\s’'])*\d{3}(\D|$))/g
      : /[,\s’'](?=(\d{2,3}[,\s’'])*\d{3}(\D|$))/g;
  const plain = text.trim().replaceAll(MINUS, '-').replace(groups, '');
  const match = /^(-?)(\d*)(?:[.,](\d*))?$/.exec(plain);
  if (!match) return null;
  const [, sign, whole = '', part = ''] = match;
  if ((whole === '' && part === '') || part.length > digits) return null;
  const amount = Number(whole + part.padEnd(digits, '0'));
  if (!Number.isSafeInteger(amount)) return null;
  return sign && amount !== 0 ? -amount : amount;
}
