import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../../contract/testing/eventually.ts';
import type { FigureProblem } from '../../../contract/counter.ts';
import type { JournalPage, JournalSale } from '../../../contract/journal.ts';
import type { StoredValueView } from '../../../contract/giftCards.ts';
import type { PaymentView } from '../../../contract/payment.ts';
import type { ProblemDetails } from '../../../contract/problem.ts';
import type { RefundQuote, Returnable } from '../../../contract/returns.ts';
import type { Basket } from '../../../core/counter/basket.ts';
import type { Step } from '../../../core/staff/approval.ts';
import { verify } from '../../books/verify.ts';
import { standIn, take, tap, tenderFor, typesByKind, view } from '../../testing/paying.ts';
import {
  anyAmount,
  approveFor,
  bringBack,
  giveBack,
  linesBack,
  planFor,
  soldIn,
  stockOf,
} from '../../testing/returning.ts';
import { addSomebody } from '../../testing/people.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../../testing/testHouse.ts';

let house: TestHouse;
let noor: Browser;
let teo: Browser;
let types: ReadonlyMap<string, number>;
/** What was refused, and why. */
const problemOf = (answer: { body: unknown }) => answer.body as ProblemDetails;

beforeAll(async () => {
  house = await openHouse();
  noor = house.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  teo = house.browser();
  await teo.signIn('2468', 2);
  await openDrawer(teo);
  types = await typesByKind(house);
});
afterAll(async () => {
  expect(await house.house.database.ask(verify)).toEqual([]);
  await house.stop();
});

const sold = (numbers: readonly string[], units = 1) => soldIn(house, noor, numbers, units);
const approve = (about: string, right: string, covers?: Step[]) => approveFor(noor, about, right, covers);
const expectedIn = async (browser: Browser): Promise<number> =>
  (await browser.ask<{ expected: number }>('GET', '/drawer')).body.expected;
const page = (id: string) => noor.ask<JournalSale>('GET', `/journal/sales/${id}`);
const detailOf = ({ body }: { body: unknown }) => JSON.stringify(body);

