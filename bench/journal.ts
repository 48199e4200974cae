import { monitorEventLoopDelay } from 'node:perf_hooks';
import type { JournalPage } from '../contract/journal.ts';
import type { DaySummary } from '../contract/books.ts';
import type { Database } from '../server/db/database.ts';
import type { Serving } from '../server/serve.ts';
import { browserOf, openDrawer, type Browser } from '../server/testing/browser.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, median, quantile, type Figure } from './measure.ts';

const SALES = 250_000;
const LINES = 4;
const AT_ONCE = 25_000;
const DAYS = 700;
const ROUNDS = 60;

/** Searching the journal, over 1,000,000 lines; the floor asks the bare SQL for the same sales. */
export const journal1m = (): Promise<Figure[]> => onBothEngines(measureSearch);

/** A day's summary over 1,000,000 lines; the floor asks the bare SQL for the day's lines, taxes and tenders. */
export const daySummary1m = (): Promise<Figure[]> => onBothEngines(measureDay);

/** Lays down sales of four lines on two years of days, with taxes and tenders, checks of keys left out. */
export async function layMillion({ database }: Serving['house']): Promise<void> {
  for (let from = 0; from < SALES; from += AT_ONCE) {
    await database.write(async (sql) => {
      await sql.query('set local session_replication_role = replica');
      await sql.query(
        `insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, hour, currency,
          tax_mode, regular, reductions, tax, total)
         select md5('sale ' || at)::uuid, 1 + at % 2, 1, 1 + at % 3, 100000 + at / 2,
                date '2024-01-02' + (at::bigint * ${DAYS} / ${SALES})::integer,
                timestamptz '2024-01-02 14:00Z' + (at::bigint * ${DAYS} / ${SALES}) * interval '1 day'
                  + (at % ${Math.ceil(SALES / DAYS)}) * interval '1 minute', 12,
                'USD', 'on-top', ${LINES} * (500 + at % 9000), 0, ${LINES} * (500 + at % 9000) / 10,
                ${LINES} * (500 + at % 9000) + ${LINES} * (500 + at % 9000) / 10
         from generate_series($1::integer, $2::integer) as at`,
        [from, from + AT_ONCE - 1],
      );
      await sql.query(
        `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price,
          regular, net)
         select md5('sale ' || at)::uuid, place, 1 + (at * 7 + place * 131) % 500, 1, 'N' || (at + place) % 500,
                'Item ' || (at + place) % 500, 'each', 1000, 500 + at % 9000, 500 + at % 9000, 500 + at % 9000
         from generate_series($1::integer, $2::integer) as at, generate_series(1, ${LINES}) as place`,
        [from, from + AT_ONCE - 1],
      );
      await sql.query(
        `insert into sale_tax (sale_id, position, tax_rate_id, name, rate, base, tax)
         select md5('sale ' || at)::uuid, 1, 1, 'Sales tax', 100000, ${LINES} * (500 + at % 9000),
                ${LINES} * (500 + at % 9000) / 10 from generate_series($1::integer, $2::integer) as at`,
        [from, from + AT_ONCE - 1],
      );
      await sql.query(
        `insert into tender (sale_id, position, kind, amount, handed, type_id)
         select md5('sale ' || at)::uuid, 1, 'cash', ${LINES} * (500 + at % 9000) + ${LINES} * (500 + at % 9000) / 10,
                ${LINES} * (500 + at % 9000) + ${LINES} * (500 + at % 9000) / 10,
                (select id from tender_type where kind = 'cash')
         from generate_series($1::integer, $2::integer) as at`,
        [from, from + AT_ONCE - 1],
      );
    });
  }
  await database.script('analyze sale; analyze sale_line; analyze sale_tax; analyze tender;');
}

async function manager(serving: Serving): Promise<Browser> {
  await layMillion(serving.house);
  const browser = browserOf(() => serving.url);
  await browser.signIn('8024', 3);
  await openDrawer(browser);
  return browser;
}

