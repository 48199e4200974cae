import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { layOnce } from '../server/testing/laidShop.ts';
import { shareDriver } from './browsers.ts';
import { E2E_NOW, startShop } from './shop.ts';

declare module 'vitest' {
  export interface ProvidedContext {
    /** A data folder with the demo shop, to be copied. */
    demoFolder: string;
  }
}

/** Builds the application and lays the demo shop down; every test file starts from a copy. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  execFileSync(process.execPath, ['setup/build.mjs'], { stdio: 'inherit' });
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-e2e-'));
  await layOnce(`first-day-${E2E_NOW.slice(0, 10)}`, join(folder, 'demo'), async (empty) => {
    const shop = await startShop(empty);
    await shop.stop();
  });
  project.provide('demoFolder', join(folder, 'demo'));
  const endBrowsers = await shareDriver();
  return async () => {
    await endBrowsers();
    rmSync(folder, { recursive: true, force: true });
  };
}
