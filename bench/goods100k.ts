import { monitorEventLoopDelay } from 'node:perf_hooks';
import { setTimeout as wait } from 'node:timers/promises';
import { stringify } from 'csv-stringify/sync';
import { v4 as newId } from 'uuid';
import type { GoodsPage } from '../contract/goods.ts';
import type { ImportView } from '../contract/imports.ts';
import type { Database } from '../server/db/database.ts';
import type { Serving } from '../server/serve.ts';
import { browserOf } from '../server/testing/browser.ts';
import { onBothEngines } from './bothEngines.ts';
import { stockValue } from '../server/goods/stockValue.ts';
import { idleThread } from './idleThread.ts';
import { figure, inTurn, median, quantile, timed, type Figure } from './measure.ts';

const ITEMS = 100_000;
const ROUNDS = 40;
const LOOK_MS = 250;
const MADE_UP = ['anvil', 'birch', 'copper', 'dowel', 'enamel', 'flange', 'gasket', 'hinge', 'iron', 'joist'];

/**
 * The first page of the list of 100,000 items, and a search in it, through HTTP; the floor is plain SQL that reads
 * the same rows and counts.
 */
export const goodsList100k = (): Promise<Figure[]> =>
  onBothEngines(async (serving: Serving, engine: string) => {
    const { database } = serving.house;
    await fillGoods(database);
    const manager = browserOf(() => serving.url);
    await manager.signIn('8024', 1);
    const figures: Figure[] = [];
    for (const [what, find] of [
      ['list', ''],
      ['search', 'copper gas'],
    ] as const) {
      const words = find.split(' ').filter(Boolean);
      const [through, bare] = await inTurn(
        ROUNDS,
        async () => {
          const address = `/goods/list?find=${encodeURIComponent(find)}`;
          const { status, body } = await manager.ask<GoodsPage>('GET', address);
          if (status !== 200 || body.rows.length === 0) throw new Error('no goods');
        },
        () => bareList(database, words),
      );
      figures.push(
        figure(
          `goods-list-100k ${what} ${engine}`,
          'ms p95',
          quantile(through, 0.95),
          quantile(bare, 0.95),
          ROUNDS,
          { words: 'at most 1.5 times the floor', met: (_value, ratio) => ratio <= 1.5 },
        ),
      );
    }
    return figures;
  });

/** What a page of the list cannot do without: its rows with their stock, the count, categories and tags. */
async function bareList(database: Database, words: readonly string[]): Promise<void> {
  const like = words.map((word) => `% ${word}%`);
  await database.ask(async (sql) => {
    await sql.query(
      `select item.id, item.number, item.name, category.name as category, unit, decimals, price, item.version,
         (select quantity - set_aside from stock_level where item_id = item.id and place_id = 1) as here,
         (select sum(quantity - set_aside) from stock_level where item_id = item.id and place_id <> 1) as elsewhere,
         (select json_agg(tag) from item_tag where item_id = item.id) as tags
       from (select id from item where active and words like all ($1::text[]) order by name, number limit 50) as listed
       join item using (id) join category on category.id = category_id order by item.name, item.number`,
      [like],
    );
    await sql.query(
      'select count(*)::integer as count from item where active and words like all ($1::text[])',
      [like],
    );
    await sql.query(
      'select id, name from category where exists (select 1 from item where category_id = category.id) order by name',
    );
    await sql.query('select distinct tag from item_tag order by tag limit 200');
  });
}

/** 100,000 items `G-1` to `G-100000`, with stock at the first place. */
export async function fillGoods(database: Database): Promise<void> {
  const words = `(array['${MADE_UP.join("','")}'])`;
  await database.write(async (sql) => {
    await sql.query(
      `insert into item (number, name, category_id, tax_category_id, price, words)
       select 'G-' || n, ${words}[1 + n % 10] || ' ' || ${words}[1 + n / 10 % 10] || ' ' || n,
         (select min(id) from category), (select min(id) from tax_category), 100 + n % 900,
         ' g-' || n || ' ' || ${words}[1 + n % 10] || ' ' || ${words}[1 + n / 10 % 10] || ' ' || n
       from generate_series(1, ${ITEMS}) as n`,
    );
    await sql.query(
      `insert into stock_level (item_id, place_id, quantity) select id, 1, 5000 from item
        where number like 'G-%' and stocked`,
    );
    // As both engines do by themselves after so many rows.
    await sql.query('analyze');
  });
}