/** The days, items, amounts and numbers that are asked for in turn. */
const FINDS = [
  () => '',
  (round: number) => `find=${1 + (Math.abs(round) % 2)}-${100_000 + Math.abs(round) * 977}`,
  (round: number) => `find=about+${20 + (Math.abs(round) % 60)}`,
  (round: number) => `find=${((500 + ((Math.abs(round) * 37) % 9000)) * 0.044).toFixed(2)}`,
  (round: number) => `find=${ITEM_NUMBERS[Math.abs(round) % ITEM_NUMBERS.length] ?? ''}`,
  (round: number) => `from=2025-03-${String(1 + (Math.abs(round) % 28)).padStart(2, '0')}`,
  () => 'find=no+such+words',
];
const ITEM_NUMBERS = ['CLA-0220', 'MET-C', 'PIC-M', 'LES-30'];

async function measureSearch(serving: Serving, engine: string): Promise<Figure[]> {
  const browser = await manager(serving);
  const { database } = serving.house;
  let longest = 0;
  let found = 0;
  const findOf = (round: number) => FINDS[Math.abs(round) % FINDS.length]?.(round) ?? '';
  const [searched, bare] = await inTurn(
    ROUNDS,
    async (round) => {
      // A monitor of its own: one that goes on would count what lies between the rounds.
      const delay = monitorEventLoopDelay({ resolution: 1 });
      delay.enable();
      const { body, status } = await browser.ask<JournalPage>('GET', `/journal/sales?${findOf(round)}`);
      delay.disable();
      longest = Math.max(longest, delay.max);
      if (status !== 200) throw new Error('a search was refused');
      found += body.rows.length;
    },
    () => newest(database),
  );
  if (found === 0) throw new Error('nothing was found');
  return [
    figure(`journal-1m ${engine}`, 'ms median', median(searched), median(bare), ROUNDS),
    figure(`journal-1m ${engine} p99`, 'ms p99', quantile(searched, 0.99), quantile(bare, 0.99), ROUNDS),
    blocked(`journal-1m ${engine} blocked`, longest, median(bare)),
  ];
}

/** The newest hundred sales with their first lines, and nothing else. */
async function newest(database: Database): Promise<void> {
  await database.ask((sql) =>
    sql.query(
      `select sale.id, number, finished_at, total, (select name from sale_line
        where sale_id = sale.id and position = 1) as line
       from sale order by finished_at desc limit 100`,
    ),
  );
}

const dayOf = (round: number) =>
  `2025-${String(1 + (Math.abs(round) % 9)).padStart(2, '0')}-${String(1 + (Math.abs(round) % 27)).padStart(2, '0')}`;

async function measureDay(serving: Serving, engine: string): Promise<Figure[]> {
  const browser = await manager(serving);
  const { database } = serving.house;
  let longest = 0;
  let sales = 0;
  const [summed, bare] = await inTurn(
    ROUNDS,
    async (round) => {
      // A monitor of its own: one that goes on would count what lies between the rounds.
      const delay = monitorEventLoopDelay({ resolution: 1 });
      delay.enable();
      const { body } = await browser.ask<DaySummary>('GET', `/books/day?from=${dayOf(round)}`);
      delay.disable();
      longest = Math.max(longest, delay.max);
      sales += body.sales;
    },
    (round) =>
      database.ask((sql) =>
        sql.query(
          `with today as materialized (select id from sale where business_date = $1)
           select (select count(*) from today),
             (select sum(net) from today join sale_line on sale_id = id),
             (select sum(tax) from today join sale_tax on sale_id = id),
             (select sum(amount) from today join tender on sale_id = id)`,
          [dayOf(round)],
        ),
      ),
  );
  if (sales === 0) throw new Error('no sale was in the days');
  return [
    figure(`day-summary-1m ${engine}`, 'ms median', median(summed), median(bare), ROUNDS),
    figure(`day-summary-1m ${engine} p99`, 'ms p99', quantile(summed, 0.99), quantile(bare, 0.99), ROUNDS),
    blocked(`day-summary-1m ${engine} blocked`, longest, median(bare)),
  ];
}

/** The longest that the event loop was held up while the server answered. @param longest in nanoseconds */
const blocked = (name: string, longest: number, floor: number): Figure =>
  figure(name, 'ms at most', longest / 1e6, floor, ROUNDS, {
    words: 'under 50 ms',
    met: (value) => value < 50,
  });
