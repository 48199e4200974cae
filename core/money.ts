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

/**
 * An amount in figures: grouped thousands, the currency's decimals, a true minus sign in front.
 * @param digits decimals of the currency (ISO 4217 minor unit), e.g. 2 for USD
 */
export function formatMoney(amount: Money, digits = 2): string {
  const figures = String(Math.abs(exact(amount))).padStart(digits + 1, '0');
  const whole = figures.slice(0, figures.length - digits).replace(/\B(?=(\d{3})+$)/g, ',');
  const part = digits > 0 ? `.${figures.slice(-digits)}` : '';
  return `${amount < 0 ? MINUS : ''}${whole}${part}`;
}

/** Formats take long to make and are always the same. */
const formats = new Map<string, Intl.NumberFormat>();

function numberFormat(locale: string, digits: number): Intl.NumberFormat {
  const key = `${locale} ${digits}`;
  let format = formats.get(key);
  if (!format) {
    format = new Intl.NumberFormat(locale, { minimumFractionDigits: digits, maximumFractionDigits: digits });
    formats.set(key, format);
  }
  return format;
}

/**
 * An amount as a language writes it (Unicode CLDR, through Intl): grouping, decimal sign and minus of the locale.
 * @param locale a BCP 47 tag, e.g. `de-DE`
 */
export function formatMoneyIn(locale: string, amount: Money, digits = 2): string {
  // Written as everywhere else, and far faster.
  if (locale === 'en-US') return formatMoney(amount, digits);
  const figures = formatMoney(amount, digits).replaceAll(',', '').replace(MINUS, '-');
  return numberFormat(locale, digits)
    .format(figures as Intl.StringNumericLiteral)
    .replaceAll(/[\u00a0\u202f]/g, ' ')
    .replace(/^-/, MINUS);
}

/**
 * Reads an amount as people type it: `12`, `12.5`, `1,234.50`, `-3.00`.
 * @returns minor units, or `null` when the text is not an amount of this currency
 */
export function parseMoney(text: string, digits = 2): Money | null {
  const plain = text
    .trim()
    .replaceAll(MINUS, '-')
    .replace(/,(?=\d{3}(\D|$))/g, '');
  const match = /^(-?)(\d{0,12})(?:[.,](\d*))?$/.exec(plain);
  if (!match) return null;
  const [, sign, whole = '', part = ''] = match;
  if ((whole === '' && part === '') || part.length > digits) return null;
  const amount = Number(whole + part.padEnd(digits, '0'));
  if (!Number.isSafeInteger(amount)) return null;
  return sign && amount !== 0 ? -amount : amount;
}
