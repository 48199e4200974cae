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

/** A rate in per cent without superfluous zeros: 75,000 is `7.5 %`; a third is `1/3`. */
export function formatRate(rate: Rate): string {
  const third = THIRDS.find((one) => one.rate === rate);
  if (third) return third.words;
  const part = String(rate % 10_000)
    .padStart(4, '0')
    .replace(/0+$/, '');
  return `${Math.floor(rate / 10_000)}${part ? `${decimalSign()}${part}` : ''} %`;
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
