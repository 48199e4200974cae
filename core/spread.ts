import { exact, sum, type Money } from './money.ts';

/**
 * Spreads an amount over lines in proportion to their weights by the largest-remainder method;
 * ties go to the earlier line. The parts always add up to `amount`.
 *
 * When `0 ≤ amount ≤ Σ weights`, no part exceeds its weight, so no line falls below zero.
 * @param weights non-negative integers; where all are zero, the first line takes everything
 * @throws RangeError on an empty list with an amount, or a negative weight
 */
export const spread = (amount: Money, weights: readonly number[]): Money[] =>
  spreadOverCounted(
    amount,
    weights.map((weight) => ({ weight, count: 1 })),
  ).map(([only]) => only?.part ?? 0);

/** So many equal ones take such a part each. */
export interface CountedPart {
  part: Money;
  count: number;
}

/**
 * Spreads an amount over counted things, as `spread` does over each of them.
 * @returns for each, what how many of its equal ones take; the larger part first
 */
export function spreadOverCounted(
  amount: Money,
  over: readonly { weight: number; count: number }[],
): CountedPart[][] {
  if (over.some(({ weight }) => weight < 0)) throw new RangeError('a weight is negative');
  const whole = sum(over.map(({ weight, count }) => weight * count));
  if (whole === 0) {
    if (over.length === 0 && amount !== 0) throw new RangeError('nothing to spread the amount over');
    return over.map(({ count }, at) =>
      at === 0 && amount !== 0 ? counted([amount, 1], [0, count - 1]) : counted([0, count]),
    );
  }
  const size = Math.abs(exact(amount));
  const shares = over.map(({ weight, count }, at) => ({ at, count, ...shareOf(size, weight, whole) }));
  let left = size - sum(shares.map(({ part, count }) => part * count));
  const byRest = shares.toSorted((a, b) => (a.rest < b.rest ? 1 : a.rest > b.rest ? -1 : a.at - b.at));
  const odd = over.map(() => 0);
  for (const { at, count } of byRest) {
    if (left === 0) break;
    odd[at] = Math.min(count, left);
    left -= odd[at];
  }
  const sign = amount < 0 ? -1 : 1;
  return shares.map(({ part, count }, at) => {
    const more = odd[at] ?? 0;
    return counted([sign * (part + 1), more], [part === 0 ? 0 : sign * part, count - more]);
  });
}

const counted = (...parts: [part: Money, count: number][]): CountedPart[] =>
  parts.filter(([, count]) => count > 0).map(([part, count]) => ({ part, count }));

/** The whole part of `size × weight ÷ whole`, and what is left of the division. */
function shareOf(size: number, weight: number, whole: number): { part: number; rest: number | bigint } {
  const product = size * weight;
  if (product <= Number.MAX_SAFE_INTEGER) return { part: Math.floor(product / whole), rest: product % whole };
  const [exactly, by] = [BigInt(size) * BigInt(weight), BigInt(whole)];
  return { part: Number(exactly / by), rest: exactly % by };
}
