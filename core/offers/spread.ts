import { exact, sum, type Money } from '../money.ts';

/**
 * Spreads an amount over lines in proportion to their weights by the largest-remainder method;
 * ties go to the earlier line. The parts always add up to `amount`.
 *
 * When `0 ≤ amount ≤ Σ weights`, no part exceeds its weight, so no line falls below zero.
 * @param weights non-negative integers; where all are zero, the first line takes everything
 * @throws RangeError on an empty list with an amount, or a negative weight
 */
export function spread(amount: Money, weights: readonly number[]): Money[] {
  if (weights.some((weight) => weight < 0)) throw new RangeError('a weight is negative');
  const total = sum(weights);
  if (total === 0) {
    if (weights.length === 0 && amount !== 0) throw new RangeError('nothing to spread the amount over');
    return weights.map((_, at) => (at === 0 ? amount : 0));
  }
  const size = BigInt(Math.abs(exact(amount)));
  const whole = BigInt(total);
  const shares = weights.map((weight, at) => {
    const product = size * BigInt(weight);
    return { at, part: Number(product / whole), rest: product % whole };
  });
  let left = Number(size) - sum(shares.map((share) => share.part));
  const parts = shares.map((share) => share.part);
  const byRest = shares.toSorted((a, b) => (a.rest === b.rest ? a.at - b.at : a.rest < b.rest ? 1 : -1));
  for (const { at } of byRest) {
    if (left === 0) break;
    parts[at] = (parts[at] ?? 0) + 1;
    left -= 1;
  }
  return amount < 0 ? parts.map((part) => 0 - part) : parts;
}
