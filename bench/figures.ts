import { monitorEventLoopDelay } from 'node:perf_hooks';
import type { ReportAnswer } from '../contract/figures.ts';
import { REPORT_NAMES, type ReportName } from '../core/figures/reports.ts';
import type { Database } from '../server/db/database.ts';
import { reportPage } from '../server/figures/report.ts';
import { wholeShop } from '../server/figures/reportStore.ts';
import type { Serving } from '../server/serve.ts';
import { browserOf } from '../server/testing/browser.ts';
import { onBothEngines } from './bothEngines.ts';
import { layMillion } from './journal.ts';
import { figure, inTurn, quantile, type Figure } from './measure.ts';

const ROUNDS = 20;
/** The year that reports are asked of. */
export const YEAR = { from: '2024-02-01', to: '2025-01-31' };

const SUMS = 'sum(count) as count, sum(quantity) as quantity, sum(amount) as amount, sum(more) as more';
const TOGETHER = [
  'count(*) over ()',
  ...['count', 'quantity', 'amount', 'more'].map((of) => `sum(${of}) over ()`),
].join();
/** A page of what is kept by day, with how many rows there are and what they come to together. */
const keptBy = (kind: string, by: string) =>
  `select *, ${TOGETHER} from (select ${by}, ${SUMS} from day_figure
    where kind = '${kind}' and day between $1 and $2 group by 1) as kept
   order by 1 limit 50`;

/** What some reports cannot do without, by the plainest statement that says the same. */
const BARE: Partial<Record<ReportName, string>> = {
  days: keptBy('sale', 'day'),
  people: keptBy('sale', 'subject'),
  taxes: keptBy('tax', 'subject'),
  items: `with sold as materialized (
      select id from sale where business_date between $1 and $2 and not exists (
        select 1 from sale_void where sale_id = sale.id and state = 'done')),
    cost as (
      select item_id, 0 - sum(cost) as cost from sold join ledger_event as event on sale_id = sold.id and kind = 'sale'
      join stock_move on event_id = event.id group by 1),
    sold_of as (
      select item_id, sum(quantity) as quantity, sum(net) as net from sold join sale_line on sale_id = sold.id
      where stored_value_id is null and account_id is null
        and (promise_part is null or promise_part not in ('deposit', 'used', 'back'))
      group by 1)
    select item.id, item.name, sold_of.quantity, sold_of.net, cost.cost, count(*) over (),
      sum(sold_of.quantity) over (), sum(net) over (), sum(cost.cost) over ()
    from sold_of join item on item.id = item_id left join cost using (item_id) order by 4 desc limit 50`,
};

/** The sales by day, from the lines themselves. */
const RAW = `select business_date, count(distinct sale.id), sum(quantity), sum(net) from sale
  join sale_line on sale_id = sale.id
  where business_date between $1 and $2 group by 1`;

/** Every report of a year of half a million lines among a million; some of them beside bare SQL, and through HTTP. */
export const figures1m = (): Promise<Figure[]> =>
  onBothEngines(async (serving: Serving, engine: string) => {
    const { database } = serving.house;
    await layMillion(serving.house);
    await layCosts(database);
    const manager = browserOf(() => serving.url);
    await manager.signIn('8024', 3);
    const ask = async (name: ReportName) => {
      const { status } = await manager.ask<ReportAnswer>(
        'GET',
        `/figures/reports/${name}?from=${YEAR.from}&to=${YEAR.to}`,
      );
      if (status !== 200) throw new Error(`${name} was not answered`);
    };
    const bare = (sql: string) => () => database.ask((reader) => reader.query(sql, [YEAR.from, YEAR.to]));
    const figures: Figure[] = [];
    for (const name of Object.keys(BARE) as ReportName[]) {
      const page = () => database.ask((reader) => reportPage(reader, name, wholeShop(YEAR), true));
      const [made, floor] = await inTurn(ROUNDS, page, bare(BARE[name] ?? ''));
      const [through, door] = await inTurn(
        ROUNDS,
        () => ask(name),
        () => manager.ask('GET', '/figures/choices'),
      );
      figures.push(
        figure(
          `figures-1m ${name} ${engine}`,
          'ms p95',
          quantile(made, 0.95),
          quantile(floor, 0.95),
          ROUNDS,
          {
            words: 'at most 1.5 times the floor',
            met: (_value, ratio) => ratio <= 1.5,
          },
        ),
        // What any answer takes is the floor here.
        figure(
          `figures-1m ${name} through HTTP ${engine}`,
          'ms p95',
          quantile(through, 0.95),
          quantile(door, 0.95),
          ROUNDS,
        ),
      );
    }
    const [kept, raw] = await inTurn(ROUNDS, () => ask('days'), bare(RAW));
    figures.push(
      figure(
        `figures-1m days over raw lines ${engine}`,
        'ms p95',
        quantile(kept, 0.95),
        quantile(raw, 0.95),
        ROUNDS,
      ),
    );
    const delay = monitorEventLoopDelay({ resolution: 1 });
    delay.enable();
    const began = performance.now();
    for (const name of REPORT_NAMES) await ask(name);
    const all = performance.now() - began;
    delay.disable();
    const [rawOnce = 1] = raw.toSorted((a, b) => a - b);
    figures.push(
      figure(
        `figures-1m all ${REPORT_NAMES.length} reports ${engine}`,
        'ms',
        all,
        rawOnce * REPORT_NAMES.length,
        1,
      ),
      figure(
        `figures-1m longest block ${engine}`,
        'ms',
        delay.max / 1e6,
        delay.percentile(50) / 1e6,
        delay.count,
        {
          words: 'under 50 ms',
          met: (value) => value < 50,
        },
      ),
    );
    return figures;
  });

/** What the goods of the million lines cost, what the books say of them, and the figures of their days. */
export async function layCosts(database: Database): Promise<void> {
  await database.write(async (sql) => {
    await sql.query('set local session_replication_role = replica');
    await sql.query(
      `insert into ledger_event (kind, at, staff_id, till_id, sale_id, shift_id)
       select 'sale', finished_at, staff_id, till_id, id, shift_id from sale where number >= 100000`,
    );
    await sql.query(
      `insert into stock_move (item_id, place_id, quantity, reason, sale_id, at, event_id, position, cost, against)
       select item_id, 1, 0 - quantity, 'sale', sale_id, event.at, event.id, position, 0 - net / 2, 'cost-of-goods'
       from sale_line join ledger_event as event using (sale_id) join sale on sale.id = sale_id
         where sale.number >= 100000`,
    );
    await sql.query(
      `insert into ledger_entry (event_id, position, account, subject, amount)
       select event.id, entry.position, account, subject, amount
       from ledger_event as event join sale on sale.id = event.sale_id
       cross join lateral (select coalesce(sum(cost), 0)::bigint as cost from stock_move
         where event_id = event.id) as moved
       cross join lateral (values (1, 'cash', 'till:' || sale.till_id, total), (2, 'sales', '', 0 - regular),
         (3, 'tax-payable', '1', 0 - tax), (4, 'stock', 'place:1', moved.cost),
         (5, 'cost-of-goods', '', 0 - moved.cost)) as entry (position, account, subject, amount)
       where sale.number >= 100000 and amount <> 0`,
    );
    await sql.query('delete from day_figure');
    await sql.query('select lay_figures()');
  });
  await database.script(
    'analyze ledger_event; analyze ledger_entry; analyze stock_move; analyze day_figure;',
  );
}
