import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v4 as newKey } from 'uuid';
import { pino } from 'pino';
import { inject } from 'vitest';
import type { FinishedSale } from '../../contract/counter.ts';
import type { BasketLine } from '../../core/counter/basket.ts';
import { linesToPrice } from '../../core/counter/toPrice.ts';
import { priceBasket } from '../../core/pricing/price.ts';
import { ratesOn } from '../../core/pricing/taxRates.ts';
import { fillNewDemo } from '../../demo/fill.ts';
import { serve, type Serving } from '../serve.ts';
import { readSettings } from '../settings.ts';
import { taxRates } from '../shop/store.ts';
import { browserOf, type Answer, type Browser } from './browser.ts';
import { TEST_NOW } from './globalSetup.ts';

export { openDrawer, type Browser } from './browser.ts';

export const ENGINE = process.env.MONDREL_TEST_ENGINE === 'postgres' ? 'postgres' : 'pglite';

export interface TestHouse extends Serving {
  browser(): Browser;
  /** Ends the server and starts another one on the same data. */
  restart(): Promise<void>;
  /** Lets time go by for those who wait after wrong PINs. */
  elapse(seconds: number): void;
  readonly dataFolder: string;
  readonly databaseUrl: string | undefined;
}

async function environment(from: 'demo' | 'empty'): Promise<NodeJS.ProcessEnv> {
  const { folder, postgres } = inject('prepared');
  const mine = mkdtempSync(join(tmpdir(), 'mondrel-house-'));
  if (ENGINE === 'pglite') {
    cpSync(join(folder, from, 'db'), join(mine, 'db'), { recursive: true });
    return { MONDREL_DATA: mine, PORT: '0', MONDREL_NOW: TEST_NOW, MONDREL_BACKUPS_KEPT: '0' };
  }
  const { Client } = await import('pg');
  const name = `house_${newKey().replaceAll('-', '')}`;
  const client = new Client({ connectionString: postgres.replace('DATABASE', 'postgres') });
  await client.connect();
  await client.query(`create database ${name} template ${from}`);
  await client.end();
  return {
    MONDREL_DATA: mine,
    PORT: '0',
    MONDREL_NOW: TEST_NOW,
    MONDREL_BACKUPS_KEPT: '0',
    DATABASE_URL: postgres.replace('DATABASE', name),
  };
}

/** Settings of a database of its own that is prepared but holds nothing. */
export const emptyEnvironment = (): Promise<NodeJS.ProcessEnv> => environment('empty');

/** A running server on a database of its own, on the engine under test. */
export async function openHouse(
  from: 'demo' | 'empty' = 'demo',
  more: NodeJS.ProcessEnv = {},
): Promise<TestHouse> {
  const settings = readSettings({ ...(await environment(from)), ...more });
  let gone = 0;
  const start = () =>
    serve(settings, {
      webFolder: '/nowhere',
      log: pino({ level: process.env.MONDREL_LOG ?? 'silent' }),
      elapsed: () => gone,
      refusedWait: 0,
      ...(from === 'demo' ? { fill: fillNewDemo } : {}),
    });
  let serving = await start();
  return {
    get url() {
      return serving.url;
    },
    get webShop() {
      return serving.webShop;
    },
    get hub() {
      return serving.hub;
    },
    get house() {
      return serving.house;
    },
    async stop() {
      await serving.stop();
      rmSync(settings.dataFolder, { recursive: true, force: true });
    },
    elapse(seconds) {
      gone += seconds * 1000;
    },
    async restart() {
      await serving.stop();
      serving = await start();
    },
    dataFolder: settings.dataFolder,
    databaseUrl: settings.databaseUrl,
    browser: () => browserOf(() => serving.url),
  };
}

/** A basket of items by their numbers, with what the till would show as its total. */
export async function ringUp({ house }: Pick<TestHouse, 'house'>, numbers: readonly string[]) {
  const { lines, rates } = await house.database.ask(async (sql) => ({
    lines: await sql.query<Omit<BasketLine, 'id' | 'quantity'>>(
      `select id as "itemId", number, name, unit, decimals, coalesce(price, 0) as "listPrice",
        tax_category_id as "taxCategoryId"
       from item where number = any ($1) order by array_position($1, number)`,
      [numbers],
    ),
    rates: await taxRates(sql),
  }));
  const basket = { id: newKey(), lines: lines.map((line) => ({ ...line, id: newKey(), quantity: 1000 })) };
  const { total } = priceBasket(
    linesToPrice(basket, {
      rates: ratesOn(rates, TEST_NOW.slice(0, 10)),
      groupPrices: [],
      goodsOf: () => undefined,
    }),
    { taxMode: 'on-top', taxRounding: 'sale' },
  );
  return { basket, expectedTotal: total, handed: total };
}

/** Pays a basket in cash. */
export function pay(
  browser: Browser,
  sale: Awaited<ReturnType<typeof ringUp>>,
): Promise<Answer<FinishedSale>> {
  return browser.ask<FinishedSale>('POST', '/counter/sales', sale, { 'idempotency-key': sale.basket.id });
}
