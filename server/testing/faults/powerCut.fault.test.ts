import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDatabase } from '../../db/open.ts';
import { verify } from '../../books/verify.ts';
import { readSettings } from '../../settings.ts';
import { cutPower, makeDisk, run } from './disk.ts';
import { openTills, sellUntilGone, type Acknowledged } from './sellers.ts';
import { startServer } from './sellingServer.ts';

/** So many cuts; more with MONDREL_CUTS (`npm run faults -- 200`). */
const CUTS = Number(process.env.MONDREL_CUTS ?? 10);
const ENOUGH = 25;

let folder = '';
let mount = '';

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'mondrel-power-'));
  mount = makeDisk(folder, 512);
});
afterAll(() => {
  if (mount) run('umount', '-l', mount);
  rmSync(folder, { recursive: true, force: true });
});

describe('a power cut while sales are rung up', () => {
  it(
    `loses no acknowledged sale in ${CUTS} cuts`,
    async () => {
      const acknowledged: Acknowledged[] = [];
      const settings = readSettings({ MONDREL_DATA: join(mount, 'shop') });
      for (let round = 0; round < CUTS; round++) {
        const server = await startServer(settings.dataFolder);
        const tills = await openTills(server.browser);
        const enough = acknowledged.length + ENOUGH + round;
        const push = acknowledged.push.bind(acknowledged);
        let cut = false;
        acknowledged.push = (...sales) => {
          // What is answered after the cut was never on the disk and proves nothing.
          if (cut) return acknowledged.length;
          const length = push(...sales);
          if (length >= enough) {
            cut = true;
            cutPower(mount);
            void server.kill();
          }
          return length;
        };
        await Promise.all(
          tills.map((browser) => sellUntilGone(browser, acknowledged, new Map()).catch(() => {})),
        );
        acknowledged.push = push;
        await server.kill();
        run('umount', mount);
        run('mount', '-o', 'loop', join(folder, 'image'), mount);

        const database = await openDatabase(
          settings,
          () => {},
          () => {},
          null,
        );
        const stored = await database.ask((sql) =>
          sql.query<{ id: string; total: number }>('select id, total from sale'),
        );
        const totals = new Map(stored.map(({ id, total }) => [id, total]));
        expect(acknowledged.filter(({ id, total }) => totals.get(id) !== total)).toEqual([]);
        expect(await database.ask(verify)).toEqual([]);
        await database.close();
      }
      expect(acknowledged.length).toBeGreaterThanOrEqual(CUTS * ENOUGH);
    },
    300_000 + CUTS * 60_000,
  );
});
