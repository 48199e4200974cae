import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Catalogue } from '../../../contract/goods.ts';
import type { ProblemDetails } from '../../../contract/problem.ts';
import { openDatabase } from '../../db/open.ts';
import { verify } from '../../books/verify.ts';
import { readSettings } from '../../settings.ts';
import type { Answer, Browser } from '../browser.ts';
import { makeDisk, run } from './disk.ts';
import { openTills } from './sellers.ts';
import { startServer } from './sellingServer.ts';

let folder = '';
let mount = '';
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'mondrel-full-'));
  mount = makeDisk(folder, 400);
});
afterAll(() => {
  if (mount) run('umount', '-l', mount);
  rmSync(folder, { recursive: true, force: true });
});

/** Rings up one sale in cash. */
function seller(browser: Browser, catalogue: Catalogue) {
  const lesson = catalogue.items.find(([, , , category, price]) => category === 'Lessons' && price !== null);
  if (!lesson) throw new Error('no lessons are sold');
  const [itemId, number, name, , price, , , taxCategoryId] = lesson;
  const total = price ?? 0;
  return (): Promise<Answer<ProblemDetails>> => {
    const more = { note: 'x'.repeat(190), unit: 'each', decimals: 0, quantity: 1000, listPrice: total };
    const lines = Array.from({ length: 1 }, () => ({
      id: newKey(),
      itemId,
      number,
      name,
      taxCategoryId,
      ...more,
    }));
    const basket = { id: newKey(), lines };
    const sale = { basket, expectedTotal: total, handed: total };
    return browser.ask('POST', '/counter/sales', sale, { 'idempotency-key': basket.id });
  };
}

describe('a disk that is full', () => {
  it('is said in words before anything is taken, loses nothing, and selling goes on by itself', async () => {
    const shop = join(mount, 'shop');
    const server = await startServer(shop);
    const [till] = await openTills(server.browser);
    if (!till) throw new Error('there is no till');
    const sell = seller(till, (await till.ask<Catalogue>('GET', '/goods/catalogue')).body);
    let sold = 0;
    expect((await sell()).status).toBe(200);
    sold += 1;
    run('sh', '-c', `dd if=/dev/zero of=${join(mount, 'filler')} bs=64k 2>/dev/null || true`);
    // What is allocated already is used up first.
    let refused: Answer<ProblemDetails> | undefined;
    for (let at = 0; at < 5_000 && !refused; at++) {
      const answer = await sell();
      if (answer.status === 200) sold += 1;
      else refused = answer;
    }
    expect([refused?.status, refused?.body.type]).toEqual([507, 'disk-full']);
    expect(refused?.body.title).toContain('disk of the server is full');
    rmSync(join(mount, 'filler'));
    expect((await sell()).status).toBe(200);
    sold += 1;
    await server.kill();

    const database = await openDatabase(
      readSettings({ MONDREL_DATA: shop }),
      () => {},
      () => {},
      null,
    );
    const [row] = await database.ask((sql) =>
      sql.query<{ count: number }>('select count(*)::integer as count from sale'),
    );
    expect(row?.count).toBe(sold);
    expect(await database.ask(verify)).toEqual([]);
    await database.close();
  }, 600_000);
});
