import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { DaySummary } from '../../contract/books.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { LayawayWanted, PromisePage, PromiseView } from '../../contract/promises.ts';
import type { BasketCustomer } from '../../core/counter/basket.ts';
import { rowOf } from '../promises/rows.ts';
import { promiseList } from '../promises/store.ts';
import { wantsAttention } from '../../core/promises/state.ts';
import { sum } from '../../core/money.ts';
import type { MadePromise } from './promising.ts';
import { verify } from '../books/verify.ts';
import {
  allLeft,
  giveUp,
  handOver,
  lookAt,
  payDeposit,
  plainCustomer,
  setAside,
} from '../testing/promising.ts';
import { giveBack, linesBack } from '../testing/returning.ts';
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
let customer: BasketCustomer;

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  maren = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  await maren.signIn('3690', 2);
  await openDrawer(maren);
  customer = await plainCustomer(test);
});
afterAll(() => test.stop());

const sql = <Row extends object>(text: string, values: (string | number)[] = []) =>
  test.house.database.ask((reader) => reader.query<Row>(text, values));
const make = (numbers: readonly string[], terms: Partial<LayawayWanted> = {}, by = noor) =>
  setAside(test, by, customer, numbers, terms);
const look = (id: string) => lookAt(noor, id);
const step = (id: string, what: string, words = '') =>
  noor.ask<PromiseView & ProblemDetails>(
    'POST',
    `/waiting/promises/${id}/steps`,
    { what, words },
    { 'idempotency-key': newKey() },
  );
const differences = () => test.house.database.ask(verify);

async function levelOf(number: string): Promise<{ quantity: number; setAside: number }> {
  const [level] = await sql<{ quantity: number; setAside: number }>(
    `select quantity, set_aside as "setAside" from stock_level join item on item.id = item_id
     where number = $1 and place_id = (select place_id from till where number = 1)`,
    [number],
  );
  return level ?? { quantity: 0, setAside: 0 };
}

