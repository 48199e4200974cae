import { decimalSign } from '../locale.ts';
import { multiplyDivide, type Money } from '../money.ts';
import { formatRate, parseRate, WHOLE, type Rate } from '../rate.ts';

/** So many tips a terminal suggests at most. */
export const MOST_TIPS = 4;

/** What a terminal suggests as tips: parts of the amount, rounded half away from zero. */
export function tipChoices(amount: Money, rates: readonly Rate[]): { rate: Rate; amount: Money }[] {
  return rates.map((rate) => ({ rate, amount: multiplyDivide(amount, rate, WHOLE) }));
}

/** Between parts that are typed: where decimals have a comma, one alone is no end of a part. */
const between = () =>
  decimalSign() === ',' ? { typed: /[;\s]+|,\s+/, written: '; ' } : { typed: /[;,\s]+/, written: ', ' };

/** The parts that a terminal suggests, as they are typed: `10, 12.5`, or `10; 12,5`. */
export const formatTipRates = (rates: readonly Rate[]): string =>
  rates.map((rate) => formatRate(rate).replace(' %', '')).join(between().written);

/** Reads the parts that a terminal suggests, in per cent. @returns `null` where one is none, or they are too many */
export function parseTipRates(text: string): Rate[] | null {
  const parts = text
    .replaceAll('%', ' ')
    .split(between().typed)
    .filter(Boolean)
    .map((part) => parseRate(part));
  const rates = parts.filter((rate) => rate !== null && rate > 0) as Rate[];
  return rates.length === parts.length && rates.length <= MOST_TIPS ? rates : null;
}
