import { decimalSign } from './locale.ts';
import { multiplyDivide, type Money } from './money.ts';

/** A rate is an integer in parts per million: 7.5 % is 75,000. */
export type Rate = number;

/** The whole: 100 %. */
export const WHOLE: Rate = 1_000_000;

/** Parts that have no finite per cent figure; people say them as fractions. */
const THIRDS: readonly { rate: Rate; words: string; of: number }[] = [
  { rate: 333_333, words: '1/3', of: 1 },
  { rate: 666_667, words: '2/3', of: 2 },
];

/** `amount × rate`, rounded half away from zero; thirds are exact. */
export function rateOf(amount: Money, rate: Rate): Money {
  const third = THIRDS.find((one) => one.rate === rate);
  if (third) return multiplyDivide(amount, third.of, 3);
  return multiplyDivide(amount, rate, WHOLE);
}

/** A whole number of so small parts as a decimal, without superfluous zeros. @param digits decimals at most */
function decimal(parts: number, digits: number): string {
  const one = 10 ** digits;
  const part = String(parts % one)
    .padStart(digits, '0')
    .replace(/0+$/, '');
  return `${Math.floor(parts / one)}${part ? `${decimalSign()}${part}` : ''}`;
}

/** A rate in per cent without superfluous zeros: 75,000 is `7.5 %`; a third is `1/3`. */
export function formatRate(rate: Rate): string {
  const third = THIRDS.find((one) => one.rate === rate);
  return third ? third.words : `${decimal(rate, 4)} %`;
}

/** A factor, what one of something is worth: 720,000 parts per million are `0.72`. */
export const formatFactor = (factor: Rate): string => decimal(factor, 6);

/** Reads a factor with up to six decimals. @returns parts per million, or `null` where it is none */
export function parseFactor(text: string): Rate | null {
  const match = /^(\d{1,9})(?:[.,](\d{1,6}))?$/.exec(text.trim());
  return match ? Number(match[1]) * WHOLE + Number((match[2] ?? '').padEnd(6, '0')) : null;
}

/** Reads a per cent figure (`7.5`, `7.5 %`) or a third (`1/3`). @returns parts per million, or `null` */
export function parseRate(text: string): Rate | null {
  const third = THIRDS.find((one) => one.words === text.replaceAll(' ', ''));
  if (third) return third.rate;
  const match = /^(\d{1,3})(?:[.,](\d{1,4}))?\s*%?$/.exec(text.trim());
  if (!match) return null;
  const rate = Number(match[1]) * 10_000 + Number((match[2] ?? '').padEnd(4, '0'));
  return rate <= WHOLE ? rate : null;
}
