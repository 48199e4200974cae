import { performance } from 'node:perf_hooks';

/** One figure of a benchmark, beside the floor that was measured in the same run. */
export interface Figure {
  name: string;
  unit: string;
  value: number;
  floor: number;
  /** `value ÷ floor`. */
  ratio: number;
  /** How many single measurements are behind it. */
  n: number;
  /** What the ratio, or the value, should be at most. */
  target?: string;
  met?: boolean;
}

/** The value below which a part of all samples lies; 0.5 is the median. */
export function quantile(samples: readonly number[], part: number): number {
  const sorted = samples.toSorted((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))] ?? Number.NaN;
}

export const median = (samples: readonly number[]): number => quantile(samples, 0.5);

/** Milliseconds that something takes. */
export async function timed(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/**
 * Measures two things in turn, so that a machine whose speed drifts treats both alike.
 * @param rest waits for what the one before has set going, which belongs to neither
 * @returns the samples of each in milliseconds
 */
export async function inTurn(
  rounds: number,
  a: (round: number) => unknown,
  b: (round: number) => unknown,
  warmUp = Math.ceil(rounds / 10),
  rest: () => Promise<void> = async () => {},
): Promise<[number[], number[]]> {
  const samples: [number[], number[]] = [[], []];
  for (let round = -warmUp; round < rounds; round++) {
    const first = await timed(() => a(round));
    await rest();
    const second = await timed(() => b(round));
    if (round < 0) continue;
    samples[0].push(first);
    samples[1].push(second);
  }
  return samples;
}

/** A figure with its ratio to the floor. */
export function figure(
  name: string,
  unit: string,
  value: number,
  floor: number,
  n: number,
  goal?: { words: string; met: (value: number, ratio: number) => boolean },
): Figure {
  const ratio = value / floor;
  const base = { name, unit, value, floor, ratio, n };
  return goal ? { ...base, target: goal.words, met: goal.met(value, ratio) } : base;
}
