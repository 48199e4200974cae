import iso4217 from 'currency-codes/data.js';
import type { Money } from '../money.ts';

/** One kind of note or coin. */
export interface Denomination {
  value: Money;
  kind: 'note' | 'coin';
  /** How many a bank's roll of them holds, where rolls are usual. */
  roll?: number | undefined;
}

/** A currency by its ISO 4217 code and minor-unit digits, with the pieces that are in use. */
export interface Currency {
  code: string;
  name: string;
  digits: number;
  /** From the largest piece to the smallest. */
  pieces: readonly Denomination[];
}

function currency(
  code: string,
  name: string,
  digits: number,
  notes: number[],
  coins: number[],
  rolls: number[] = [],
): Currency {
  const scale = 10 ** digits;
  const pieces = [
    ...notes.map((value): Denomination => ({ value: Math.round(value * scale), kind: 'note' })),
    ...coins.map((value, at): Denomination => ({
      value: Math.round(value * scale),
      kind: 'coin',
      roll: rolls[at],
    })),
  ];
  return { code, name, digits, pieces };
}

/** Currencies whose pieces are known one by one. */
const WITH_PIECES: readonly Currency[] = [
  currency('USD', 'US dollar', 2, [100, 50, 20, 10, 5, 2, 1], [0.25, 0.1, 0.05, 0.01], [40, 50, 40, 50]),
  currency(
    'EUR',
    'Euro',
    2,
    [200, 100, 50, 20, 10, 5],
    [2, 1, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01],
    [25, 25, 40, 40, 40, 50, 50, 50],
  ),
  currency('GBP', 'Pound sterling', 2, [50, 20, 10, 5], [2, 1, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01]),
  currency('CAD', 'Canadian dollar', 2, [100, 50, 20, 10, 5], [2, 1, 0.25, 0.1, 0.05]),
  currency('AUD', 'Australian dollar', 2, [100, 50, 20, 10, 5], [2, 1, 0.5, 0.2, 0.1, 0.05]),
  currency('NZD', 'New Zealand dollar', 2, [100, 50, 20, 10, 5], [2, 1, 0.5, 0.2, 0.1]),
  currency('CHF', 'Swiss franc', 2, [200, 100, 50, 20, 10], [5, 2, 1, 0.5, 0.2, 0.1, 0.05]),
  currency('SEK', 'Swedish krona', 2, [1000, 500, 200, 100, 50, 20], [10, 5, 2, 1]),
  currency('NOK', 'Norwegian krone', 2, [1000, 500, 200, 100, 50], [20, 10, 5, 1]),
  currency('DKK', 'Danish krone', 2, [1000, 500, 200, 100, 50], [20, 10, 5, 2, 1, 0.5]),
  currency('JPY', 'Yen', 0, [10000, 5000, 2000, 1000], [500, 100, 50, 10, 5, 1]),
];

/** Steps in which nearly all currencies have notes and coins. */
const STEPS = [5, 2, 1] as const;

/**
 * Pieces of one, two and five times each power of ten, where nobody has told which there are: enough to count
 * any drawer by.
 */
function usualPieces(code: string, name: string, digits: number): Currency {
  // Where there are no small parts the sums are large.
  const powers = digits === 0 ? [4, 3, 2, 1, 0] : Array.from({ length: 3 + digits }, (_, at) => 2 - at);
  const values = powers.flatMap((power) => STEPS.map((step) => step * 10 ** power));
  const largestCoin = digits === 0 ? 500 : 2;
  return currency(
    code,
    name,
    digits,
    values.filter((value) => value > largestCoin),
    values.filter((value) => value <= largestCoin),
  );
}

/** Precious metals, funds, tests and what stands for no currency: nobody pays with them at a counter. */
const NO_MONEY = /^(X(?!AF|CD|CG|OF|PF)..|BOV|CHE|CHW|CLF|COU|MXV|USN|UYI|UYW)$/;

/** Every currency of ISO 4217 that is paid with and has 0, 2 or 3 decimals, by its code. */
export const CURRENCIES: readonly Currency[] = iso4217
  .filter(({ code, digits }) => [0, 2, 3].includes(digits) && !NO_MONEY.test(code))
  .map(
    ({ code, digits, currency: name }) =>
      WITH_PIECES.find((one) => one.code === code) ?? usualPieces(code, name, digits),
  )
  .toSorted((a, b) => (a.code < b.code ? -1 : 1));

const byCode = new Map(CURRENCIES.map((one) => [one.code, one]));

/** The currency of a code. @throws RangeError for one the shop cannot use */
export function currencyOf(code: string): Currency {
  const found = byCode.get(code);
  if (!found) throw new RangeError(`unknown currency ${code}`);
  return found;
}
