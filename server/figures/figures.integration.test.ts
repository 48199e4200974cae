import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CheckAnswer, ReportAnswer, Tie, TodayFigures, Trend } from '../../contract/figures.ts';
import { REPORT_NAMES } from '../../core/figures/reports.ts';
import type { DrawerState } from '../../contract/drawer.ts';
import type { Reader } from '../db/database.ts';
import { dueMessages } from '../outbox/store.ts';
import { CHECKS, verify } from '../books/verify.ts';
import { daySummaryPaper } from './daySummary.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';

let test: TestHouse;
let isolde: Browser;
let noor: Browser;
const DAYS = 'from=2020-01-01&to=2030-01-01';

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  isolde = test.browser();
  await isolde.signIn('8024', 2);
  for (const numbers of [['PAD-08'], ['PAD-08', 'LES-30'], ['STICK-5A']]) {
    const sale = await ringUp(test, numbers);
    if (sale.basket.lines.length > 0) expect((await pay(noor, sale)).status).toBe(200);
  }
});
afterAll(() => test.stop());

/** What all checks find, asked one after the other. */
async function allChecks(): Promise<CheckAnswer['differences']> {
  const found: CheckAnswer['differences'] = [];
  let many = 1;
  for (let number = 1; number <= many; number++) {
    const { status, body } = await isolde.ask<CheckAnswer>('GET', `/figures/checks/${number}`);
    expect(status).toBe(200);
    many = body.of;
    found.push(...body.differences);
  }
  expect(many).toBe(CHECKS.length);
  return found;
}

