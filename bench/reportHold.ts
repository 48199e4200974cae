import type { Serving } from '../server/serve.ts';
import { CHECKS } from '../server/books/verify.ts';
import { browserOf } from '../server/testing/browser.ts';
import { onBothEngines } from './bothEngines.ts';
import { layCosts, YEAR } from './figures.ts';
import { layMillion } from './journal.ts';
import { figure, median, quantile, timed, type Figure } from './measure.ts';

const ROUNDS = 3;
const ALONE = 200;
/** Those that are added up from the lines themselves, and the page on which everything is checked. */
const READ = [
  'reports/items',
  'reports/suppliers',
  'reports/customers',
  'ties',
  ...CHECKS.map((_, at) => `checks/${at + 1}`),
];

/** How long a till waits for its basket while a year of half a million lines is read; alone is the floor. */
export const reportHold = (): Promise<Figure[]> => onBothEngines(measure);

async function measure({ house, url }: Serving, engine: string): Promise<Figure[]> {
  await layMillion(house);
  await layCosts(house.database);
  const [manager, till] = [browserOf(() => url), browserOf(() => url)];
  await manager.signIn('8024', 3);
  await till.signIn('1357', 1);
  const look = () => timed(() => till.ask('GET', '/counter/basket'));
  const alone: number[] = [];
  for (let round = 0; round < ALONE; round++) alone.push(await look());
  const beside: number[] = [];
  const made: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    for (const name of READ) {
      let reading = true;
      const began = performance.now();
      const report = manager
        .ask('GET', `/figures/${name}?from=${YEAR.from}&to=${YEAR.to}`)
        .finally(() => (reading = false));
      while (reading) beside.push(await look());
      made.push(performance.now() - began);
      if ((await report).status !== 200) throw new Error(`${name} was not answered`);
    }
  }
  const goal = { words: 'under a second', met: (value: number) => value < 1000 };
  const floor = median(alone);
  return [
    figure(`report-hold ${engine} p95`, 'ms', quantile(beside, 0.95), floor, beside.length),
    figure(`report-hold ${engine} made`, 'ms median', median(made), floor, made.length),
    figure(`report-hold ${engine} longest`, 'ms', Math.max(...beside), floor, beside.length, goal),
  ];
}
