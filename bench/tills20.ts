import { v4 as newId } from 'uuid';
import type { FinishedSale } from '../contract/counter.ts';
import { REPORT_NAMES } from '../core/figures/reports.ts';
import { verify } from '../server/books/verify.ts';
import { browserOf, openDrawer, type Browser } from '../server/testing/browser.ts';
import type { Serving } from '../server/serve.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, quantile, type Figure } from './measure.ts';

const TILLS = 20;
/** How long the tills sell; `TILLS_SECONDS` makes it shorter. */
const SECONDS = Number(process.env.TILLS_SECONDS ?? 60);
const ALONE_SECONDS = Math.min(15, SECONDS);

/** Twenty tills that sell at once, against one of them alone. Every sale must be there once, and the books balance. */
export const tills20 = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const tills = await openTills(serving);
  const [first] = tills;
  if (!first) throw new Error('there is no till');
  const alone = await sell(serving, [first], ALONE_SECONDS);
  const all = await sell(serving, tills, SECONDS);
  const watched = await whileReportsRun(serving, () => sell(serving, tills, SECONDS));
  await checkAll(serving, [...alone.sales, ...all.sales, ...watched.sales]);
  const rate = ({ times, seconds }: Sold) => times.length / seconds;
  return [
    figure(`tills-20 ${engine}`, 'sales/s', rate(all), rate(alone), all.times.length),
    figure(
      `tills-20 ${engine} while all reports run`,
      'sales/s',
      rate(watched),
      rate(all),
      watched.times.length,
      { words: 'at most 10 % slower', met: (_value, ratio) => ratio >= 0.9 },
    ),
    figure(
      `tills-20 ${engine} p50`,
      'ms p50',
      quantile(all.times, 0.5),
      quantile(alone.times, 0.5),
      all.times.length,
    ),
    figure(
      `tills-20 ${engine} p99`,
      'ms p99',
      quantile(all.times, 0.99),
      quantile(alone.times, 0.99),
      all.times.length,
    ),
  ];
}

/** Does something while somebody at a desk asks for one report after the other, over and over. */
async function whileReportsRun<T>(serving: Serving, work: () => Promise<T>): Promise<T> {
  const desk = browserOf(() => serving.url);
  await desk.signIn('8024', 1);
  const day = new Date().toISOString().slice(0, 10);
  let going = true;
  const asking = (async () => {
    while (going) {
      for (const name of REPORT_NAMES) {
        if (!going) break;
        const { status } = await desk.ask(
          'GET',
          `/figures/reports/${name}?from=2020-01-01&to=${day}&compare=before`,
        );
        if (status !== 200) throw new Error(`${name} was not answered`);
      }
    }
  })();
  try {
    return await work();
  } finally {
    going = false;
    await asking;
  }
}

/** As many tills as it takes, each with somebody and an open drawer. */
async function openTills(serving: Serving): Promise<Browser[]> {
  const { database } = serving.house;
  await database.ask((sql) =>
    sql.query(
      `insert into till (number, place_id) select number, 1 from generate_series(4, ${TILLS}) as number`,
    ),
  );
  const ids = await database.ask((sql) => sql.query<{ id: number }>('select id from till order by number'));
  const tills: Browser[] = [];
  for (const { id } of ids) {
    const browser = browserOf(() => serving.url);
    await browser.signIn('1357', id);
    await openDrawer(browser);
    tills.push(browser);
  }
  return tills;
}

interface Sold {
  sales: FinishedSale[];
  /** Milliseconds that each sale took. */
  times: number[];
  seconds: number;
}

async function sell(serving: Serving, tills: readonly Browser[], seconds: number): Promise<Sold> {
  const [item] = await serving.house.database.ask((sql) =>
    sql.query<{ id: number; tax: number; price: number }>(
      "select id, tax_category_id as tax, price from item where number = 'LES-30'",
    ),
  );
  if (!item) throw new Error('the lesson is not in the shop');
  const began = performance.now();
  const sold: Sold = { sales: [], times: [], seconds: 0 };
  await Promise.all(
    tills.map(async (browser) => {
      while (performance.now() - began < seconds * 1000) {
        const line = (at: number) => ({
          id: newId(),
          itemId: item.id,
          number: 'LES-30',
          name: `Lesson ${at}`,
          unit: 'each',
          decimals: 0,
          taxCategoryId: item.tax,
          quantity: 1000,
          listPrice: item.price,
        });
        const basket = { id: newId(), lines: [line(1), line(2), line(3)] };
        const total = 3 * item.price;
        const start = performance.now();
        const { status, body } = await browser.ask<FinishedSale>(
          'POST',
          '/counter/sales',
          { basket, expectedTotal: total, handed: total },
          { 'idempotency-key': basket.id },
        );
        if (status !== 200) throw new Error(`a sale was refused: ${JSON.stringify(body)}`);
        sold.times.push(performance.now() - start);
        sold.sales.push(body);
      }
    }),
  );
  sold.seconds = (performance.now() - began) / 1000;
  return sold;
}

/** @throws Error when a sale is lost, doubled or wrong, or anything does not tie out */
async function checkAll({ house }: Serving, sales: readonly FinishedSale[]): Promise<void> {
  const stored = await house.database.ask((sql) =>
    sql.query<{ id: string; total: number }>('select id, total from sale'),
  );
  const totals = new Map(stored.map(({ id, total }) => [id, total]));
  const lost = sales.filter(({ id, total }) => totals.get(id) !== total);
  const numbers = new Set(sales.map(({ number }) => number));
  if (lost.length > 0) throw new Error(`${lost.length} sales are lost or wrong`);
  if (stored.length !== sales.length)
    throw new Error(`${stored.length} sales stored for ${sales.length} made`);
  if (numbers.size !== sales.length) throw new Error('a receipt number was given twice');
  const differences = await house.database.ask(verify);
  if (differences.length > 0) throw new Error(`does not tie out: ${JSON.stringify(differences[0])}`);
}
