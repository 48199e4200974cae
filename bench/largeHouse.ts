import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { fillNewDemo } from '../demo/fill.ts';
import { largeShop } from '../demo/largeShop.ts';
import type { Database } from '../server/db/database.ts';
import { addItems, categoryNamed, PLAIN_ITEM } from '../server/goods/store.ts';
import { serve, type Serving } from '../server/serve.ts';
import { readSettings } from '../server/settings.ts';

export const LARGE = 100_000;
const AT_ONCE = 10_000;

/** The made-up shop with so many more items that it holds 100,000 of them. */
async function fillLarge(database: Database, at: Date) {
  const pins = await fillNewDemo(database, at);
  const items = largeShop(LARGE);
  for (let from = 0; from < items.length; from += AT_ONCE) {
    await database.write(async (sql) => {
      const categories = new Map<string, number>();
      const part = items.slice(from, from + AT_ONCE);
      for (const { category } of part) {
        if (!categories.has(category)) categories.set(category, await categoryNamed(sql, category));
      }
      await addItems(
        sql,
        part.map(({ category, number, name, price, unit, decimals, codes, stock }) => ({
          ...PLAIN_ITEM,
          number,
          name,
          price,
          unit,
          decimals,
          codes,
          taxCategoryId: 1,
          categoryId: categories.get(category) ?? 0,
          stock: [{ placeId: 1, quantity: stock ?? 0 }],
        })),
        at,
      );
    });
  }
  return pins;
}

/** Serves the large shop with the built pages. @returns what stops it and takes its data away */
export async function openLargeHouse(): Promise<Serving> {
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-bench-'));
  const serving = await serve(readSettings({ MONDREL_DATA: folder, PORT: '0', MONDREL_BACKUPS_KEPT: '0' }), {
    webFolder: 'dist/web',
    fill: fillLarge,
    log: pino({ level: 'error' }, pino.destination(2)),
  });
  return {
    ...serving,
    async stop() {
      await serving.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
