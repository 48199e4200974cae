import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { FinishedSale } from '../../contract/counter.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { LayawayWanted, PromisePage, PromiseView } from '../../contract/promises.ts';
import type { Basket, BasketCustomer, BasketLine } from '../../core/counter/basket.ts';
import { cancelLines, depositUsed, goodsLines, moneyLine } from '../../core/counter/promiseBasket.ts';
import { dueOf } from '../../core/counter/promisedLines.ts';
import { linesToPrice } from '../../core/counter/toPrice.ts';
import { sum } from '../../core/money.ts';
import { priceBasket } from '../../core/offers/price.ts';
import { ratesOn } from '../../core/offers/taxRates.ts';
import { verify } from '../ledger/verify.ts';
import { taxRates } from '../shop/store.ts';
import { TEST_NOW } from '../testing/globalSetup.ts';
import { ENGINE, openDrawer, openHouse, ringUp, type Browser, type TestHouse } from '../testing/testHouse.ts';
import type { MadeLayaway } from './layaways.ts';

let test: TestHouse;
let noor: Browser;
let maren: Browser;

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  maren = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  await maren.signIn('3690', 2);
  await openDrawer(maren);
  const [plain] = await sql<BasketCustomer>(
    'select id, name from customer where id not in (select customer_id from customer_membership) order by id',
  );
  customer = plain ?? { id: 0, name: '' };
});
afterAll(() => test.stop());

const TODAY = TEST_NOW.slice(0, 10);
/** Somebody for whom no other prices hold. */
let customer: BasketCustomer;
const TERMS: LayawayWanted = {
  deposit: 0,
  parts: 3,
  interval: 'month',
  firstDay: '2099-01-31',
  fee: 0,
  coming: false,
  note: '',
};
const sql = <Row extends object>(text: string, values: (string | number)[] = []) =>
  test.house.database.ask((reader) => reader.query<Row>(text, values));

/** What a basket comes to, as a till shows it. */
async function priced(basket: Basket) {
  const rates = await test.house.database.ask(taxRates);
  return priceBasket(
    linesToPrice(basket, { rates: ratesOn(rates, TODAY), groupPrices: [], goodsOf: () => undefined }),
    { taxMode: 'on-top', taxRounding: 'sale' },
  );
}

async function make(numbers: readonly string[], terms: Partial<LayawayWanted> = {}, by = noor) {
  const { basket, expectedTotal } = await ringUp(test, numbers);
  const wanted = {
    basket: { ...basket, customer },
    expectedTotal,
    terms: { ...TERMS, deposit: Math.ceil(expectedTotal / 4), ...terms },
  };
  const key = { 'idempotency-key': newKey() };
  const ask = () => by.ask<MadeLayaway & ProblemDetails>('POST', '/waiting/promises/layaways', wanted, key);
  return { wanted, ask, answer: await ask() };
}

const look = async (id: string) => (await noor.ask<PromiseView>('GET', `/waiting/promises/${id}`)).body;

async function payBasket(by: Browser, lines: BasketLine[]) {
  const basket: Basket = { id: newKey(), customer, lines };
  const { total } = await priced(basket);
  return by.ask<FinishedSale & ProblemDetails>(
    'POST',
    '/counter/sales',
    { basket, expectedTotal: total, handed: total },
    { 'idempotency-key': basket.id },
  );
}

const payDeposit = async (id: string, amount: number, by = noor) =>
  payBasket(by, [moneyLine(await look(id), 'deposit', amount, newKey)]);

/** Hands goods over as a till does: what of the deposit is used is worked out from what they come to. */
async function handOver(id: string, wanted: ReadonlyMap<number, number>, by = noor) {
  const view = await look(id);
  const lines = goodsLines(view, wanted, newKey);
  const due = dueOf(lines, await priced({ id: newKey(), lines }), () => true);
  const used = depositUsed(view, wanted, due, 200_000);
  return payBasket(by, [...lines, ...(used > 0 ? [moneyLine(view, 'used', 0 - used, newKey)] : [])]);
}

const all = (view: PromiseView) =>
  new Map(view.lines.map(({ position, quantity, handed }) => [position, quantity - handed]));
const differences = () => test.house.database.ask(verify);
const levelOf = async (number: string) =>
  (
    await sql<{ quantity: number; setAside: number }>(
      `select quantity, set_aside as "setAside" from stock_level join item on item.id = item_id
       where number = $1 and place_id = (select place_id from till where number = 1)`,
      [number],
    )
  )[0];

