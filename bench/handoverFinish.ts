import { v4 as newId } from 'uuid';
import type { PromiseView } from '../contract/promises.ts';
import type { BasketLine } from '../core/counter/basket.ts';
import { goodsLines, moneyLine } from '../core/counter/promiseBasket.ts';
import { PLAIN_LINE, type PromiseLine } from '../core/promises/promised.ts';
import { ONE } from '../core/quantity.ts';
import * as promises from '../server/promises/goodsStore.ts';
import type { Database } from '../server/db/database.ts';
import { browserOf, openDrawer, type Browser } from '../server/testing/browser.ts';
import type { Serving } from '../server/serve.ts';
import { bareFigures, bareKey, barePayment, barePosting, bareReceipt, bareSale } from './bareRows.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, median, quantile, type Figure } from './measure.ts';
import { printed } from './printed.ts';

const ROUNDS = 150;
const LINES = 5;
const PRICE = 3200;
const TOTAL = LINES * PRICE;

/** Five lines that were paid for before are handed over through HTTP; the floor writes the same rows with bare SQL. */
export const handoverFinish = (): Promise<Figure[]> => onBothEngines(measure);

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const { database } = serving.house;
  const browser = browserOf(() => serving.url);
  await browser.signIn('1357', 1);
  await openDrawer(browser);
  const [item] = await database.ask((sql) =>
    sql.query<Pick<PromiseLine, 'itemId' | 'number' | 'name' | 'unit' | 'decimals' | 'taxCategoryId'>>(
      `select id as "itemId", number, name, unit, decimals, tax_category_id as "taxCategoryId" from item
        where number = 'LES-30'`,
    ),
  );
  if (!item) throw new Error('the lesson is not in the shop');
  const paid: PromiseView[] = [];
  for (let nth = 0; nth < ROUNDS + 20; nth++) paid.push(await paidLayaway(browser, database, item));
  let receipt = 1_000_000;
  const bare = await Promise.all(Array.from({ length: ROUNDS + 20 }, () => layaway(database, item)));
  const [throughHttp, floor] = await inTurn(
    ROUNDS,
    async () => {
      const view = paid.pop();
      if (!view) throw new Error('no layaway is left');
      const wanted = new Map(view.lines.map(({ position, quantity }) => [position, quantity]));
      await sell(browser, [...goodsLines(view, wanted, newId), moneyLine(view, 'used', 0 - TOTAL, newId)], 0);
    },
    () => bareHandover(database, item, bare.pop() ?? '', receipt++),
    undefined,
    () => printed(database),
  );
  return [
    figure(`handover-finish ${engine}`, 'ms median', median(throughHttp), median(floor), ROUNDS, {
      words: 'at most 2.5 times the floor',
      met: (_value, ratio) => ratio <= 2.5,
    }),
    figure(
      `handover-finish ${engine} p99`,
      'ms p99',
      quantile(throughHttp, 0.99),
      quantile(floor, 0.99),
      ROUNDS,
    ),
  ];
}

type Item = Pick<PromiseLine, 'itemId' | 'number' | 'name' | 'unit' | 'decimals' | 'taxCategoryId'>;

async function sell(browser: Browser, lines: BasketLine[], total: number): Promise<void> {
  const basket = { id: newId(), lines };
  const { status, body } = await browser.ask(
    'POST',
    '/counter/sales',
    { basket, expectedTotal: total, handed: total },
    { 'idempotency-key': basket.id },
  );
  if (status !== 200) throw new Error(`a sale was refused: ${JSON.stringify(body)}`);
}

/** Five lessons set aside for somebody. @returns the id of the layaway */
async function layaway(database: Database, item: Item): Promise<string> {
  const id = newId();
  await database.write((sql) =>
    promises.addPromise(sql, {
      id,
      basketId: newId(),
      kind: 'layaway',
      customerId: 1,
      placeId: 1,
      tillId: 1,
      staffId: 1,
      at: new Date(),
      taxMode: 'on-top',
      total: TOTAL,
      fee: 0,
      note: '',
      coming: false,
      plan: [{ day: new Date().toISOString().slice(0, 10), amount: TOTAL }],
      lines: Array.from({ length: LINES }, (_, at) => ({
        ...item,
        position: at + 1,
        quantity: ONE,
        ...PLAIN_LINE,
        unitPrice: PRICE,
        regular: PRICE,
        net: PRICE,
        tax: 0,
        records: [],
        stocked: false,
      })),
      words: ['lesson'],
    }),
  );
  return id;
}

async function paidLayaway(browser: Browser, database: Database, item: Item): Promise<PromiseView> {
  const id = await layaway(database, item);
  const { body: view } = await browser.ask<PromiseView>('GET', `/waiting/promises/${id}`);
  await sell(browser, [moneyLine(view, 'deposit', TOTAL, newId)], TOTAL);
  return (await browser.ask<PromiseView>('GET', `/waiting/promises/${id}`)).body;
}

/** The rows that handing over writes, without asking anything first. */
async function bareHandover(
  database: Database,
  item: Item,
  promiseId: string,
  receipt: number,
): Promise<void> {
  const sale = { id: newId(), receipt, at: new Date().toISOString(), total: 0 };
  const { id, at } = sale;
  const goods = Array.from({ length: LINES }, (_, at) => at + 1);
  await database.write(async (sql) => {
    await barePayment(sql, sale);
    await bareKey(sql, at);
    await bareSale(sql, sale);
    await sql.query(
      `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price,
        regular, net, promise_id, promise_part, promise_position)
       values ${goods.map((line) => `($1, ${line}, $2, 1, $3, $4, 'each', 1000, $5, $5, $5, $6, 'goods', ${line})`).join(', ')},
         ($1, ${LINES + 1}, $2, 1, 'DEPOSIT', 'Deposit used', 'each', 1000, -$5::bigint * ${LINES},
         -$5::bigint * ${LINES}, -$5::bigint * ${LINES}, $6, 'used', null)`,
      [id, item.itemId, item.number, item.name, PRICE, promiseId],
    );
    await sql.query(
      "insert into promise_move (promise_id, kind, amount, sale_id, at) values ($1, 'deposit', $2, $3, $4)",
      [promiseId, TOTAL, id, at],
    );
    await sql.query(
      "insert into promise_move (promise_id, kind, amount, sale_id, at) values ($1, 'used', -($2::bigint), $3, $4)",
      [promiseId, TOTAL, id, at],
    );
    await sql.query('update promise_line set handed = quantity, set_aside = 0 where promise_id = $1', [
      promiseId,
    ]);
    await sql.query('update promise set held = 0, handed = units, rest = 0, next_due = null where id = $1', [
      promiseId,
    ]);
    await sql.query(
      "insert into promise_event (promise_id, at, staff_id, what, sale_id) values ($1, $2, 1, 'Handed over', $3), ($1, $2, 1, 'Deposit used', $3)",
      [promiseId, at, id],
    );
    await barePosting(sql, sale, [
      ['customer-deposits', `promise:${promiseId}`, TOTAL],
      ['sales', '', 0 - TOTAL],
    ]);
    await sql.query(
      `insert into account_balance as held (account, subject, balance) values ('customer-deposits', $1, $2)
       on conflict (account, subject) do update set balance = held.balance + excluded.balance`,
      [`promise:${promiseId}`, TOTAL],
    );
    await bareFigures(sql, sale, [
      ['category', '1'],
      ['customer', 'known'],
      ['deposit', 'used'],
      ['sale', '1'],
    ]);
    await bareReceipt(sql, sale);
  });
}
