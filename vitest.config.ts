import { existsSync, statfsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';
import { canMount } from './server/testing/faults/disk.ts';

/**
 * Shops of tests are laid down and cleared away by the thousand files: in memory where the system has room for them,
 * for a disk takes longer for that than the tests. Power cuts and full disks have file systems of their own.
 */
const MEMORY = '/dev/shm';
const ROOM = 3 * 2 ** 30;
if (!process.env.TMPDIR && existsSync(MEMORY)) {
  const { bavail, bsize } = statfsSync(MEMORY);
  if (bavail * bsize > ROOM) process.env.TMPDIR = MEMORY;
}

/** So long may take what is done beside everything else, on a slow machine: laws of hundreds of sets, a database. */
const MOST_MS = 300_000;
const patient = { testTimeout: MOST_MS, hookTimeout: MOST_MS };

/**
 * What runs beside everything else on a few cores collects its waste on one thread, and makes the embedded database's
 * program quicker only where that is worth it.
 */
const lean = ['--single-threaded-gc', '--wasm-tiering-budget=9000000'];

/** Files of one engine share a process: each brings a shop of its own. */
const serial = { ...patient, execArgv: lean, fileParallelism: false, isolate: false };

/**
 * `unit` and `unit-pages` need nothing; `integration` runs on both engines; `e2e` drives the built application in
 * Chromium.
 */
export default defineConfig({
  plugins: [vue()],
  test: {
    projects: [
      {
        extends: true,
        test: {
          name: 'unit',
          include: ['{core,contract,server,devices,demo}/**/*.test.ts'],
          exclude: ['**/*.{integration,fault}.test.ts'],
          // They keep nothing: starting over for each file took longer than its tests.
          isolate: false,
          ...patient,
        },
      },
      {
        extends: true,
        test: {
          name: 'unit-pages',
          include: ['web/**/*.test.ts'],
          setupFiles: 'web/testing/leftOvers.ts',
          ...patient,
        },
      },
      ...(['pglite', 'postgres'] as const).map((engine) => ({
        extends: true as const,
        test: {
          name: engine,
          include: ['server/**/*.integration.test.ts'],
          env: { MONDREL_TEST_ENGINE: engine },
          globalSetup: 'server/testing/globalSetup.ts',
          ...(engine === 'pglite' ? { setupFiles: 'server/testing/keptProgram.ts' } : {}),
          ...serial,
        },
      })),
      {
        extends: true,
        test: {
          name: 'faults',
          include: ['server/testing/faults/*.fault.test.ts'],
          // A power cut needs a file system of its own, which not every machine lets us mount.
          exclude: canMount() ? [] : ['**/powerCut.fault.test.ts', '**/diskFull.fault.test.ts'],
          setupFiles: 'server/testing/keptProgram.ts',
          ...serial,
        },
      },
      {
        extends: true,
        test: {
          name: 'e2e',
          include: ['e2e/**/*.test.ts'],
          globalSetup: 'e2e/globalSetup.ts',
          ...serial,
          // Each file has a shop and a browser of its own: two at a time want more than two cores.
          fileParallelism: availableParallelism() > 2,
          maxWorkers: 2,
        },
      },
    ],
  },
});