describe(`layaways on ${ENGINE}`, () => {
  it('set goods aside at the prices of the day, and put the deposit on the till', async () => {
    const before = await levelOf('MET-C');
    const { wanted, answer, ask } = await make(['MET-C', 'CAR-SO'], { note: 'for her birthday' });
    expect(answer.status).toBe(200);
    expect(answer.body.number).toMatch(/^L-\d{4}$/);
    expect(answer.body.stored?.basket.lines).toMatchObject([
      { name: `Deposit for ${answer.body.number}`, listPrice: wanted.terms.deposit },
    ]);
    const view = await look(answer.body.id);
    expect(view).toMatchObject({
      state: 'begun',
      total: wanted.expectedTotal,
      held: 0,
      rest: wanted.expectedTotal,
      note: 'for her birthday',
      due: wanted.terms.deposit,
    });
    expect(sum(view.plan.map(({ amount }) => amount))).toBe(wanted.expectedTotal);
    expect((await levelOf('MET-C'))?.setAside).toBe((before?.setAside ?? 0) + 1000);
    expect((await levelOf('MET-C'))?.quantity).toBe(before?.quantity);

    // Asked again with the same key, it is the same one.
    expect((await ask()).body).toMatchObject({ id: answer.body.id, number: answer.body.number });
    expect(await sql('select 1 from promise')).toHaveLength(1);
    // Nor do its goods come back with what their till had sent before.
    const late = await noor.ask<ProblemDetails>('PUT', '/counter/basket', {
      basket: wanted.basket,
      revision: 1,
    });
    expect([late.status, late.body.type]).toEqual([409, 'basket-held']);
  });

  it('print their terms, plan and barcode', async () => {
    const text = await vi.waitFor(async () => {
      const { body } = await noor.ask<{ text: string }[]>('GET', '/printer/papers');
      const paper = body.find((one) => one.text.includes('Layaway') || one.text.includes('LAYAWAY'));
      expect(paper).toBeDefined();
      return paper?.text ?? '';
    });
    expect(text).toContain('*L-0001*');
    expect(text).toContain('Part 3');
    expect(text).toContain('for her birthday');
  });

  it('take deposits as the money of the customer, and hand the goods over once all is settled', async () => {
    const { answer, wanted } = await make(['MET-C']);
    const { id, number } = answer.body;
    const first = await payDeposit(id, wanted.terms.deposit);
    expect(first.status).toBe(200);
    const receipt = await noor.ask<{ paper: { rows: { left?: string; right?: string }[] } }>(
      'GET',
      `/journal/sales/${first.body.id}`,
    );
    expect(receipt.body.paper.rows).toContainEqual(
      expect.objectContaining({ left: `${number}: paid so far` }),
    );
    expect(await look(id)).toMatchObject({ state: 'running', held: wanted.terms.deposit, overdueDays: 0 });

    // More than is left is refused; the rest is taken.
    const left = wanted.expectedTotal - wanted.terms.deposit;
    expect((await payDeposit(id, left + 1)).status).toBe(422);
    expect((await payDeposit(id, left)).status).toBe(200);
    expect(await look(id)).toMatchObject({ state: 'paid', held: wanted.expectedTotal, next: null });

    const before = await levelOf('MET-C');
    const handed = await handOver(id, all(await look(id)));
    expect(handed.body).toMatchObject({ total: 0 });
    expect(await look(id)).toMatchObject({ state: 'handed', held: 0, rest: 0 });
    expect(await levelOf('MET-C')).toEqual({
      quantity: (before?.quantity ?? 0) - 1000,
      setAside: (before?.setAside ?? 0) - 1000,
    });
    expect(await differences()).toEqual([]);
    // Nothing is handed over twice, and no deposit is taken for nothing.
    expect((await payDeposit(id, 100)).status).toBe(422);
  });

  it('are handed over in part: what stays keeps the least deposit', async () => {
    const { answer, wanted } = await make(['MET-C', 'CAR-SO', 'CAR-CG']);
    const { id } = answer.body;
    await payDeposit(id, wanted.terms.deposit);
    const sale = await handOver(id, new Map([[1, 1000]]));
    expect(sale.status).toBe(200);
    const view = await look(id);
    expect(view.state).toBe('part');
    expect(view.held).toBeGreaterThanOrEqual(Math.floor(view.rest * 0.2));
    await handOver(id, all(view));
    expect(await look(id)).toMatchObject({ state: 'handed', held: 0, rest: 0 });
    expect(await differences()).toEqual([]);
  });

  it('give the deposits back along their payments when they are cancelled, less the fee', async () => {
    const { answer, wanted } = await make(['CAR-SO', 'MET-C'], { fee: 200 });
    const { id } = answer.body;
    await payDeposit(id, wanted.terms.deposit);
    const view = await look(id);
    const before = await levelOf('MET-C');
    const lines = cancelLines(view, 200, 'changed her mind', newKey);
    const basket: Basket = { id: newKey(), customer, lines };
    const { total } = await priced(basket);
    expect(total).toBe(200 - wanted.terms.deposit);
    const ask = { basket, expectedTotal: total };
    const plan = await maren.ask<{
      parts: { to: string; amount: number; saleId: string; position: number }[];
    }>('POST', '/payment/refunds/plan', ask, { 'idempotency-key': newKey() });
    expect(plan.body.parts).toMatchObject([{ to: 'cash', amount: 0 - total }]);
    const parts = plan.body.parts.map((part) => ({ id: newKey(), ...part }));
    const given = await maren.ask(
      'POST',
      '/payment/refunds',
      { ...ask, parts },
      { 'idempotency-key': newKey() },
    );
    expect(given.status).toBe(200);
    expect(await look(id)).toMatchObject({ state: 'cancelled', held: 0 });
    expect((await levelOf('MET-C'))?.setAside).toBe((before?.setAside ?? 0) - 1000);
    const moves = await sql<{ kind: string; amount: number }>(
      'select kind, amount from promise_move where promise_id = $1 order by id',
      [id],
    );
    expect(moves).toEqual([
      { kind: 'deposit', amount: wanted.terms.deposit },
      { kind: 'fee', amount: -200 },
      { kind: 'back', amount: 200 - wanted.terms.deposit },
    ]);
    expect(await differences()).toEqual([]);
  });

  it('tell the second of two who want the last piece', async () => {
    const numbers = ['STA-ORCH'];
    const answers = await Promise.all([make(numbers), make(numbers, {}, maren)]);
    expect(answers.map(({ answer }) => answer.status).sort()).toEqual([200, 409]);
    const told = answers.find(({ answer }) => answer.status === 409)?.answer.body;
    expect(told?.type).toBe('not-available');
    // What still has to come can be promised all the same, and is set aside when it is here.
    const coming = await make(numbers, { coming: true }, maren);
    expect(coming.answer.status).toBe(200);
    expect((await look(coming.answer.body.id)).state).toBe('begun');
  });

  it('are given up without money when nothing was paid, and not otherwise', async () => {
    const { answer } = await make(['CAR-SO'], { deposit: 0 }, noor);
    expect(answer.status).toBe(422);
    const made = await make(['CAR-SO']);
    const { id } = made.answer.body;
    const cancel = () =>
      noor.ask<PromiseView>(
        'POST',
        `/waiting/promises/${id}/cancelled`,
        { reason: 'no longer wanted' },
        { 'idempotency-key': newKey() },
      );
    expect((await cancel()).body.state).toBe('cancelled');
    expect((await cancel()).status).toBe(409);
  });

  it('come back as they were when a sale that touched them is voided', async () => {
    const { answer, wanted } = await make(['CAR-SO', 'MET-C']);
    const { id } = answer.body;
    const deposit = await payDeposit(id, wanted.terms.deposit, maren);
    const handed = await handOver(id, all(await look(id)), maren);
    const undo = (saleId: string) =>
      maren.ask<ProblemDetails>(
        'POST',
        `/journal/sales/${saleId}/void`,
        { reason: 'wrong one' },
        { 'idempotency-key': newKey() },
      );
    // What was used cannot be taken back before what it was used for.
    expect((await undo(deposit.body.id)).status).toBe(409);
    expect((await undo(handed.body.id)).status).toBe(200);
    expect(await look(id)).toMatchObject({
      state: 'running',
      held: wanted.terms.deposit,
      rest: wanted.expectedTotal,
    });
    expect((await undo(deposit.body.id)).status).toBe(200);
    expect(await look(id)).toMatchObject({ state: 'begun', held: 0 });
    expect(await differences()).toEqual([]);
  });

  it('are found by number, customer and goods', async () => {
    const find = async (words: string) =>
      (await noor.ask<PromisePage>('GET', `/waiting/promises?show=all&find=${encodeURIComponent(words)}`))
        .body;
    expect((await find('l-0001')).rows.map(({ number }) => number)).toEqual(['L-0001']);
    expect((await find('metron')).rows.length).toBeGreaterThan(1);
    expect((await find('nothing of the kind')).rows).toEqual([]);
    expect((await noor.ask<PromiseView>('GET', '/waiting/promises/numbered/l-0001')).body.number).toBe(
      'L-0001',
    );
    expect((await noor.ask('GET', '/waiting/promises/numbered/L-9999')).status).toBe(404);
  });
});
