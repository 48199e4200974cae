import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ReportAnswer, TiesAnswer, TodayFigures, Trend } from '../../contract/figures.ts';
import { REPORT_NAMES } from '../../core/figures/reports.ts';
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
const DAYS = 'from=2020-01-01&to=2030-01-01';

beforeAll(async () => {
  test = await openHouse();
  const noor = test.browser();
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

  it('tie to the books, the journal and each other', async () => {
    const { status, body } = await isolde.ask<TiesAnswer>('GET', `/figures/ties?${DAYS}`);
    expect(status).toBe(200);
    expect(body.differences).toEqual([]);
    for (const { what, left, right } of body.ties) expect([what, left.amount]).toEqual([what, right.amount]);
    expect(body.ties.find(({ what }) => what === 'Sold without tax')?.left.amount).toBeGreaterThan(0);
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

  it('are refused to those without the right, and for days that are none', async () => {
    const teo = test.browser();
    await teo.signIn('2468', 3);
    expect((await teo.ask('GET', '/figures/today')).status).toBe(403);
    expect((await isolde.ask('GET', '/figures/reports/days?from=2026-03-02&to=2026-03-01')).status).toBe(422);
    expect((await isolde.ask('GET', `/figures/reports/nothing?${DAYS}`)).status).toBe(404);
  });
});
