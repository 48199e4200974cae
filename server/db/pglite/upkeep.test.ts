import { PGlite } from '@electric-sql/pglite';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Reader } from '../database.ts';
import { keepUp } from './upkeep.ts';

let embedded: PGlite;
/** What was asked of tables of the shop, the newest last. */
let asked: string[];
let database: Reader;

beforeAll(async () => {
  embedded = await PGlite.create();
  const query = async <T extends object>(sql: string, parameters: readonly unknown[] = []): Promise<T[]> => {
    if (sql.includes('public.')) asked.push(sql);
    return (await embedded.query<T>(sql, [...parameters])).rows;
  };
  database = { query, search: query, oneByOne: true };
  await embedded.exec(
    'create table sale (id integer primary key, total integer); create table layaway (id integer)',
  );
});
afterAll(() => embedded.close());

/** What a round of upkeep does to the tables of the shop. */
async function round(): Promise<string[]> {
  await embedded.exec('select pg_stat_force_next_flush()');
  asked = [];
  await keepUp(database);
  return asked;
}

const sell = (from: number, to: number) =>
  embedded.exec(`insert into sale select at, at from generate_series(${from}, ${to}) as at`);

it('counts what nobody has counted, never an empty table, and nothing twice', async () => {
  expect(await round()).toEqual([]);
  await sell(1, 10);
  expect(await round()).toEqual(['vacuum (analyze) public.sale']);
  expect(await round()).toEqual([]);
});

it('counts a table anew once a tenth of it is new, and clears it up once a fifth of it is old', async () => {
  await sell(11, 10_000);
  expect(await round()).toEqual(['vacuum (analyze) public.sale']);
  await sell(10_001, 10_500);
  expect(await round()).toEqual([]);
  await sell(10_501, 11_100);
  expect(await round()).toEqual(['analyze public.sale']);
  await embedded.exec('update sale set total = 0 where id <= 3000');
  expect(await round()).toEqual(['vacuum (analyze) public.sale']);
  expect(await round()).toEqual([]);
});

it('sees by its size that a table has grown, which was changed before the start', async () => {
  await sell(11_101, 13_000);
  await embedded.exec("select pg_stat_reset_single_table_counters('sale'::regclass)");
  expect(await round()).toEqual(['analyze public.sale']);
});

it('lets the planner know how many there are', async () => {
  const { rows } = await embedded.query<{ known: number }>(
    "select reltuples as known from pg_class where relname in ('sale', 'layaway') order by relname",
  );
  expect(rows).toEqual([{ known: -1 }, { known: 13_000 }]);
});