describe(`returns on ${ENGINE}`, () => {
  it('give back exactly what was paid, piece by piece, and put the goods back', async () => {
    const stock = await stockOf(house, 'MET-C');
    const cash = await expectedIn(noor);
    const sale = await sold(['MET-C', 'PIC-M'], 3);
    let back = 0;
    for (const position of [1, 2, 1, 2, 2, 1]) {
      const { answer, refund } = await bringBack(noor, sale.id, [{ position, quantity: 1000 }]);
      expect(answer.body.finished).toBeTruthy();
      back += refund;
    }
    expect(back).toBe(sale.total);
    expect(await stockOf(house, 'MET-C')).toBe(stock);
    expect(await expectedIn(noor)).toBe(cash);
    const { body } = await noor.ask<Returnable>('GET', `/journal/sales/${sale.id}/returnable`);
    expect(body.lines.map(({ left }) => left)).toEqual([0, 0]);
    expect((await page(sale.id)).body).toMatchObject({ returnable: false, kind: 'sale' });
    expect((await page(sale.id)).body.afterwards.returns).toHaveLength(6);
  });

  it('never come back twice, also from two tills at once', async () => {
    const sale = await sold(['CLA-0220']);
    const parts = [{ position: 1, quantity: 1000 }];
    const [first, second] = await Promise.all([
      linesBack(noor, sale.id, parts),
      linesBack(teo, sale.id, parts),
    ]);
    const large = [newId(), newId()];
    const baskets = [first, second].map(({ lines }, at): Basket => ({ id: large[at] ?? '', lines }));
    for (const basket of baskets) basket.refundCountersign = await approve(basket.id, 'return.large');
    const answers = await Promise.all(
      baskets.map((basket, at) =>
        giveBack(at === 0 ? noor : teo, basket, 0 - sale.total, [{ to: 'cash', amount: sale.total }]),
      ),
    );
    expect(answers.filter(({ body }) => body.finished).length).toBe(1);
    const { body } = await page(sale.id);
    expect(body.afterwards.returns).toHaveLength(1);
    // What the other till still holds is given up by undoing it.
    for (const [at, { body: payment }] of answers.entries()) {
      const held = payment.finished
        ? []
        : (payment.tenders ?? []).filter(({ state }) => state === 'approved');
      for (const { id } of held) await (at === 0 ? noor : teo).ask('POST', `/payment/tenders/${id}/undo`);
    }
  });

  it('are refused for more than was sold, and count for nothing where the browser says more', async () => {
    const sale = await sold(['MET-C']);
    const quote = await noor.ask('POST', `/journal/sales/${sale.id}/quotes`, {
      parts: [{ position: 1, quantity: 2000 }],
    });
    expect(quote.status).toBe(409);
    const { lines, refund } = await linesBack(noor, sale.id, [{ position: 1, quantity: 1000 }]);
    const [line] = lines;
    if (!line?.comesBack?.sale) throw new Error('no line came back');
    const { figures } = line.comesBack.sale;
    const more = {
      ...line,
      comesBack: {
        ...line.comesBack,
        sale: { ...line.comesBack.sale, figures: { ...figures, net: figures.net * 2 } },
      },
    };
    const answer = await giveBack(noor, { id: newId(), lines: [more] }, 0 - refund * 2, [
      { to: 'cash', amount: refund * 2 },
    ]);
    expect(answer.status).toBe(409);
    expect(detailOf(answer)).toContain('figures-differ');
  });

  it('go back to the gift card first, then the card without it, then in cash', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    const gift = await noor.ask<StoredValueView>('POST', '/gift-cards/enquiries', {
      number: '44100771417',
    });
    await take(
      noor,
      tenderFor(sale, types.get('stored-value') ?? 0, { amount: 35_50, number: '44100771417' }),
    );
    await take(noor, tenderFor(sale, types.get('card') ?? 0, { amount: 200_00 }));
    tap(standIn(house));
    await eventually(async () => {
      expect((await view(noor, sale)).body.tenders.filter(({ state }) => state === 'approved')).toHaveLength(
        2,
      );
    });
    const rest = sale.expectedTotal - 235_50;
    await take(noor, tenderFor(sale, types.get('cash') ?? 0, { amount: rest }));
    const { lines, refund } = await linesBack(noor, sale.basket.id, [{ position: 1, quantity: 1000 }]);
    expect(refund).toBe(sale.expectedTotal);
    const basket: Basket = { id: newId(), lines };
    expect((await planFor(noor, basket, 0 - refund)).status).toBe(403);
    basket.refundCountersign = await approve(basket.id, 'return.large');
    const plan = (await planFor(noor, basket, 0 - refund)).body;
    expect(plan.parts.map(({ to, amount }) => [to, amount])).toEqual([
      ['tender', 200_00],
      ['tender', 35_50],
      ['cash', rest],
    ]);
    // All of it in cash would need an approval.
    expect((await giveBack(noor, basket, 0 - refund, [{ to: 'cash', amount: refund }])).status).toBe(403);
    const answer = await giveBack(noor, basket, 0 - refund);
    expect(answer.body.finished).toMatchObject({ total: 0 - refund });
    expect(
      (await noor.ask<StoredValueView>('POST', '/gift-cards/enquiries', { number: '44100771417' })).body
        .balance,
    ).toBe(gift.body.balance);
    const { body } = await page(basket.id);
    expect(body.tenders.map(({ amount }) => amount)).toEqual([-200_00, -35_50, 0 - rest]);
    expect(body.kind).toBe('return');
  });

  it('find the refund where it was when the terminal does not answer', async () => {
    const sale = await ringUp(house, ['MET-C']);
    await take(noor, tenderFor(sale, types.get('card') ?? 0));
    tap(standIn(house));
    await eventually(async () => {
      expect((await view(noor, sale)).body.finished).toBeTruthy();
    });
    const { lines, refund } = await linesBack(noor, sale.basket.id, [{ position: 1, quantity: 1000 }]);
    standIn(house).press('T-1001', { press: 'set', line: 'lost' });
    const basket: Basket = { id: newId(), lines };
    const lost = await giveBack(noor, basket, 0 - refund);
    expect(lost.body.finished).toBeNull();
    expect(lost.body.tenders.at(-1)).toMatchObject({ refund: true, amount: 0 - refund });
    standIn(house).press('T-1001', { press: 'set', line: 'good' });
    await eventually(async () => {
      const { body } = await noor.ask<PaymentView>('GET', `/payment/baskets/${basket.id}`);
      expect(body.tenders.some(({ state }) => state === 'asked' || state === 'unanswered')).toBe(false);
    });
    const now = (await noor.ask<PaymentView>('GET', `/payment/baskets/${basket.id}`)).body;
    if (!now.finished) expect((await giveBack(noor, basket, 0 - refund)).body.finished).toBeTruthy();
  });

  it('are given back by one till only while a terminal is asked, and the sale is not voided meanwhile', async () => {
    const sale = await ringUp(house, ['MET-C', 'PIC-M']);
    await take(noor, tenderFor(sale, types.get('card') ?? 0));
    tap(standIn(house));
    await eventually(async () => {
      expect((await view(noor, sale)).body.finished).toBeTruthy();
    });
    const mine = await linesBack(noor, sale.basket.id, [{ position: 1, quantity: 1000 }]);
    const other = await linesBack(teo, sale.basket.id, [{ position: 1, quantity: 1000 }]);
    standIn(house).press('T-1001', { press: 'set', line: 'lost' });
    const first: Basket = { id: newId(), lines: mine.lines };
    const second: Basket = { id: newId(), lines: other.lines };
    expect((await giveBack(noor, first, 0 - mine.refund)).body.tenders).toMatchObject([{ refund: true }]);
    const refused = await giveBack(teo, second, 0 - other.refund);
    expect(refused).toMatchObject({ status: 409, body: { type: 'refund-under-way' } });
    const countersign = await approve(sale.basket.id, 'sale.void');
    const voided = await noor.ask('POST', `/journal/sales/${sale.basket.id}/void`, {
      reason: 'No',
      countersign,
    });
    expect(voided.status).toBe(409);
    standIn(house).press('T-1001', { press: 'set', line: 'good' });
    const settled = async () => (await noor.ask<PaymentView>('GET', `/payment/baskets/${first.id}`)).body;
    await eventually(async () => {
      expect((await settled()).tenders.some(({ state }) => state === 'asked' || state === 'unanswered')).toBe(
        false,
      );
    });
    if (!(await settled()).finished) await giveBack(noor, first, 0 - mine.refund);
    expect((await settled()).finished).toBeTruthy();
    // What came back is not there for the other till, which is told before any terminal is asked.
    expect((await giveBack(teo, second, 0 - other.refund, [{ to: 'cash', amount: 1 }])).status).toBe(409);
    const { body } = await page(sale.basket.id);
    expect(body.afterwards.returns).toHaveLength(1);
  });

  it('become store credit for a customer, which pays again', async () => {
    const customer = await aCustomer();
    const sale = await sold(['MET-C']);
    const { lines, refund } = await linesBack(noor, sale.id, [{ position: 1, quantity: 1000 }]);
    const credit = [{ to: 'store-credit', amount: refund }];
    const nobody = await giveBack(noor, { id: newId(), lines }, 0 - refund, credit);
    expect(nobody.status).toBe(422);
    const basket: Basket = { id: newId(), lines, customer };
    const done = await giveBack(noor, basket, 0 - refund, credit);
    expect(done.body.finished?.tenders).toMatchObject([{ name: 'Store credit', amount: 0 - refund }]);
    const [value] = await house.house.database.ask((sql) =>
      sql.query<{ balance: number; number: string }>(
        "select balance, number from stored_value where customer_id = $1 and kind = 'store-credit' and state = 'active' order by id limit 1",
        [customer.id],
      ),
    );
    expect(value?.balance).toBeGreaterThanOrEqual(refund);
    const again = await ringUp(house, ['MET-C']);
    const paid = await take(
      noor,
      tenderFor(again, types.get('stored-value') ?? 0, { number: value?.number ?? '' }),
    );
    expect(paid.body.finished).toBeTruthy();
  });

  it('without a receipt are store credit only, approved, and counted for the customer', async () => {
    const customer = await aCustomer();
    const { basket, expectedTotal } = await ringUp(house, ['MET-C']);
    const back: Basket = {
      ...basket,
      customer,
      lines: basket.lines.map((line) => ({
        ...line,
        quantity: -1000,
        comesBack: { reason: 'Faulty', condition: 'damaged' },
      })),
    };
    const before = await stockOf(house, 'MET-C');
    expect((await planFor(noor, back, 0 - expectedTotal)).status).toBe(403);
    const returnCountersign = await approve(back.id, 'return.no-receipt', [
      anyAmount(`item:${back.lines[0]?.itemId}`),
    ]);
    back.lines = back.lines.map((line) => ({ ...line, returnCountersign }));
    expect((await planFor(noor, back, 0 - expectedTotal)).body).toMatchObject({
      creditOnly: expectedTotal,
      mostCash: 0,
    });
    const cash = await giveBack(noor, back, 0 - expectedTotal, [{ to: 'cash', amount: expectedTotal }]);
    expect(cash.status).toBe(422);
    expect((await giveBack(noor, back, 0 - expectedTotal)).body.finished).toBeTruthy();
    // It came in and left as damaged.
    expect(await stockOf(house, 'MET-C')).toBe(before);
    const counted = await noor.ask<{ count: number }>('GET', `/journal/without-receipt/${customer.id}`);
    expect(counted.body).toMatchObject({ count: 1, amount: expect.any(Number) as number, warning: 3 });
  });

  it('after the time for returns need an approval', async () => {
    const sale = await sold(['PIC-M']);
    await house.house.database.ask((sql) => sql.query('update shop set return_days = 0'));
    const now = house.house.clock;
    const tomorrow = new Date(now.now().getTime() + 86_400_000);
    const { lines, refund } = await linesBack(noor, sale.id, [{ position: 1, quantity: 1000 }]);
    expect(lines[0]?.comesBack?.sale?.late).toBe(false);
    const kept = now.now.bind(now);
    now.now = () => tomorrow;
    try {
      // The night ended the session of the day before.
      await noor.signIn('1357', 1);
      const basket: Basket = { id: newId(), lines };
      expect((await giveBack(noor, basket, 0 - refund, [{ to: 'cash', amount: refund }])).status).toBe(403);
      const countersign = await approve(basket.id, 'return.late', [anyAmount(`sale:${sale.id}`)]);
      const approved = await linesBack(noor, sale.id, [{ position: 1, quantity: 1000 }], { countersign });
      basket.lines = approved.lines;
      expect((await giveBack(noor, basket, 0 - refund)).body.finished).toBeTruthy();
    } finally {
      now.now = kept;
      await house.house.database.ask((sql) => sql.query('update shop set return_days = 30'));
    }
  });

  it('are exchanged in one basket: even without payment, else with what is left to pay', async () => {
    const sale = await sold(['PIC-M', 'MET-C']);
    const { lines, refund } = await linesBack(noor, sale.id, [{ position: 1, quantity: 1000 }]);
    const same = await ringUp(house, ['PIC-M']);
    expect(same.expectedTotal).toBe(refund);
    const even: Basket = { id: newId(), lines: [...lines, ...same.basket.lines] };
    const done = await pay(noor, { basket: even as typeof same.basket, expectedTotal: 0, handed: 0 });
    expect(done.body).toMatchObject({ total: 0, tenders: [] });
    expect((await page(even.id)).body).toMatchObject({ kind: 'exchange' });
    const { lines: more, refund: less } = await linesBack(noor, sale.id, [{ position: 2, quantity: 1000 }]);
    const dear = await ringUp(house, ['CLA-0220']);
    const owed = dear.expectedTotal - less;
    const basket: Basket = { id: newId(), lines: [...more, ...dear.basket.lines] };
    const paid = await pay(noor, { basket: basket as typeof dear.basket, expectedTotal: owed, handed: owed });
    expect(paid.body.total).toBe(owed);
    const receipt = await noor.ask<string>('GET', `/journal/sales/${basket.id}/receipt.txt`);
    expect(receipt.body).toContain('From 1-');
  });

  it('show both ways where an offer leaves it to people', async () => {
    const maker = house.browser();
    await maker.signIn('8024', 3);
    const [item] = await house.house.database.ask((sql) =>
      sql.query<{ id: number; price: number }>("select id, price from item where number = 'PIC-M'"),
    );
    if (!item) throw new Error('no such item');
    const made = await maker.ask<{ id: number }>('POST', '/offers', {
      name: 'Two for less',
      rule: {
        kind: 'together',
        groups: [{ count: 2, goods: { itemIds: [item.id], categories: [] } }],
        reward: { kind: 'amount', amount: 20 },
      },
      combines: false,
      conditions: { from: null, to: null, weekdays: [], hours: null, placeIds: [], groups: [], minimum: 0 },
      limits: { perSale: null, perCustomer: null, total: null },
      needs: 'nothing',
      points: 0,
      onReturn: 'ask',
    });
    await maker.ask('PUT', `/offers/${made.body.id}/state`, { state: 'live', version: 1 });
    const sale = await sold(['PIC-M'], 2);
    const { body } = await noor.ask<RefundQuote>('POST', `/journal/sales/${sale.id}/quotes`, {
      parts: [{ position: 1, quantity: 1000 }],
    });
    // One alone would have cost its full price: half of the reduction is held back.
    expect(body.chosen[0]?.figures.net).toBe(0 - (item.price - 10));
    expect(body.other?.[0]?.figures.net).toBe(0 - (item.price - 20));
    const { lines, refund } = await linesBack(noor, sale.id, [{ position: 1, quantity: 1000 }], {
      way: 're-price',
    });
    const basket: Basket = { id: newId(), lines };
    expect((await giveBack(noor, basket, 0 - refund)).body.finished).toBeTruthy();
    const { refund: rest } = await bringBack(noor, sale.id, [{ position: 1, quantity: 1000 }]);
    expect(refund + rest).toBe(sale.total);
    await maker.ask('PUT', `/offers/${made.body.id}/state`, { state: 'ended', version: 1 });
  });
});

