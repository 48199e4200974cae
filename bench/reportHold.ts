import type { Serving } from '../server/serve.ts';
import { CHECKS } from '../server/books/verify.ts';
import { browserOf } from '../server/testing/browser.ts';
import { alone, beside } from './beside.ts';
import { onBothEngines } from './bothEngines.ts';
import { layCosts, YEAR } from './figures.ts';
import { layMillion } from './journal.ts';
import { figure, median, quantile, type Figure } from './measure.ts';

const ROUNDS = 3;
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
  const look = () => till.ask('GET', '/counter/basket');
  const floor = median(await alone(look));
  const samples: number[] = [];
  const made: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    for (const name of READ) {
      const report = await beside(look, () =>
        manager.ask('GET', `/figures/${name}?from=${YEAR.from}&to=${YEAR.to}`),
      );
      samples.push(...report.samples);
      made.push(report.took);
      if (report.made.status !== 200) throw new Error(`${name} was not answered`);
    }
  }
  const goal = { words: 'under a second', met: (value: number) => value < 1000 };
  return [
    figure(`report-hold ${engine} p95`, 'ms', quantile(samples, 0.95), floor, samples.length),
    figure(`report-hold ${engine} made`, 'ms median', median(made), floor, made.length),
    figure(`report-hold ${engine} longest`, 'ms', Math.max(...samples), floor, samples.length, goal),
  ];
}
