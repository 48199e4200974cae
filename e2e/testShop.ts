import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inject } from 'vitest';
import { startShop, type Shop } from './shop.ts';
import { openLaidShop, verifyShop } from './shopProcess.ts';

export interface TestShop extends Shop {
  /** Stops the shop and recomputes every kept figure. @returns what was found, in words */
  verify(): Promise<string>;
  end(): Promise<void>;
}

/** A shop of a test file's own: the made-up one, or an empty one that is started as a person would. */
export async function openShop(kind: 'demo' | 'start' = 'demo'): Promise<TestShop> {
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-shop-'));
  if (kind === 'demo') cpSync(inject('demoFolder'), folder, { recursive: true });
  const shop = await (kind === 'demo' ? openLaidShop(folder) : startShop(folder, kind));
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
    silent: shop.silent,
    stop: shop.stop,
    start: shop.start,
    async verify() {
      await shop.stop();
      return verifyShop(folder);
    },
    async end() {
      await shop.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
