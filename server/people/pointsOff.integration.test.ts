import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FinishedSale } from '../../contract/counter.ts';
import type { CustomerPage } from '../../contract/people.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { SetupFacts } from '../../contract/setup.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import { verify } from '../books/verify.ts';
import { addSomebody } from '../testing/people.ts';
import { TERMS } from '../testing/promising.ts';
import { bringBack } from '../testing/returning.ts';
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
let maren: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  [noor, maren, isolde] = [test.browser(), test.browser(), test.browser()];
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  await maren.signIn('3690', 2);
  await openDrawer(maren);
  await isolde.signIn('8024', 3);
});
afterAll(() => test.stop());

const GOODS = ['CAR-SO', 'REC-SO', 'STA-FOLD-BK'];
let made = 0;
const correct = (id: number, amount: number) =>
  isolde.ask<ProblemDetails>('POST', `/people/customers/${id}/points`, { amount, words: 'a present' });
async function member(points: number): Promise<number> {
  made += 1;
  const id = await addSomebody(noor, `Payer ${made}`);
  await correct(id, points);
  return id;
}
const pointsOf = async (id: number) =>
  (await noor.ask<CustomerPage>('GET', `/people/customers/${id}/page`)).body.panel.points;
async function rung(id: number, pointsOff: number) {
  const sale = await ringUp(test, GOODS);
  const basket: Basket = { ...sale.basket, customer: { id, name: 'Payer' }, pointsOff };
  return { ...sale, basket };
}
/** What the server says that a basket comes to. */
async function figures(basket: Basket, by = noor): Promise<PricedBasket> {
  const answer = await pay(by, { basket, expectedTotal: 1, handed: 100_000 });
  return (answer.body as unknown as { data: { priced: PricedBasket } }).data.priced;
}
async function buy(id: number, pointsOff: number, by = noor): Promise<FinishedSale> {
  const { basket } = await rung(id, pointsOff);
  const { total } = await figures(basket, by);
  const { status, body } = await pay(by, { basket, expectedTotal: total, handed: total });
  expect([status, body]).toEqual([200, expect.anything()]);
  return body;
}
const moves = async (id: number) =>
  (await noor.ask<CustomerPage>('GET', `/people/customers/${id}/page`)).body.moves.map(
    ({ reason, amount }) => [reason, amount],
  );
const everythingTiesOut = async () => expect(await test.house.database.ask(verify)).toEqual([]);

