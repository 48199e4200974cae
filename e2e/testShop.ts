import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inject } from 'vitest';
import { QUICK_START } from '../server/testing/quickStart.ts';
import { startShop, type Shop } from './shop.ts';

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
    get webShop() {
      return shop.webShop;
    },
    get hub() {
      return shop.hub;
    },
    kill: shop.kill,
    stop: shop.stop,
    start: shop.start,
    async verify() {
      await shop.stop();
      const environment = { ...process.env, MONDREL_DATA: folder, DATABASE_URL: '' };
      return execFileSync(process.execPath, [...QUICK_START, 'setup/verify.mjs'], {
        env: environment,
        encoding: 'utf8',
      });
    },
    async end() {
      await shop.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
