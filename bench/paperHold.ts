import type { GoodsPage, LabelsPage } from '../contract/goods.ts';
import type { Serving } from '../server/serve.ts';
import { browserOf } from '../server/testing/browser.ts';
import { alone, beside } from './beside.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, median, quantile, type Figure } from './measure.ts';

const ITEMS = ['PIC-M', 'MET-C', 'MET-W'];
const COPIES = 200;

/** How long a till waits for its basket while sheets of 600 labels are set as PDF; alone is the floor. */
export const paperHold = (): Promise<Figure[]> => onBothEngines(measure);

async function measure({ url }: Serving, engine: string): Promise<Figure[]> {
  const [manager, till] = [browserOf(() => url), browserOf(() => url)];
  await manager.signIn('8024', 3);
  await till.signIn('1357', 1);
  const look = () => till.ask('GET', '/counter/basket');
  const before = await alone(look);
  const { layout } = (await manager.ask<LabelsPage>('GET', '/goods/labels')).body;
  const items: { id: number; copies: number }[] = [];
  for (const number of ITEMS) {
    const { body } = await manager.ask<GoodsPage>('GET', `/goods/list?find=${number}`);
    items.push({ id: body.rows[0]?.id ?? 0, copies: COPIES });
  }
  const printed = await manager.ask<{ id: number; labels: number }>('POST', '/goods/labels', {
    which: 'picked',
    items,
    layout,
    first: 1,
  });
  if (printed.body.labels !== ITEMS.length * COPIES) throw new Error('the labels were not printed');
  const { samples, took, made } = await beside(look, () =>
    manager.ask('GET', `/goods/labels/${printed.body.id}.pdf`),
  );
  if (made.status !== 200) throw new Error('the labels were not set');
  const floor = median(before);
  const goal = { words: 'under a second', met: (value: number) => value < 1000 };
  return [
    figure(`paper-hold ${engine} p95`, 'ms', quantile(samples, 0.95), floor, samples.length),
    figure(`paper-hold ${engine} made`, 'ms', took, floor, 1),
    figure(`paper-hold ${engine} longest`, 'ms', Math.max(...samples), floor, samples.length, goal),
  ];
}
