import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FigureProblem, StoredBasket } from '../../contract/counter.ts';
import type { DrawerState } from '../../contract/drawer.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { verify } from '../books/verify.ts';
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
let noor: Browser;
let teo: Browser;

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  teo = test.browser();
  await noor.signIn('1357', 1);
  await teo.signIn('2468', 2);
});
afterAll(() => test.stop());

const problem = (answer: { body: unknown }) => answer.body as ProblemDetails;
const differences = () => test.house.database.ask(verify);
const stockOf = async (number: string) => {
  const [row] = await test.house.database.ask((sql) =>
    sql.query<{ quantity: number }>(
      'select quantity from stock_level join item on item.id = item_id where number = $1 and place_id = 1',
      [number],
    ),
  );
  return row?.quantity ?? 0;
};

describe(`selling on ${ENGINE}`, () => {
  it('takes no cash while the drawer is closed, and loses nothing', async () => {
    const sale = await ringUp(test, ['CLA-0220']);
    const refused = await pay(noor, sale);
    expect([refused.status, problem(refused).type]).toEqual([409, 'no-open-drawer']);
    await openDrawer(noor);
    expect((await pay(noor, sale)).body).toMatchObject({ number: '1-0001', total: 46_118 });
  });

  it('stores a sale with stock, drawer, ledger and receipt tied out', async () => {
    const before = await stockOf('REE-BC-25');
    const sale = await ringUp(test, ['REE-BC-25', 'MUS-ST11', 'LES-30', 'CAB-CUT']);
    const { body } = await pay(noor, { ...sale, handed: 10_000 });
    expect(body).toMatchObject({ number: '1-0002', handed: 10_000, change: 10_000 - sale.expectedTotal });
    expect(await stockOf('REE-BC-25')).toBe(before - 1000);
    const { body: drawer } = await noor.ask<DrawerState>('GET', '/drawer');
    expect(drawer.expected).toBe(20_000 + 46_118 + sale.expectedTotal);
    expect(drawer.movements).toMatchObject({
      cashTaken: 46_118 + 10_000,
      changeGiven: 10_000 - sale.expectedTotal,
    });
    expect(await differences()).toEqual([]);
  });

  it('finishes a sale once, however often and from wherever it is asked for', async () => {
    const sale = await ringUp(test, ['STA-ORCH']);
    const answers = await Promise.all(Array.from({ length: 8 }, () => pay(noor, sale)));
    expect(answers.map(({ status }) => status)).toEqual(Array(8).fill(200));
    expect(new Set(answers.map(({ body }) => body.number))).toEqual(new Set(['1-0003']));
    await test.restart();
    expect((await pay(noor, sale)).body).toMatchObject({ number: '1-0003', total: sale.expectedTotal });
    expect(await differences()).toEqual([]);
  });

  it('numbers the receipts of each till without gaps when both sell at once', async () => {
    await openDrawer(teo);
    const sales = await Promise.all(Array.from({ length: 24 }, () => ringUp(test, ['PIC-M', 'MUS-ME-RE'])));
    const answers = await Promise.all(sales.map((sale, at) => pay(at % 2 ? noor : teo, sale)));
    const numbers = answers.map(({ body }) => body.number).sort();
    expect(new Set(numbers).size).toBe(24);
    expect(numbers.filter((number) => number.startsWith('2-')).at(-1)).toBe('2-0012');
    expect(await differences()).toEqual([]);
  });

  it('answers with the new figures when a price has changed, and takes nothing', async () => {
    const sale = await ringUp(test, ['STA-ORCH']);
    await test.house.database.ask((sql) =>
      sql.query("update item set price = 6900 where number = 'STA-ORCH'"),
    );
    const refused = await pay(noor, sale);
    expect([refused.status, problem(refused).type]).toEqual([409, 'figures-differ']);
    const { basket, priced } = problem(refused).data as FigureProblem;
    expect([basket.lines[0]?.listPrice, priced.total]).toEqual([6900, 7418]);
    const accepted = await pay(noor, {
      basket: { ...sale.basket, lines: basket.lines as never },
      expectedTotal: 7418,
      handed: 7418,
    });
    expect(accepted.status).toBe(200);
  });

  it('refuses too little cash, an empty basket and goods that are no longer sold, in words', async () => {
    const sale = await ringUp(test, ['MET-P']);
    const short = await pay(noor, { ...sale, handed: sale.expectedTotal - 1 });
    expect(problem(short).fields).toEqual([
      { field: 'handed', message: '31.17 does not cover it: 0.01 is missing.' },
    ]);
    const empty = await pay(noor, { ...sale, basket: { ...sale.basket, lines: [] } });
    expect(problem(empty).title).toContain('The basket is empty');
    await test.house.database.ask((sql) =>
      sql.query("update item set active = false where number = 'MET-P'"),
    );
    expect(problem(await pay(noor, sale)).title).toContain('is no longer sold');
  });

  it('refuses a sale under another key, and quantities out of range', async () => {
    const sale = await ringUp(test, ['MET-C']);
    const other = await noor.ask('POST', '/counter/sales', sale);
    expect(other.status).toBe(400);
    const [line] = sale.basket.lines;
    const odd = { ...sale, basket: { ...sale.basket, lines: [{ ...line, quantity: 0 }] } };
    expect(
      (await noor.ask('POST', '/counter/sales', odd, { 'idempotency-key': sale.basket.id })).status,
    ).toBe(422);
  });

  it('sells what is out of stock, and counts below zero', async () => {
    await test.house.database.ask((sql) =>
      sql.query(
        "update stock_level set quantity = 0 where place_id = 1 and item_id = (select id from item where number = 'MET-W')",
      ),
    );
    expect((await pay(noor, await ringUp(test, ['MET-W']))).status).toBe(200);
    expect(await stockOf('MET-W')).toBe(-1000);
    expect((await differences()).map(({ check }) => check)).toEqual([
      'stock levels are what lies there less what is owed, and nothing is owed beside goods',
      'stock levels are the sums of their moves',
    ]);
  });
});

