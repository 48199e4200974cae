import { multiplyDivide, type Money } from './money.ts';

/** A rate is an integer in parts per million: 7.5 % is 75,000. */
export type Rate = number;

/** The whole: 100 %. */
export const WHOLE: Rate = 1_000_000;

/** `amount × rate`, rounded half away from zero. */
export function rateOf(amount: Money, rate: Rate): Money {
  return multiplyDivide(amount, rate, WHOLE);
}

/** A rate in per cent without superfluous zeros: 75,000 is `7.5 %`. */
export function formatRate(rate: Rate): string {
  const part = String(rate % 10_000)
    .padStart(4, '0')
    .replace(/0+$/, '');
  return `${Math.floor(rate / 10_000)}${part ? `.${part}` : ''} %`;
}

/** Reads a per cent figure (`7.5`, `7.5 %`). @returns parts per million, or `null` */
export function parseRate(text: string): Rate | null {
  const match = /^(\d{1,3})(?:[.,](\d{1,4}))?\s*%?$/.exec(text.trim());
  if (!match) return null;
  const rate = Number(match[1]) * 10_000 + Number((match[2] ?? '').padEnd(4, '0'));
  return rate <= WHOLE ? rate : null;
}
