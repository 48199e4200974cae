import { rmSync } from 'node:fs';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fillDemo } from '../../demo/fill.ts';
import type { Database, Reader } from '../db/database.ts';
import { openDatabase } from '../db/open.ts';
import { findReport, wholeShop } from '../figures/reportStore.ts';
import { ties } from '../figures/ties.ts';
import { verify } from '../books/verify.ts';
import { liveOffers } from '../offers/offerStore.ts';
import { createRehearsals } from '../offers/rehearsals.ts';
import { rowOf } from '../promises/rows.ts';
import { promiseList } from '../promises/store.ts';
import { readSettings, type Settings } from '../settings.ts';
import { readShop } from '../shop/store.ts';
import { TEST_NOW } from './globalSetup.ts';
import { ENGINE, emptyEnvironment } from './testHouse.ts';

let database: Database;
let settings: Settings;
beforeAll(async () => {
  settings = readSettings(await emptyEnvironment());
  database = await openDatabase(
    settings,
    () => {},
    () => {},
    null,
  );
  await fillDemo(database, new Date(TEST_NOW), 2);
});
afterAll(async () => {
  await database.close();
  rmSync(settings.dataFolder, { recursive: true, force: true });
});

describe(`the past of the made-up shop, on ${ENGINE}`, () => {
  it('ties out in every figure', async () => {
    expect(await database.ask(verify)).toEqual([]);
    for (const { what, left, right } of await database.ask((sql) =>
      ties(sql, { from: '2020-01-01', to: '2030-01-01' }),
    ))
      expect([what, left.amount]).toEqual([what, right.amount]);
  });

  it.each(['items', 'suppliers', 'customers', 'groups'] as const)(
    'is added up to the same in pieces of few sales, by %s',
    async (name) => {
      let pieces = 0;
      const inPieces = (atOnce: number) =>
        database.ask(async (sql) => {
          const counting: Reader = {
            query: sql.query,
            oneByOne: true,
            search: (...asked) => {
              pieces += 1;
              return sql.search(...asked);
            },
          };
          const all = { ...wholeShop({ from: '2020-01-01', to: '2030-01-01' }), compare: 'before' as const };
          return findReport(counting, name, all, await readShop(sql), null, atOnce);
        });
      const whole = await inPieces(1_000_000);
      pieces = 0;
      expect(await inPieces(5)).toEqual(whole);
      expect(pieces).toBeGreaterThan(10);
      expect(whole.rows.length).toBeGreaterThan(1);
    },
  );

  it('has sales on every working day, customers, shortages, and no stock below zero', async () => {
    const [row] = await database.ask((sql) =>
      sql.query(
        `select count(distinct business_date)::integer as days, count(*)::integer > 100 as busy,
                count(distinct customer_id)::integer > 5 as known,
                (select count(*)::integer from shift where state = 'closed' and (closing->>'variance')::bigint <> 0) > 0
                  as off,
                (select count(*)::integer from stock_level where quantity < 0) as short,
                (select count(*)::integer from print_job) as waiting
         from sale`,
      ),
    );
    expect(row).toEqual({ days: 12, busy: true, known: true, off: true, short: 0, waiting: 0 });
  });

  it('has sales of every way that a shop has: paid otherwise, reduced, given to a fund, undone and brought back', async () => {
    const [row] = await database.ask((sql) =>
      sql.query(
        `select (select array_agg(distinct tender.kind order by tender.kind) from tender) as paid,
                (select count(*)::integer from standing_sale where donation > 0) > 0 as given,
                (select count(*)::integer from sale_line
                  where records @? '$[*] ? (@.kind == "discount")') > 0 as reduced,
                (select count(*)::integer from sale_line where return_sale is not null) > 3 as back,
                (select count(*)::integer from sale_void where state = 'done') > 0 as voided,
                (select count(*)::integer from sale_line where stored_value_id is not null) > 0 as cards`,
      ),
    );
    expect(row).toEqual({
      paid: ['account', 'cash', 'cheque', 'noted-card', 'stored-value'],
      given: true,
      reduced: true,
      back: true,
      voided: true,
      cards: true,
    });
  });

  it.each([
    ['layaway', ['begun', 'running', 'coming', 'cancelled']],
    ['order', ['asked', 'begun', 'placed', 'picking', 'short', 'ready', 'handed', 'shipped', 'cancelled']],
  ] as const)('has ten promises or more of the kind %s, in all states', async (kind, wanted) => {
    const { rows } = await database.ask((sql) =>
      promiseList(sql, { show: 'all', kind, page: 0, words: [] }, TEST_NOW.slice(0, 10)),
    );
    expect(rows.length).toBeGreaterThanOrEqual(10);
    const states = new Set(rows.map((row) => rowOf(row, TEST_NOW.slice(0, 10)).state));
    expect([...states]).toEqual(expect.arrayContaining([...wanted]));
  });

  it('can be rehearsed on: what was found so far stays when it is cancelled', async () => {
    const rehearsals = createRehearsals({ database, log: pino({ level: 'silent' }) });
    const [live] = await database.ask(liveOffers);
    if (!live) throw new Error('the made-up shop has no offers');
    const days = { from: '2026-01-01', to: '2026-12-31' };
    const whole = await rehearsals.start(live, days);
    await expect(rehearsals.start(live, days)).rejects.toThrow('Another rehearsal is running');
    await expect.poll(() => rehearsals.find(whole.id).state, { timeout: 30_000 }).toBe('done');
    expect(whole.done).toBe(whole.baskets);
    const uses = await database.ask((sql) =>
      sql.query<{ uses: number }>(
        'select coalesce(sum(uses), 0)::bigint as uses from offer_use where offer_id = $1',
        [live.id],
      ),
    );
    expect(whole.findings.uses).toBe(uses[0]?.uses);

    const cut = await rehearsals.start(live, days);
    rehearsals.cancel(cut.id);
    await expect.poll(() => rehearsals.find(cut.id).state).toBe('cancelled');
    // Another one may run at once.
    const next = await rehearsals.start(live, { from: '2020-01-01', to: '2020-01-02' });
    await expect.poll(() => rehearsals.find(next.id).state).toBe('done');
    expect(rehearsals.find(cut.id).done).toBeLessThan(whole.done);
  });

  it('is the same every time', async () => {
    const { demoGoods } = await import('../../demo/goods.ts');
    const { pastWeeks } = await import('../../demo/history.ts');
    const [one, two] = [1, 2].map(() => pastWeeks(demoGoods(), 2, new Date(TEST_NOW), 30));
    expect(one).toEqual(two);
  });
});