/** New items with their suppliers, under numbers of their own. */
const newRows = (): string[][] =>
  Array.from({ length: ITEMS }, (_, at) => [
    `I-${at}`,
    `${MADE_UP[at % 10] ?? ''} ${at}`,
    'Bench goods',
    `${1 + (at % 90)}.50`,
    `Bench supplier ${at % 7}`,
    `S-${at}`,
  ]);

const newGoods = (): string =>
  stringify([['Number', 'Name', 'Category', 'Price', 'Supplier', 'Number there'], ...newRows()]);

const writeBare = (database: Database): Promise<void> =>
  database.write(async (sql) => {
    const rows = newRows();
    for (let at = 0; at < ITEMS; at += 1000) {
      await sql.query(
        `insert into item (number, name, category_id, tax_category_id, price, words)
         select 'bare ' || (one->>0), one->>1, (select min(id) from category), (select min(id) from tax_category),
           150, ' bare'
         from jsonb_array_elements($1) as one`,
        [JSON.stringify(rows.slice(at, at + 1000))],
      );
    }
  });

/**
 * A list of 100,000 new items with their suppliers: looked through and written, while the server's thread is watched.
 * The floor is plain SQL that inserts the same rows under other numbers, a thousand at a time; that of the longest
 * block is how long a thread that rests was kept waiting meanwhile.
 */
export const importGoods100k = (): Promise<Figure[]> =>
  onBothEngines(async (serving: Serving, engine: string) => {
    const { database } = serving.house;
    const manager = browserOf(() => serving.url);
    await manager.signIn('8024', 1);
    const bare = await timed(() => writeBare(database));
    let content: string | undefined = newGoods();
    let idle = () => Promise.resolve(0);
    const id = newId();
    const until = async (state: ImportView['state']) => {
      for (;;) {
        const { body } = await manager.ask<ImportView>('GET', `/goods/imports/${id}`);
        if (body.state === state) return body;
        await wait(LOOK_MS);
      }
    };
    const delay = monitorEventLoopDelay({ resolution: 1 });
    const looked = await timed(async () => {
      const path = `/goods/imports/${id}?name=bench.csv`;
      await manager.raw('PUT', path, { 'content-type': 'text/csv' }, content ?? '');
      // The memory of the shop is watched, not that of the bench.
      content = undefined;
      idle = await idleThread();
      delay.enable();
      const { counts } = await until('ready');
      if (counts.new !== ITEMS) throw new Error(`not all are new: ${JSON.stringify(counts)}`);
    });
    const written = await timed(async () => {
      await manager.ask('POST', `/goods/imports/${id}/accept`, { doubles: false });
      await until('done');
    });
    delay.disable();
    return [
      figure(`import-goods-100k ${engine}`, 's', (looked + written) / 1000, bare / 1000, 1),
      figure(`import-goods-100k ${engine} longest block`, 'ms', delay.max / 1e6, await idle(), delay.count, {
        words: 'under 50 ms',
        met: (value) => value < 50,
      }),
    ];
  });

const MOVES = 1_000_000;

/**
 * What 100,000 items were worth at the end of a past day, by 1,000,000 moves; the floor is the bare sum over the same
 * moves.
 */
export const valueAnyDay = (): Promise<Figure[]> =>
  onBothEngines(async (serving: Serving, engine: string) => {
    const { database } = serving.house;
    await fillGoods(database);
    await database.write(async (sql) => {
      await sql.query(
        `insert into stock_move (item_id, place_id, quantity, reason, at, event_id, cost, against)
         select one.id, 1 + n % 2, case when n % 10 = 0 then 9000 else -1000 end, 'received',
           timestamptz '2026-01-01 12:00Z' - n * interval '1 hour', (select min(id) from ledger_event),
           case when n % 10 = 0 then 900 else -100 end, 'goods-received'
         from (select id, row_number() over (order by id) as nth from item where number like 'G-%') as one
         cross join generate_series(1, ${MOVES / ITEMS}) as n`,
      );
      await sql.query('analyze');
    });
    const day = '2025-12-31';
    const [whole, bare] = await inTurn(
      8,
      () => database.ask((sql) => stockValue(sql, { day })),
      () =>
        database.ask((sql) =>
          sql.query(
            `select item_id, place_id, sum(quantity), sum(cost) from stock_move where at < $1 group by 1, 2`,
            ['2026-01-01T05:00:00Z'],
          ),
        ),
    );
    return [
      figure(`value-any-day ${engine}`, 'ms', median(whole), median(bare), 8, {
        words: 'at most 2 times the floor',
        met: (_value, ratio) => ratio <= 2,
      }),
    ];
  });
