import type { Serving } from '../server/serve.ts';
import { browserOf, openDrawer } from '../server/testing/browser.ts';
import { alone, beside } from './beside.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, quantile, type Figure } from './measure.ts';
import { plainGoods, scanner } from './scans.ts';

/** A till's scans while a backup is made and read back: the longest that anybody waits stays under a second. */
export const backupHold = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const manager = browserOf(() => serving.url);
  await manager.signIn('8024', 1);
  await openDrawer(manager);
  const scan = scanner(manager, await plainGoods(serving.house.database, 10));
  const before = await alone(scan);
  const { samples, took, made } = await beside(scan, () => serving.house.backups.make());
  const goal = { words: 'under a second', met: (value: number) => value < 1000 };
  return [
    figure(
      `backup-hold ${engine} p95`,
      'ms',
      quantile(samples, 0.95),
      quantile(before, 0.95),
      samples.length,
    ),
    figure(
      `backup-hold ${engine} longest`,
      'ms',
      Math.max(...samples),
      Math.max(...before),
      samples.length,
      goal,
    ),
    figure(`backup-hold ${engine} made`, 's', took / 1000, 1, 1),
    figure(`backup-hold ${engine} size`, 'MB', made.bytes / 1e6, 1, 1),
  ];
}