describe(`layaways on ${ENGINE}`, () => {
  it('set goods aside at the prices of the day, and put the deposit on the till', async () => {
    const before = await levelOf('MET-C');
    const { wanted, answer, ask } = await make(['MET-C', 'CAR-SO'], { note: 'for her birthday' });
    expect(answer.status).toBe(200);
    expect(answer.body.stored?.basket.lines).toMatchObject([
      { name: 'Deposit for L-0001', listPrice: wanted.terms.deposit },
    ]);
    const view = await look(answer.body.id);
    expect(view).toMatchObject({
      number: 'L-0001',
      state: 'begun',
      total: wanted.expectedTotal,
      held: 0,
      rest: wanted.expectedTotal,
      note: 'for her birthday',
      due: wanted.terms.deposit,
    });
    expect(sum(view.plan.map(({ amount }) => amount))).toBe(wanted.expectedTotal);
    expect(await levelOf('MET-C')).toEqual({ ...before, setAside: before.setAside + 1000 });

    // Asked again with the same key, it is the same one; nor do its goods come back with what their till had sent
    // before.
    expect((await ask()).body).toMatchObject({ id: answer.body.id, number: 'L-0001' });
    expect(await sql('select 1 from promise')).toHaveLength(1);
    const late = { basket: wanted.basket, revision: 1 };
    const refused = await noor.ask<ProblemDetails>('PUT', '/counter/basket', late);
    expect([refused.status, refused.body.type]).toEqual([409, 'basket-held']);
  });

  it('print their terms, plan and barcode', async () => {
    const text = await eventually(async () => {
      const { body } = await noor.ask<{ text: string }[]>('GET', '/printer/papers');
      const paper = body.find((one) => one.text.includes('*L-0001*'));
      expect(paper).toBeDefined();
      return paper?.text ?? '';
    });
    expect(text).toContain('Part 3');
    expect(text).toContain('for her birthday');
  });

  it('take deposits as the money of the customer, and hand the goods over once all is settled', async () => {
    const { answer, wanted } = await make(['MET-C']);
    const { id, number } = answer.body;
    const first = await payDeposit(test, noor, id, wanted.terms.deposit);
    expect(first.status).toBe(200);
    const receipt = await noor.ask<{ paper: { rows: { left?: string }[] }; returnable: boolean }>(
      'GET',
      `/journal/sales/${first.body.id}`,
    );
    expect(receipt.body.paper.rows).toContainEqual(
      expect.objectContaining({ left: `${number}: paid so far` }),
    );
    // Money that is held is no goods: it does not come back as a return.
    expect(receipt.body.returnable).toBe(false);
    expect(await look(id)).toMatchObject({ state: 'running', held: wanted.terms.deposit, overdueDays: 0 });

    // More than is left is refused; the rest is taken.
    const left = wanted.expectedTotal - wanted.terms.deposit;
    expect((await payDeposit(test, noor, id, left + 1)).status).toBe(422);
    expect((await payDeposit(test, noor, id, left)).status).toBe(200);
    expect(await look(id)).toMatchObject({ state: 'paid', held: wanted.expectedTotal, next: null });

    const before = await levelOf('MET-C');
    const handed = await handOver(test, noor, id, allLeft(await look(id)));
    expect(handed.body).toMatchObject({ total: 0 });
    expect(await look(id)).toMatchObject({ state: 'handed', held: 0, rest: 0 });
    expect(await levelOf('MET-C')).toEqual({
      quantity: before.quantity - 1000,
      setAside: before.setAside - 1000,
    });
    expect(await differences()).toEqual([]);
    // Nothing is handed over twice, and no deposit is taken for nothing.
    expect((await payDeposit(test, noor, id, 100)).status).toBe(422);
  });

  it('are handed over in part: what stays keeps the least deposit', async () => {
    const { answer, wanted } = await make(['MET-C', 'CAR-SO', 'CAR-CG']);
    const { id } = answer.body;
    await payDeposit(test, noor, id, wanted.terms.deposit);
    expect((await handOver(test, noor, id, new Map([[1, 1000]]))).status).toBe(200);
    const view = await look(id);
    expect(view.state).toBe('part');
    expect(view.held).toBeGreaterThanOrEqual(Math.floor(view.rest * 0.2));
    await handOver(test, noor, id, allLeft(view));
    expect(await look(id)).toMatchObject({ state: 'handed', held: 0, rest: 0 });
    expect(await differences()).toEqual([]);
  });

  it('give the deposits back along their payments when they are cancelled, less the fee', async () => {
    const { answer, wanted } = await make(['CAR-SO', 'MET-C'], { fee: 200 });
    const { id } = answer.body;
    await payDeposit(test, noor, id, wanted.terms.deposit);
    const before = await levelOf('MET-C');
    // More than was agreed nobody keeps; less needs somebody with the right to it.
    const more = await giveUp(test, maren, customer, id, 201);
    expect(JSON.stringify(more.answer.body)).toContain('at most the agreed fee of 2.00');
    const less = await giveUp(test, noor, customer, id, 199);
    expect(less.answer).toMatchObject({
      status: 403,
      body: { data: { needed: { right: 'fee.waive', steps: [{ from: 200, to: 199, amount: 1 }] } } },
    });
    const { total, answer: given } = await giveUp(test, maren, customer, id, 200);
    expect([given.status, total]).toEqual([200, 200 - wanted.terms.deposit]);
    expect(await look(id)).toMatchObject({ state: 'cancelled', held: 0 });
    expect((await levelOf('MET-C')).setAside).toBe(before.setAside - 1000);
    expect(
      await sql('select kind, amount from promise_move where promise_id = $1 order by id', [id]),
    ).toEqual([
      { kind: 'deposit', amount: wanted.terms.deposit },
      { kind: 'fee', amount: -200 },
      { kind: 'back', amount: total },
    ]);
    expect(await differences()).toEqual([]);
  });

  it('tell the second of two who want the last piece', async () => {
    // There is one, and no more.
    const numbers = ['STA-ORCH'];
    const answers = await Promise.all([make(numbers), make(numbers, {}, maren)]);
    expect(answers.map(({ answer }) => answer.status).sort()).toEqual([200, 409]);
    const told = answers.find(({ answer }) => answer.status === 409)?.answer.body;
    expect(told?.type).toBe('not-available');
    // What still has to come can be promised all the same: it is set aside when it is here, and not before.
    const coming = await make(numbers, { coming: true }, maren);
    const { id } = coming.answer.body;
    expect(await look(id)).toMatchObject({ state: 'begun', coming: true });
    const before = await levelOf('STA-ORCH');
    expect((await step(id, 'arrived')).body).toMatchObject({ state: 'arrived', coming: false });
    expect((await levelOf('STA-ORCH')).setAside).toBe(before.setAside + 1000);
    expect((await step(id, 'arrived')).status).toBe(409);
  });

  it('that were set aside without tax are handed over without it, by somebody who may', async () => {
    const exemption = { reason: 'School', certificate: 'C-118' };
    const { answer } = await setAside(test, maren, customer, ['CAR-SO'], {}, { exemption });
    const { id } = answer.body;
    const view = await look(id);
    expect(view).toMatchObject({ exemption, lines: [{ tax: 0 }] });
    // Goods with tax do not go in beside them: at the handover there is one or the other.
    const more = await ringUp(test, ['CAR-CG']);
    const added = await noor.ask<ProblemDetails>(
      'POST',
      `/waiting/promises/${id}/goods`,
      { basket: { ...more.basket, customer }, expectedTotal: more.expectedTotal },
      { 'idempotency-key': newKey() },
    );
    expect(JSON.stringify(added.body)).toContain('This layaway is without tax');
    await payDeposit(test, noor, id, view.rest);
    expect((await handOver(test, noor, id, allLeft(view))).status).toBe(403);
    expect((await handOver(test, maren, id, allLeft(view))).status).toBe(200);
    expect(await look(id)).toMatchObject({ state: 'handed', held: 0 });
    expect(await differences()).toEqual([]);
  });

  it('say how far they are in words of the shop, between their states', async () => {
    const { answer } = await make(['CAR-SO']);
    const { id } = answer.body;
    const said = await step(id, 'stage', 'Being engraved');
    expect(said.body).toMatchObject({
      state: 'begun',
      stage: 'Being engraved',
      events: [{ what: 'Now' }, {}],
    });
    expect((await step(id, 'stage', 'On the moon')).status).toBe(422);
    expect((await step(id, 'stage', '')).body).toMatchObject({ stage: '' });
  });

  it('keep a unit with a serial number from everybody else', async () => {
    const [unit] = await sql<{ serial: string }>(
      `select serial from serial join item on item.id = item_id
       where number = 'CLA-0340' and sale_id is null and place_id = 1 order by serial`,
    );
    const withSerial = async () => {
      const rung = await ringUp(test, ['CLA-0340']);
      rung.basket.lines = rung.basket.lines.map((line) => ({ ...line, serial: unit?.serial }));
      return rung;
    };
    const { basket, expectedTotal } = await withSerial();
    const terms = {
      deposit: expectedTotal,
      parts: 1,
      interval: 'month',
      firstDay: '2099-01-01',
      fee: 0,
      coming: false,
      note: '',
    };
    const made = await noor.ask<{ id: string }>(
      'POST',
      '/waiting/promises/layaways',
      { basket: { ...basket, customer }, expectedTotal, terms },
      { 'idempotency-key': newKey() },
    );
    expect(made.status).toBe(200);
    const sold = await pay(maren, await withSerial());
    expect([sold.status, (sold.body as unknown as ProblemDetails).type]).toEqual([409, 'serial-gone']);
    await payDeposit(test, noor, made.body.id, expectedTotal);
    expect((await handOver(test, noor, made.body.id, allLeft(await look(made.body.id)))).status).toBe(200);
    expect(await differences()).toEqual([]);
  });

  it('get more goods, and lose some, while they run: at the price of that day, never for less than is held', async () => {
    const { answer, wanted } = await make(['MET-C']);
    const { id } = answer.body;
    await payDeposit(test, noor, id, wanted.terms.deposit);
    const more = await ringUp(test, ['CAR-SO', 'CAR-CG']);
    const add = () =>
      noor.ask<MadePromise & ProblemDetails>(
        'POST',
        `/waiting/promises/${id}/goods`,
        { basket: { ...more.basket, customer }, expectedTotal: more.expectedTotal },
        { 'idempotency-key': more.basket.id },
      );
    const before = await levelOf('CAR-SO');
    expect((await add()).body).toMatchObject({ id, stored: { basket: { lines: [] } } });
    // Pressed twice, they are added once.
    expect((await add()).status).toBe(200);
    const grown = await look(id);
    expect(grown.lines).toHaveLength(3);
    expect(grown.total).toBe(wanted.expectedTotal + more.expectedTotal);
    expect(sum(grown.plan.map(({ amount }) => amount))).toBe(grown.total);
    expect((await levelOf('CAR-SO')).setAside).toBe(before.setAside + 1000);

    const takeOut = (position: number) =>
      noor.ask<PromiseView & ProblemDetails>(
        'DELETE',
        `/waiting/promises/${id}/goods/${position}`,
        undefined,
        {
          'idempotency-key': newKey(),
        },
      );
    expect((await takeOut(2)).body.lines.map(({ position }) => position)).toEqual([1, 3]);
    expect((await levelOf('CAR-SO')).setAside).toBe(before.setAside);
    expect((await takeOut(2)).status).toBe(409);
    // The metronome was paid for in part: without it more would be held than the cork grease costs.
    expect((await takeOut(1)).body.title).toContain('More is held than the rest comes to');
    await handOver(test, noor, id, new Map([[1, 1000]]));
    expect((await takeOut(1)).status).toBe(409);
    await handOver(test, noor, id, allLeft(await look(id)));
    expect((await look(id)).state).toBe('handed');
    expect((await add()).status).toBe(200);
    expect(await differences()).toEqual([]);
  });

  it('are given up without money when nothing was paid', async () => {
    const refused = await make(['CAR-SO'], { deposit: 0 });
    expect(refused.answer.status).toBe(422);
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
    expect((await step(id, 'note', 'too late')).status).toBe(409);
  });

  it('come back as they were when a sale that touched them is voided', async () => {
    const { answer, wanted } = await make(['CAR-SO', 'MET-C']);
    const { id } = answer.body;
    const deposit = await payDeposit(test, maren, id, wanted.terms.deposit);
    const handed = await handOver(test, maren, id, allLeft(await look(id)));
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

  it('are handed over once by two tills at once, and a deposit is used once', async () => {
    const { answer, wanted } = await make(['MET-C']);
    const { id } = answer.body;
    await payDeposit(test, noor, id, wanted.expectedTotal);
    const all = allLeft(await look(id));
    const both = await Promise.all([handOver(test, noor, id, all), handOver(test, maren, id, all)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, expect.toBeOneOf([409, 422])]);
    expect(await look(id)).toMatchObject({ state: 'handed', held: 0 });
    expect(await differences()).toEqual([]);
  });

  it('cost the lower price of today at the handover, where the shop says so: what was paid beyond it goes back', async () => {
    const rule = (lower: boolean, price: number) =>
      test.house.database.write(async (writer) => {
        await writer.query(
          `update shop set layaway_rules = layaway_rules || jsonb_build_object('lower', $1::boolean)`,
          [lower],
        );
        await writer.query("update item set price = $1 where number = 'CAR-KIT-TR'", [price]);
      });
    const [item] = await sql<{ price: number }>("select price from item where number = 'CAR-KIT-TR'");
    const price = item?.price ?? 0;
    const { answer, wanted } = await make(['CAR-KIT-TR']);
    const { id } = answer.body;
    expect((await payDeposit(test, noor, id, wanted.expectedTotal)).status).toBe(200);
    await rule(true, price - 500);
    try {
      const view = await look(id);
      expect(view.lines[0]?.now).toBe(price - 500);
      expect((await handOver(test, noor, id, allLeft(view))).status).toBe(200);
      const [sold] = await sql<{ net: number; back: number }>(
        `select sum(net) filter (where promise_part = 'goods')::bigint as net,
                -sum(net) filter (where promise_part = 'back')::bigint as back
         from sale_line where promise_id = $1`,
        [id],
      );
      expect(sold?.net).toBe(price - 500);
      expect(sold?.back).toBeGreaterThanOrEqual(500);
      expect(await look(id)).toMatchObject({ state: 'handed', held: 0 });
      expect(await differences()).toEqual([]);
    } finally {
      await rule(false, price);
    }
    expect((await look(id)).lines[0]?.now).toBeNull();
  });

  it('come back as goods like any others: the money goes along what was paid for them, deposits too', async () => {
    const { answer, wanted } = await make(['MET-C', 'CAR-SO']);
    const { id } = answer.body;
    const deposit = await payDeposit(test, maren, id, wanted.terms.deposit);
    const sale = await handOver(test, maren, id, allLeft(await look(id)));
    const back = await linesBack(maren, sale.body.id, [
      { position: 1, quantity: 1000 },
      { position: 2, quantity: 1000 },
    ]);
    expect(back.refund).toBe(wanted.expectedTotal);
    const basket = { id: newKey(), customer, lines: back.lines };
    const given = await giveBack(maren, basket, 0 - back.refund);
    expect([given.status, given.body.finished !== null], JSON.stringify(given.body)).toEqual([200, true]);
    expect(deposit.status).toBe(200);
    expect(await differences()).toEqual([]);
  });

  it('take no more than is left when two tills take the rest at once', async () => {
    const { answer, wanted } = await make(['MET-C']);
    const { id } = answer.body;
    const both = await Promise.all([
      payDeposit(test, noor, id, wanted.expectedTotal),
      payDeposit(test, maren, id, wanted.expectedTotal),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, expect.toBeOneOf([409, 422])]);
    expect(await look(id)).toMatchObject({ state: 'paid', held: wanted.expectedTotal });
  });

  it('leave nothing held when the goods have left: what they cost less by then goes back', async () => {
    const { answer } = await make(['MET-C', 'CAR-SO']);
    const { id } = answer.body;
    // The tax was higher when they were promised.
    await test.house.database.write(async (writer) => {
      await writer.query('update promise_line set tax = tax + 150 where promise_id = $1', [id]);
      await writer.query('update promise set total = total + 300 where id = $1', [id]);
      await writer.query('select sum_promise($1)', [id]);
    });
    const { rest } = await look(id);
    await payDeposit(test, maren, id, rest);
    await handOver(test, maren, id, new Map([[1, 1000]]));
    expect(await look(id)).toMatchObject({ state: 'paid' });
    const last = await handOver(test, maren, id, allLeft(await look(id)));
    expect(last.status, JSON.stringify(last.body)).toBe(200);
    const view = await look(id);
    expect(view).toMatchObject({ state: 'handed', held: 0 });
    const back = view.events.find(({ what }) => what === 'Deposit given back')?.amount ?? 0;
    const used = view.events.filter(({ what }) => what === 'Deposit used').map(({ amount }) => amount ?? 0);
    expect(back).toBeLessThan(-290);
    expect(sum([...used, back])).toBe(0 - rest);
    expect(await differences()).toEqual([]);
  });

  it('say when somebody was told, and send word', async () => {
    const { answer } = await make(['CAR-SO']);
    const { id } = answer.body;
    expect((await step(id, 'told')).body.fields?.[0]?.message).toBe('How? For example: by telephone.');
    expect((await step(id, 'told', 'by telephone')).body.events[0]).toMatchObject({
      what: 'Customer told',
      words: 'by telephone',
      by: 'Noor A.',
    });
    const sent = await step(id, 'remind');
    expect(sent.body.events[0]).toMatchObject({ what: 'Reminder sent' });
    await eventually(async () => {
      const [message] = await sql<{ state: string }>('select state from outbox where promise_id = $1', [id]);
      expect(message?.state).toBe('sent');
    });
  });

  it('are in the day of the shop and in its books, beside what was sold', async () => {
    const { answer, wanted } = await make(['CAR-SO']);
    await payDeposit(test, noor, answer.body.id, wanted.terms.deposit);
    const isolde = test.browser();
    await isolde.signIn('8024', 3);
    const { body: day } = await isolde.ask<DaySummary>('GET', '/books/day');
    expect(day.gross + day.reductions - day.refunded + day.deposits + day.tax).toBe(day.total);
    const [held] = await sql<{ held: number; kept: number }>(
      `select (select sum(held) from promise)::bigint as held,
              (select -sum(balance) from account_balance where account = 'customer-deposits')::bigint as kept`,
    );
    expect(held?.held).toBeGreaterThan(0);
    expect(held?.kept).toBe(held?.held);
  });

  it.each(['2026-03-02', '2099-02-01'])(
    'want attention on %s by the rule of the core, however they stand',
    async (day) => {
      const list = (show: 'all' | 'attention') =>
        test.house.database.ask((reader) =>
          promiseList(reader, { show, page: 0, words: [], customer: undefined }, day),
        );
      const all = (await list('all')).rows.map((row) => rowOf(row, day));
      const wanted = all.filter(({ state, overdueDays, order }) => wantsAttention(state, overdueDays, order));
      const { rows, attention } = await list('attention');
      expect(new Set(all.map(({ state }) => state)).size).toBeGreaterThan(5);
      expect(wanted.length).toBeGreaterThan(1);
      expect(wanted.length).toBeLessThan(all.length);
      expect(rows.map(({ id }) => id).toSorted()).toEqual(wanted.map(({ id }) => id).toSorted());
      expect(attention).toBe(wanted.length);
    },
  );

  it('are found by number, customer and goods', async () => {
    const find = async (words: string) =>
      (await noor.ask<PromisePage>('GET', `/waiting/promises?show=all&find=${encodeURIComponent(words)}`))
        .body;
    expect((await find('l-0001')).rows.map(({ number }) => number)).toEqual(['L-0001']);
    expect((await find('metron')).rows.length).toBeGreaterThan(1);
    expect((await find('nothing of the kind')).rows).toEqual([]);
    const numbered = (number: string) => noor.ask<PromiseView>('GET', `/waiting/promises/numbered/${number}`);
    expect((await numbered('l-0001')).body.number).toBe('L-0001');
    expect((await numbered('L-9999')).status).toBe(404);
  });

  it.each([
    [
      'more given back than is held',
      "insert into promise_move (promise_id, kind, amount, sale_id, at) select id, 'deposit', -1, (select id from sale limit 1), now() from promise limit 1",
    ],
    ['less than nothing held', 'update promise set held = -1'],
    ['more handed over than was promised', 'update promise_line set handed = quantity + 1'],
    ['more set aside than is left', 'update promise_line set set_aside = quantity + 1'],
    ['a move that is changed', 'update promise_move set amount = amount + 1'],
    ['a plan that is changed', 'delete from promise_part'],
    [
      'two of one basket',
      'insert into promise_basket select basket_id, promise_id from promise_basket limit 1',
    ],
  ])('never have %s, whoever writes it', async (_what, text) => {
    await expect(test.house.database.write((writer) => writer.query(text))).rejects.toThrow();
  });
});