describe(`points as money off on ${ENGINE}`, () => {
  it('reduce the goods before tax, earn nothing themselves, and stand on the receipt', async () => {
    const id = await member(350);
    const { basket } = await rung(id, 350);
    const [plain, reduced] = [await figures({ ...basket, pointsOff: undefined }), await figures(basket)];
    expect(reduced.pointsOff).toEqual({ points: 300, amount: 3_00 });
    expect(plain.total - reduced.total).toBeGreaterThan(3_00);
    const sale = await buy(id, 350);
    expect(sale.points).toMatchObject({ used: 300 });
    const net = reduced.lines.reduce((all, line) => all + line.net, 0);
    expect(await pointsOf(id)).toBe(50 + Math.floor(net / 100));
    const receipt = await noor.ask<{ text: string }>('GET', `/journal/sales/${sale.id}/receipt`);
    expect(JSON.stringify(receipt.body)).toContain('Paid with beats');
    expect(JSON.stringify(receipt.body)).toContain('Beats used');
    await everythingTiesOut();
  });

  it('go back with the goods that they paid for: in the end every one of them, in whatever pieces', async () => {
    const id = await member(1000);
    const sale = await buy(id, 700);
    for (const position of [2, 1, 3]) {
      expect((await bringBack(noor, sale.id, [{ position, quantity: 1000 }])).answer.status).toBe(200);
      await everythingTiesOut();
    }
    expect(await pointsOf(id)).toBe(1000);
    const given = (await moves(id)).filter(([reason]) => reason === 'money off given back');
    expect(given.reduce((all, [, amount]) => all + Number(amount), 0)).toBe(700);
  });

  it('follow a void, and the void of a return; not where they were used meanwhile', async () => {
    const id = await member(500);
    const sale = await buy(id, 500, maren);
    const { answer } = await bringBack(maren, sale.id, [{ position: 1, quantity: 1000 }]);
    expect(answer.status).toBe(200);
    const returned = answer.body.finished?.id ?? '';
    const had = await pointsOf(id);
    const undo = (saleId: string) => maren.ask('POST', `/journal/sales/${saleId}/void`, { reason: 'Wrong' });
    expect((await undo(returned)).status).toBe(200);
    expect(await pointsOf(id)).toBeLessThan(had);
    await everythingTiesOut();
    expect((await undo(sale.id)).status).toBe(200);
    expect(await pointsOf(id)).toBe(500);
    await everythingTiesOut();

    const again = await buy(id, 500, maren);
    const back = await bringBack(maren, again.id, [{ position: 1, quantity: 1000 }]);
    await correct(id, 0 - (await pointsOf(id)));
    const refused = await maren.ask<ProblemDetails>(
      'POST',
      `/journal/sales/${back.answer.body.finished?.id ?? ''}/void`,
      { reason: 'Wrong' },
    );
    expect([refused.status, refused.body.detail]).toEqual([409, 'The points were used meanwhile.']);
    await everythingTiesOut();
  });

  it('are held while a basket is paid: another till is told before it takes payment', async () => {
    const id = await member(600);
    const [first, second] = [await rung(id, 500), await rung(id, 500)];
    const claim = (by: Browser, { basket }: { basket: Basket }, points: number) =>
      by.ask<ProblemDetails>('POST', '/counter/claims', { basket, points });
    expect((await claim(noor, first, 500)).status).toBe(200);
    // Asked again, it holds them anew.
    expect((await claim(noor, first, 500)).status).toBe(200);
    const refused = await claim(maren, second, 500);
    expect([refused.status, refused.body.type, refused.body.data]).toEqual([
      409,
      'offer-used-up',
      { codes: [], points: true },
    ]);
    // Nobody takes them by hand meanwhile, and the other till prices with what is left.
    expect((await correct(id, -200)).status).toBe(422);
    expect((await figures(second.basket, maren)).pointsOff).toEqual({ points: 100, amount: 1_00 });
    // Let go, they are there for the other one.
    await noor.ask('DELETE', `/counter/claims/${first.basket.id}`, {});
    expect((await claim(maren, second, 500)).status).toBe(200);
    const { total } = await figures(second.basket, maren);
    const paid = await pay(maren, { basket: second.basket, expectedTotal: total, handed: total });
    expect(paid.status).toBe(200);
    expect((await figures(first.basket)).pointsOff).toEqual({ points: 100, amount: 1_00 });
    await everythingTiesOut();
  });

  it('are spent once by two tills in the same moment', async () => {
    const id = await member(500);
    const baskets = [await rung(id, 500), await rung(id, 500)];
    const { total } = await figures(baskets[0]?.basket ?? { id: '', lines: [] });
    const answers = await Promise.all(
      baskets.map(({ basket }, at) =>
        pay(at === 0 ? noor : maren, { basket, expectedTotal: total, handed: total }),
      ),
    );
    expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 409]);
    expect((await moves(id)).filter(([reason]) => reason === 'money off')).toEqual([['money off', -500]]);
    await everythingTiesOut();
  });

  it('take nothing off where the shop has none of it, and are not used for goods that are promised', async () => {
    const id = await member(500);
    const { basket } = await rung(id, 500);
    const { points } = (await isolde.ask<SetupFacts>('GET', '/setup/facts')).body;
    const put = (change: object) =>
      isolde.ask<ProblemDetails>('PUT', '/setup/points', { ...points, ...change });
    expect((await put({ offPoints: 100, offAmount: 0 })).status).toBe(422);
    await put({ offPoints: 0 });
    expect((await figures(basket)).pointsOff).toBeUndefined();
    await put({ on: false });
    expect((await figures(basket)).pointsOff).toBeUndefined();
    await put({});
    expect((await figures({ ...basket, customer: undefined })).pointsOff).toBeUndefined();
    const { total } = await figures(basket);
    const terms = { ...TERMS, deposit: total };
    const aside = await noor.ask<ProblemDetails>(
      'POST',
      '/waiting/promises/layaways',
      { basket, expectedTotal: total, terms },
      { 'idempotency-key': newId() },
    );
    expect(aside.body.fields?.[0]?.message).toBe(
      'What is paid with beats is counted when it is used: sell it at once, or take it off.',
    );
  });
});
