import { plantedShift } from '../core/drawer/testing/plantedShift.ts';
import { CAUSES, explainVariance } from '../core/drawer/varianceFinder.ts';
import { figure, inTurn, median, quantile, type Figure } from './measure.ts';

const ROUNDS = 300;
const EVENTS = 1500;
const SHIFTS = 1000;

/** Explaining a shift of 1,500 events; the floor adds their amounts up once. */
export async function varianceFind(): Promise<Figure[]> {
  const shifts = CAUSES.map((cause, at) => plantedShift(cause, at + 1, EVENTS));
  const shiftOf = (round: number) => shifts[Math.abs(round) % shifts.length];
  let kept = 0;
  const [found, added] = await inTurn(
    ROUNDS,
    (round) => {
      const shift = shiftOf(round);
      if (shift) kept += explainVariance(shift).length;
    },
    (round) => {
      for (const { amount } of shiftOf(round)?.events ?? []) kept += amount;
    },
  );
  if (kept === 0) throw new Error('nothing was found');
  return [
    figure('variance-find', 'ms median', median(found), median(added), ROUNDS),
    figure('variance-find p99', 'ms p99', quantile(found, 0.99), quantile(added, 0.99), ROUNDS, {
      words: 'under 100 ms',
      met: (value) => value < 100,
    }),
  ];
}

/** How often the planted cause comes first, and among the first three; the floor is a guess among all causes. */
export function varianceHit(): Promise<Figure[]> {
  const hits = { first: 0, three: 0 };
  const byCause = new Map<string, [number, number, number]>();
  for (let at = 0; at < SHIFTS; at++) {
    const cause = CAUSES[at % CAUSES.length];
    if (!cause) continue;
    const causes = explainVariance(plantedShift(cause, 1000 + at)).map((one) => one.cause);
    const counts = byCause.get(cause) ?? [0, 0, 0];
    counts[2] += 1;
    if (causes[0] === cause) {
      hits.first += 1;
      counts[0] += 1;
    }
    if (causes.slice(0, 3).includes(cause)) {
      hits.three += 1;
      counts[1] += 1;
    }
    byCause.set(cause, counts);
  }
  for (const [cause, [first, three, all]] of byCause) {
    console.log(`  ${cause.padEnd(18)} first ${first} of ${all}, in the first three ${three}`);
  }
  const part = (count: number) => (100 * count) / SHIFTS;
  return Promise.resolve([
    figure('variance-hit first', '% of shifts', part(hits.first), 100 / CAUSES.length, SHIFTS, {
      words: 'at least 70 %',
      met: (value) => value >= 70,
    }),
    figure('variance-hit first three', '% of shifts', part(hits.three), 300 / CAUSES.length, SHIFTS, {
      words: 'at least 90 %',
      met: (value) => value >= 90,
    }),
  ]);
}
