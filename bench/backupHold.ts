import { v4 as newId } from 'uuid';
import type { Serving } from '../server/serve.ts';
import { browserOf, openDrawer } from '../server/testing/browser.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, quantile, timed, type Figure } from './measure.ts';

const ALONE = 200;

/** A till's scans while a backup is made and read back: the longest that anybody waits stays under a second. */
export const backupHold = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const manager = browserOf(() => serving.url);
  await manager.signIn('8024', 1);
  await openDrawer(manager);
  const lines = await serving.house.database.ask((sql) =>
    sql.query(
      `select id as "itemId", number, name, unit, decimals, quantity, tax_category_id as "taxCategoryId",
              price as "listPrice", gen_random_uuid() as id
       from item, (select 1000 as quantity) as one where active and price > 0 and decimals = 0
         order by item.id limit 10`,
    ),
  );
  const basket = { id: newId(), lines };
  let revision = 0;
  const scan = async () => {
    const { status, body } = await manager.ask<{ revision: number }>('PUT', '/counter/basket', {
      basket,
      revision,
    });
    if (status !== 200) throw new Error(`a scan was refused: ${JSON.stringify(body)}`);
    revision = body.revision;
  };
  const alone: number[] = [];
  for (let round = 0; round < ALONE; round++) alone.push(await timed(scan));
  const beside: number[] = [];
  let going = true;
  const began = performance.now();
  const made = serving.house.backups.make().finally(() => (going = false));
  while (going) beside.push(await timed(scan));
  const { bytes } = await made;
  const seconds = (performance.now() - began) / 1000;
  const goal = { words: 'under a second', met: (value: number) => value < 1000 };
  return [
    figure(`backup-hold ${engine} p95`, 'ms', quantile(beside, 0.95), quantile(alone, 0.95), beside.length),
    figure(
      `backup-hold ${engine} longest`,
      'ms',
      Math.max(...beside),
      Math.max(...alone),
      beside.length,
      goal,
    ),
    figure(`backup-hold ${engine} made`, 's', seconds, 1, 1),
    figure(`backup-hold ${engine} size`, 'MB', bytes / 1e6, 1, 1),
  ];
}