describe(`figures on ${ENGINE}`, () => {
  it.each(REPORT_NAMES)(
    'has a report that answers, also beside other days, as CSV and PDF: %s',
    async (name) => {
      for (const compare of ['none', 'before', 'weekdays', 'year']) {
        const { status, body } = await isolde.ask<ReportAnswer>(
          'GET',
          `/figures/reports/${name}?${DAYS}&compare=${compare}&place=1&till=0`,
        );
        expect([status, body]).toEqual([200, expect.objectContaining({ name })]);
      }
      const csv = await isolde.raw('GET', `/figures/reports/${name}.csv?${DAYS}&compare=before`, {});
      expect([csv.status, csv.text.endsWith('\r\n')]).toEqual([200, true]);
      const pdf = await isolde.raw('GET', `/figures/reports/${name}.pdf?${DAYS}`, {});
      expect(pdf.text.startsWith('%PDF')).toBe(true);
    },
  );

  it('leave out columns that are not wanted, also on paper', async () => {
    const heads = async (more: string) =>
      (await isolde.raw('GET', `/figures/reports/items.csv?${DAYS}${more}`, {})).text.split('\r\n')[0];
    const all = await heads('');
    expect(all).toContain('Cost');
    expect(await heads('&without=cost,margin')).toBe(all?.replace(',Cost,Margin,', ','));
  });

  it('tie to the books, the journal and each other', async () => {
    const { status, body } = await isolde.ask<Tie[]>('GET', `/figures/ties?${DAYS}`);
    expect(status).toBe(200);
    for (const { what, left, right } of body) expect([what, left.amount]).toEqual([what, right.amount]);
    expect(await allChecks()).toEqual([]);
    expect(body.find(({ what }) => what === 'Sold without tax')?.left.amount).toBeGreaterThan(0);
  });

  it('say what was sold today, by hour, and what waits', async () => {
    const { status, body } = await isolde.ask<TodayFigures>('GET', '/figures/today');
    expect(status).toBe(200);
    expect(body.now.count).toBeGreaterThan(0);
    expect(body.hours.reduce((all, { now }) => all + now, 0)).toBe(body.now.sold);
    expect(body.items.length).toBeGreaterThan(0);
    const trend = await isolde.ask<Trend>(
      'GET',
      `/figures/trend?from=${body.day}&to=${body.day}&compare=before`,
    );
    expect(trend.body.days).toEqual([expect.objectContaining({ day: body.day, sold: body.now.sold })]);
  });

  it('are counted sale by sale without reading all sales, also where the planner knows of few', async () => {
    const { database } = test.house;
    await database.ask((sql) => sql.query('analyze'));
    const read = (sql: Reader) =>
      sql.query<{ name: string; rows: number }>(
        `select relname as name, seq_tup_read as rows from pg_stat_xact_user_tables
         where relname in ('sale_line', 'sale_tax', 'tender', 'stock_move', 'ledger_event') order by name`,
      );
    const [before, after] = await database.write(async (sql) => {
      const earlier = await read(sql);
      const [sale] = await sql.query<{ id: string }>('select id from sale limit 1');
      for (const times of [-1, 1]) {
        await sql.query('select count_figures(array[$1]::uuid[], $2)', [sale?.id ?? '', times]);
      }
      return [earlier, await read(sql)];
    });
    expect(after).toEqual(before);
  });

  it('are refused to those without the right, and for days that are none', async () => {
    const teo = test.browser();
    await teo.signIn('2468', 3);
    expect((await teo.ask('GET', '/figures/today')).status).toBe(403);
    expect((await isolde.ask('GET', '/figures/reports/days?from=2026-03-02&to=2026-03-01')).status).toBe(422);
    expect((await isolde.ask('GET', '/figures/trend?from=1900-01-01&to=2030-01-01')).status).toBe(422);
    expect((await isolde.ask('GET', `/figures/reports/nothing?${DAYS}`)).status).toBe(404);
  });

  it('count a voided sale among the voids, and nowhere else', async () => {
    const before = await isolde.ask<ReportAnswer>('GET', `/figures/reports/voids?${DAYS}`);
    expect(before.body.rows).toEqual([]);
    const sale = await ringUp(test, ['LES-30']);
    const sold = (await pay(noor, sale)).body;
    const days = async () =>
      (await isolde.ask<ReportAnswer>('GET', `/figures/reports/days?${DAYS}`)).body.totals.now.sold ?? 0;
    const whole = await days();
    const chief = test.browser();
    await chief.signIn('8024', 1);
    const undone = await chief.ask('POST', `/journal/sales/${sold.id}/void`, { reason: 'Rung up twice' });
    expect(undone.status).toBe(200);
    expect(await days()).toBe(whole - 3200);
    const after = await isolde.ask<ReportAnswer>('GET', `/figures/reports/voids?${DAYS}`);
    expect(after.body.rows).toEqual([
      expect.objectContaining({ name: 'Isolde R.', now: { count: 1, total: 3200 } }),
    ]);
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('say what differs where a kept figure is not that of its sales', async () => {
    await test.house.database.ask((sql) =>
      sql.query("update day_figure set amount = amount + 5 where kind = 'sale'"),
    );
    const { body } = await isolde.ask<Tie[]>('GET', `/figures/ties?${DAYS}`);
    expect(body.some(({ left, right }) => left.amount !== right.amount)).toBe(true);
    expect(await allChecks()).toContainEqual(
      expect.objectContaining({
        check: 'figures of each day are those of its sales',
        what: expect.stringMatching(/^amount of sale /) as string,
      }),
    );
    await test.house.database.ask((sql) =>
      sql.query("update day_figure set amount = amount - 5 where kind = 'sale'"),
    );
  });

  it('go out by mail once the last drawer is closed', async () => {
    await test.house.database.ask((sql) => sql.query("update shop set summary_mail = 'owner@shop.example'"));
    const { expected } = (await noor.ask<DrawerState>('GET', '/drawer')).body;
    const closed = await noor.ask('POST', '/drawer/closings', {
      pieces: { 1: expected ?? 0 },
      expected,
      float: 20_000,
      bagNumber: '',
      note: '',
      others: [],
      signature: { name: 'Noor A.', path: '' },
    });
    expect(closed.status).toBe(200);
    const messages = await test.house.database.ask((sql) => dueMessages(sql, new Date('2030-01-01'), 10));
    const mail = messages.find(({ recipient }) => recipient === 'owner@shop.example');
    if (mail?.about?.kind !== 'day') throw new Error('no mail about the day');
    const { day } = mail.about;
    const paper = await test.house.database.ask((sql) => daySummaryPaper(sql, day));
    const pairs = paper.rows.flatMap((row) => (row.kind === 'pair' ? [[row.left, row.right]] : []));
    const { body } = await isolde.ask<TodayFigures>('GET', '/figures/today');
    expect(pairs).toContainEqual(['Sales', String(body.now.count)]);
    expect(paper.rows).toContainEqual({ kind: 'text', text: 'Best items' });
  });
});

describe(`figures of a shop that has just begun, on ${ENGINE}`, () => {
  it('say where they stand what they lack', async () => {
    const fresh = await openHouse();
    await fresh.house.database.ask((sql) => sql.query('delete from customer_membership'));
    const chief = fresh.browser();
    await chief.signIn('8024', 1);
    const lacks = async (name: string) =>
      (await chief.ask<ReportAnswer>('GET', `/figures/reports/${name}?${DAYS}`)).body.lacks.map(
        ({ to }) => to,
      );
    expect([await lacks('groups'), await lacks('hours'), await lacks('stock')]).toEqual([
      ['/goods', '/people'],
      ['/goods'],
      ['/goods'],
    ]);
    expect(await lacks('means')).toEqual([]);
    await fresh.stop();
  });
});

describe(`figures after midnight on ${ENGINE}`, () => {
  it('are of the day that has not ended, put beside the whole evening of a week ago', async () => {
    // Half past one at night in the shop, whose day ends at three.
    const night = await openHouse('demo', { MONDREL_NOW: '2026-03-03T06:30:00Z' });
    await night.house.database.ask((sql) => sql.query('update shop set day_ends = 3'));
    await night.house.database.ask((sql) =>
      sql.query(
        `insert into day_figure (kind, day, till_id, hour, subject, count, quantity, amount, more)
         select 'sale', day, 1, hour, '1', 1, 1000, amount, 0
         from (values (date '2026-02-23', 22, 500), ('2026-02-23', 0, 40), ('2026-02-23', 2, 7),
           ('2026-03-02', 23, 600))
           as sold (day, hour, amount)`,
      ),
    );
    const chief = night.browser();
    await chief.signIn('8024', 1);
    const { body } = await chief.ask<TodayFigures>('GET', '/figures/today');
    await night.stop();
    expect([body.day, body.time, body.now.sold]).toEqual(['2026-03-02', '01:30', 600]);
    // Not what was sold after half past one.
    expect([body.before.sold, body.beforeWhole.sold]).toEqual([540, 547]);
    expect(body.hours.map(({ hour }) => hour)).toEqual([22, 23, 0, 1, 2]);
  });
});
