import { MOST_AT_ONCE } from '../core/goods/manyItems.ts';
import { browserOf, openDrawer } from '../server/testing/browser.ts';
import type { Serving } from '../server/serve.ts';
import { alone, beside } from './beside.ts';
import { onBothEngines } from './bothEngines.ts';
import { fillGoods } from './goods100k.ts';
import { figure, median, quantile, type Figure } from './measure.ts';
import { plainGoods, scanner } from './scans.ts';

/** A till's scans while the prices of as many items as can be are changed at once, of 100,000; alone is the floor. */
export const manyHold = (): Promise<Figure[]> => onBothEngines(measure);

async function measure({ house, url }: Serving, engine: string): Promise<Figure[]> {
  await fillGoods(house.database);
  const [manager, till] = [browserOf(() => url), browserOf(() => url)];
  await manager.signIn('8024', 3);
  await till.signIn('1357', 1);
  await openDrawer(till);
  const scan = scanner(till, await plainGoods(house.database, 10));
  const before = await alone(scan);
  const items = await house.database.ask((sql) =>
    sql.query<{ id: number; version: number }>(
      `select id, version from item where number like 'G-%' order by id limit ${MOST_AT_ONCE}`,
    ),
  );
  const change = { price: { by: 'percent', rate: 100_000 } };
  const { samples, took, made } = await beside(scan, () =>
    manager.ask<{ changed: number }>('POST', '/goods/changes', {
      items,
      change: { addTags: [], dropTags: [], ...change },
    }),
  );
  if (made.body.changed !== MOST_AT_ONCE)
    throw new Error(`not all were changed: ${JSON.stringify(made.body)}`);
  const floor = median(before);
  const goal = { words: 'under a second', met: (value: number) => value < 1000 };
  return [
    figure(`many-hold ${engine} p95`, 'ms', quantile(samples, 0.95), floor, samples.length),
    figure(`many-hold ${engine} made`, 'ms', took, floor, 1),
    figure(`many-hold ${engine} longest`, 'ms', Math.max(...samples), floor, samples.length, goal),
  ];
}