async function aCustomer(): Promise<{ id: number; name: string }> {
  const name = `Wren Tallow ${newId().slice(0, 6)}`;
  return { id: await addSomebody(noor, name), name };
}

describe(`the journal's search on ${ENGINE}`, () => {
  const found = async (query: string): Promise<string[]> =>
    (await noor.ask<JournalPage>('GET', `/journal/sales?${query}`)).body.rows.map(({ id }) => id);

  it('finds a sale by number, amount, item, serial, customer, card and day', async () => {
    const sale = await sold(['CLA-0220']);
    const { body } = await page(sale.id);
    const about = Math.round(sale.total / 100);
    for (const find of [
      body.number,
      (sale.total / 100).toFixed(2),
      `about ${about}`,
      'CLA-0220',
      '2026-03-02',
    ]) {
      expect(await found(`find=${encodeURIComponent(find)}`), find).toContain(sale.id);
    }
    expect(await found('find=about+3')).not.toContain(sale.id);
    expect(await found('find=*4242')).not.toContain(sale.id);
    expect(await found('kind=return')).not.toContain(sale.id);
    expect(await found(`typeId=${types.get('cheque')}`)).toEqual([]);
    expect((await found('find=no+such+thing')).length).toBe(0);
  });

  it('are swapped for what was paid, though an offer had taken something off and another one applies now', async () => {
    const maker = house.browser();
    await maker.signIn('8024', 3);
    const [item] = await house.house.database.ask((sql) =>
      sql.query<{ id: number }>("select id from item where number = 'PIC-M'"),
    );
    if (!item) throw new Error('no such item');
    const half = {
      name: 'Half for picks',
      rule: {
        kind: 'each',
        goods: { itemIds: [item.id], categories: [] },
        off: { kind: 'percent', rate: 500_000 },
      },
      combines: false,
      conditions: { from: null, to: null, weekdays: [], hours: null, placeIds: [], groups: [], minimum: 0 },
      limits: { perSale: null, perCustomer: null, total: null },
      needs: 'nothing',
      points: 0,
      onReturn: 're-price',
    };
    const made = await maker.ask<{ id: number }>('POST', '/offers', half);
    await maker.ask('PUT', `/offers/${made.body.id}/state`, { state: 'live', version: 1 });
    const plain = await ringUp(house, ['PIC-M', 'PIC-M', 'MET-C']);
    const refused = await pay(noor, { ...plain, handed: plain.expectedTotal });
    const { basket: reduced, priced } = problemOf(refused).data as FigureProblem;
    const paid = await pay(noor, {
      basket: reduced as typeof plain.basket,
      expectedTotal: priced.total,
      handed: priced.total,
    });
    expect(paid.status).toBe(200);
    await maker.ask('PUT', `/offers/${made.body.id}/state`, { state: 'ended', version: 1 });
    const quote = await noor.ask<RefundQuote>('POST', `/journal/sales/${reduced.id}/quotes`, {
      parts: [{ position: 1, quantity: 1000 }],
    });
    const { lines } = await linesBack(noor, reduced.id, [{ position: 1, quantity: 1000 }]);
    const [back] = lines;
    if (!back?.comesBack?.sale || !quote.body.swap[0]) throw new Error('nothing comes back');
    const same = await ringUp(house, ['PIC-M']);
    const taken = same.basket.lines.map((line) => ({ ...line, swaps: back.id }));
    const swap: Basket = { id: newId(), lines: [back, ...taken] };
    const done = await pay(noor, { basket: swap as typeof same.basket, expectedTotal: 0, handed: 0 });
    expect(done.body).toMatchObject({ total: 0, tenders: [] });
    // Without the word that it is a swap the goods cost what they cost today.
    const again = await linesBack(noor, reduced.id, [{ position: 2, quantity: 1000 }]);
    const apart: Basket = { id: newId(), lines: [...again.lines, ...same.basket.lines] };
    const other = await pay(noor, { basket: apart as typeof same.basket, expectedTotal: 0, handed: 0 });
    expect(problemOf(other).type).toBe('figures-differ');
    expect(await house.house.database.ask(verify)).toEqual([]);
  });
});