describe('the basket of a till', () => {
  it('is kept through a restart', async () => {
    const { basket } = await ringUp(test, ['MET-C', 'MUS-ME-RE']);
    const saved = await teo.ask<{ revision: number }>('PUT', '/counter/basket', { basket, revision: 0 });
    expect(saved.body.revision).toBe(1);
    await test.restart();
    const { body } = await teo.ask<StoredBasket>('GET', '/counter/basket');
    expect(body.revision).toBe(1);
    expect(body.basket.lines.map(({ number }) => number)).toEqual(['MET-C', 'MUS-ME-RE']);
  });

  it('is stored once by a write that is asked again, and says which write that was', async () => {
    const { basket } = await ringUp(test, ['MET-C']);
    const { revision } = (await teo.ask<StoredBasket>('GET', '/counter/basket')).body;
    const key = { 'idempotency-key': newKey() };
    const put = () => teo.ask<{ revision: number }>('PUT', '/counter/basket', { basket, revision }, key);
    const answers = [await put(), await put()];
    expect(answers.map(({ status, body }) => [status, body.revision])).toEqual([
      [200, revision + 1],
      [200, revision + 1],
    ]);
    const { body } = await teo.ask<StoredBasket>('GET', '/counter/basket');
    expect([body.revision, body.savedBy]).toEqual([revision + 1, key['idempotency-key']]);
  });

  it('is not overwritten by a window that has not seen the last change', async () => {
    const { basket } = await ringUp(test, ['MET-C']);
    const { status, body } = await teo.ask('PUT', '/counter/basket', { basket, revision: 0 });
    expect([status, problem({ body }).type]).toEqual([409, 'basket-changed']);
    expect((problem({ body }).data as StoredBasket).revision).toBe(2);
  });

  it('goes with its sale, and cannot come back', async () => {
    const sale = await ringUp(test, ['MET-C']);
    await teo.ask('PUT', '/counter/basket', { basket: sale.basket, revision: 2 });
    await pay(teo, sale);
    expect((await teo.ask('GET', '/counter/basket')).body).toBeNull();
    const late = await teo.ask('PUT', '/counter/basket', { basket: sale.basket, revision: 3 });
    expect([late.status, problem(late).type]).toEqual([409, 'sale-finished']);
  });

  it('refuses what is no basket', async () => {
    const { status, body } = await teo.ask('PUT', '/counter/basket', {
      basket: { id: newKey(), lines: [{ id: 'x' }] },
      revision: 0,
    });
    expect(status).toBe(422);
    expect(problem({ body }).fields?.some(({ field }) => field === 'basket.lines[0].itemId')).toBe(true);
  });
});
