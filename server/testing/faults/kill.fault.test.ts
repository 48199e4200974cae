import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FinishedSale } from '../../../contract/counter.ts';
import { openDatabase } from '../../db/open.ts';
import { verify } from '../../books/verify.ts';
import { readSettings } from '../../settings.ts';
import type { Browser } from '../browser.ts';
import { openTills, sellUntilGone, type Acknowledged } from './sellers.ts';
import { startServer } from './sellingServer.ts';

/** So many kills; more with MONDREL_KILLS (`npm run faults -- 200`). */
const KILLS = Number(process.env.MONDREL_KILLS ?? 20);
/** The kill comes after so many more answers, a different number each time. */
const answersBefore = (round: number) => 1 + ((round * 7) % 23);

let folder = '';
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'mondrel-kill-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('a server that is killed under load', () => {
  it(
    `has every acknowledged sale and a balanced ledger after each of ${KILLS} kills`,
    async () => {
      const acknowledged: Acknowledged[] = [];
      const open = new Map<Browser, object>();
      for (let round = 0; round < KILLS; round++) {
        const server = await startServer(folder);
        const tills = await openTills(server.browser);
        // What was asked for when the server died is asked for again, as the till does.
        for (const sale of open.values()) {
          const { basket } = sale as { basket: { id: string } };
          const answer = await tills[0]?.ask<FinishedSale>('POST', '/counter/sales', sale, {
            'idempotency-key': basket.id,
          });
          expect(answer?.status).toBe(200);
          if (answer)
            acknowledged.push({ id: answer.body.id, number: answer.body.number, total: answer.body.total });
        }
        open.clear();
        const enough = acknowledged.length + answersBefore(round);
        const push = acknowledged.push.bind(acknowledged);
        acknowledged.push = (...sales) => {
          const length = push(...sales);
          if (length >= enough) void server.kill();
          return length;
        };
        await Promise.all(tills.map((browser) => sellUntilGone(browser, acknowledged, open)));
        acknowledged.push = push;
        await server.kill();
      }

      const settings = readSettings({ MONDREL_DATA: folder });
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
      expect(acknowledged.length).toBeGreaterThan(KILLS);
      expect(acknowledged.filter(({ id, total }) => totals.get(id) !== total)).toEqual([]);
      expect(await database.ask(verify)).toEqual([]);
      await database.close();
    },
    300_000 + KILLS * 60_000,
  );
});
