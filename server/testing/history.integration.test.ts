import { rmSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fillDemo } from '../../demo/fill.ts';
import type { Database } from '../db/database.ts';
import { openDatabase } from '../db/open.ts';
import { verify } from '../ledger/verify.ts';
import { readSettings, type Settings } from '../settings.ts';
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
  });

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

  it('is the same every time', async () => {
    const { demoGoods } = await import('../../demo/goods.ts');
    const { pastWeeks } = await import('../../demo/history.ts');
    const [one, two] = [1, 2].map(() => pastWeeks(demoGoods(), 2, new Date(TEST_NOW), 30));
    expect(one).toEqual(two);
  });
});
