/** Fewer like days than this say nothing about what is usual. */
export const LEAST_LIKE_DAYS = 8;
/** Scales the median absolute deviation to the standard deviation of a normal distribution (1 / Φ⁻¹(3/4)). */
const MAD_SCALE = 1.4826;
/** So many scaled deviations away from the median is odd. */
const ODD_FROM = 3.5;

/**
 * The value beneath which a part of all lies, between neighbours by how near it is (type 7 of Hyndman and Fan, 1996).
 */
export function quantileOf(values: readonly number[], part: number): number {
  const sorted = values.toSorted((a, b) => a - b);
  const at = (sorted.length - 1) * part;
  const low = sorted[Math.floor(at)] ?? 0;
  return low + ((sorted[Math.ceil(at)] ?? low) - low) * (at - Math.floor(at));
}

/** What is usual on like days: the half of them in the middle, and their median. */
export interface Usual {
  low: number;
  median: number;
  high: number;
}

/** @returns nothing where there are too few like days */
export function usualOf(values: readonly number[]): Usual | null {
  if (values.length < LEAST_LIKE_DAYS) return null;
  return {
    low: Math.round(quantileOf(values, 0.25)),
    median: Math.round(quantileOf(values, 0.5)),
    high: Math.round(quantileOf(values, 0.75)),
  };
}

/**
 * Whether a value is far from those of like days: by median and median absolute deviation, which few strange days do
 * not move.
 * @param least a distance from the median that is never odd, so that 1 instead of 0 is no news
 * @returns what is usual, where the value is odd; otherwise nothing
 */
export function oddAmong(value: number, values: readonly number[], least: number): Usual | null {
  const usual = usualOf(values);
  if (!usual) return null;
  const median = quantileOf(values, 0.5);
  const deviation =
    MAD_SCALE *
    quantileOf(
      values.map((one) => Math.abs(one - median)),
      0.5,
    );
  return Math.abs(value - median) > Math.max(least, ODD_FROM * deviation) ? usual : null;
}
