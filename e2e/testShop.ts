import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { inject } from 'vitest';
import { startShop, type Shop } from './shop.ts';
import { Till } from './till.ts';

export interface TestShop extends Shop {
  /** Stops the shop and recomputes every kept figure. @returns what the program said */
  verify(): Promise<string>;
  end(): Promise<void>;
}

/** A shop of a test file's own. */
export async function openShop(kind: 'demo' | 'start' = 'demo'): Promise<TestShop> {
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-shop-'));
  if (kind === 'demo') cpSync(inject('demoFolder'), folder, { recursive: true });
  const shop = await startShop(folder, kind);
  return {
    get url() {
      return shop.url;
    },
    kill: shop.kill,
    stop: shop.stop,
    start: shop.start,
    async verify() {
      await shop.stop();
      const environment = { ...process.env, MONDREL_DATA: folder, DATABASE_URL: '' };
      return execFileSync(process.execPath, ['setup/verify.mjs'], { env: environment, encoding: 'utf8' });
    },
    async end() {
      await shop.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Counts a float of 200.00 by keyboard and opens the drawer. */
export async function openDrawer(till: Till): Promise<void> {
  await till.keys(Key.F9);
  await till.see('.sheet');
  await count(till, { '20.00': 5, '10.00': 5, '1.00': 50 });
  await till.shows('[data-test="counted"]', '200.00');
  await till.keys(Key.F9);
  await till.read('drawer open since');
}

/** Types the count of every piece, going down the sheet with the arrow key. */
export async function count(till: Till, pieces: Record<string, number>): Promise<void> {
  await till.focus('.sheet input');
  for (const row of [
    '100.00',
    '50.00',
    '20.00',
    '10.00',
    '5.00',
    '2.00',
    '1.00',
    '0.25',
    '0.10',
    '0.05',
    '0.01',
  ]) {
    await till.keys(String(pieces[row] ?? 0), Key.ARROW_DOWN);
  }
}
