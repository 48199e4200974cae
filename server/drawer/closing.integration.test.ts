import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  ClosedShift,
  ClosedShiftView,
  DeskTill,
  DrawerState,
  ShiftHistory,
  VarianceFound,
  Comparison,
} from '../../contract/drawer.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { verify } from '../books/verify.ts';
import { take, tenderFor, typesByKind } from '../testing/paying.ts';
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

let house: TestHouse;
let noor: Browser;
let maren: Browser;
let isolde: Browser;
let types: ReadonlyMap<string, number>;

beforeAll(async () => {
  house = await openHouse();
  noor = house.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  maren = house.browser();
  await maren.signIn('3690', 2);
  await openDrawer(maren);
  isolde = house.browser();
  await isolde.signIn('8024', 3);
  types = await typesByKind(house);
});
afterAll(async () => {
  expect(await house.house.database.ask(verify)).toEqual([]);
  await house.stop();
});

const stateOf = async (browser: Browser, query = ''): Promise<DrawerState> =>
  (await browser.ask<DrawerState>('GET', `/drawer${query}`)).body;
const closing = (pieces: Record<string, number>, expected: number, more: object = {}) => ({
  pieces,
  expected,
  float: 20_000,
  bagNumber: '',
  note: '',
  others: [],
  signature: { name: 'Signed', path: '' },
  ...more,
});
const explained = async (browser: Browser, pieces: Record<string, number>, others: object[] = []) =>
  (await browser.ask<VarianceFound>('POST', '/drawer/explanations', { pieces, others })).body.explanations;

describe(`the end of a shift on ${ENGINE}`, () => {
  it('is looked into without closing, and hands the drawer on', async () => {
    const sale = await ringUp(house, ['MET-C', 'PIC-M']);
    await pay(noor, sale);
    const { expected, salesCount } = await stateOf(noor);
    expect([expected, salesCount]).toEqual([20_000 + sale.expectedTotal, 1]);
    const people = (await noor.ask<{ id: number; name: string }[]>('GET', '/drawer/people')).body;
    const teo = people.find(({ name }) => name.startsWith('Teo'));
    const body = { pieces: { 10000: 2, 2000: 2 }, toStaffId: teo?.id, note: 'Coins are low' };
    const key = { 'idempotency-key': newId() };
    const given = await noor.ask<{ counted: number }>('POST', '/drawer/handovers', body, key);
    expect(given.body.counted).toBe(24_000);
    await noor.ask('POST', '/drawer/handovers', body, key);
    expect((await noor.ask('POST', '/drawer/handovers', { ...body, toStaffId: 9999 })).status).toBe(422);
    expect((await stateOf(noor)).shift).not.toBeNull();
  });

  it('is compared blindly where the shop counts so', async () => {
    await house.house.database.ask((sql) => sql.query('update shop set blind_count = true'));
    const blind = await stateOf(noor);
    const nothing = { blind: true, expected: null, movements: null, left: null, others: [] };
    expect(blind).toMatchObject(nothing);
    // Whatever way one asks: with an address, with too much cash out, with a closing that cannot be.
    expect(await stateOf(noor, '?compared=1')).toMatchObject(nothing);
    const out = await maren.ask('POST', '/drawer/cash-moves', {
      kind: 'out',
      amount: 99_999_999,
      reason: 'x',
      person: '',
    });
    expect(out.status).toBe(422);
    const drop = await noor.ask('POST', '/drawer/cash-moves', {
      kind: 'drop',
      amount: 99_999_999,
      reason: 'x',
      person: '',
    });
    expect(JSON.stringify(drop.body)).not.toMatch(/\d\.\d\d/);
    const wrong = await noor.ask('POST', '/drawer/closings', {
      pieces: { 100: 1 },
      expected: 1,
      float: 0,
      bagNumber: '',
      note: '',
      keepHeld: true,
      signature: { name: 'Noor A.', path: '' },
    });
    expect(wrong.status).toBe(409);
    expect(JSON.stringify(wrong.body)).not.toMatch(/\d\.\d\d|"expected":/);
    // Told to a count that stands, and that is noted.
    const told = await noor.ask<Comparison>('POST', '/drawer/comparisons', { pieces: { 100: 1 } });
    expect(told.body.expected).toBeGreaterThan(20_000);
    const noted = await house.house.database.ask((sql) =>
      sql.query("select details from audit where what = 'drawer-compared' order by id desc limit 1"),
    );
    expect(noted).toMatchObject([{ details: { counted: 100 } }]);
    expect((await stateOf(maren)).blind).toBe(false);
    await house.house.database.ask((sql) => sql.query('update shop set blind_count = false'));
  });

  it('corrects a payment that was cash and was recorded as card, once, and compares again', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    await take(noor, tenderFor(sale, types.get('noted-card') ?? 0, { reference: 'A1' }));
    const before = (await stateOf(noor)).expected ?? 0;
    const pieces = { 1: before + sale.expectedTotal };
    const typeId = types.get('noted-card');
    const [first] = await explained(noor, pieces, [{ typeId, counted: 0 }]);
    expect(first).toMatchObject({ cause: 'cash-as-card', followUp: { kind: 'correct-tender', to: 'cash' } });
    expect(first?.links[0]?.to).toBe(`/journal/${sale.basket.id}`);
    const correction = { saleId: sale.basket.id, position: 1, to: 'cash', reason: 'It was cash' };
    const key = { 'idempotency-key': newId() };
    expect((await noor.ask('POST', '/drawer/corrections', correction, key)).status).toBe(200);
    await noor.ask('POST', '/drawer/corrections', correction, key);
    expect((await noor.ask('POST', '/drawer/corrections', correction)).status).toBe(409);
    expect((await stateOf(noor)).expected).toBe(before + sale.expectedTotal);
    expect((await stateOf(noor)).others).toEqual([]);
    expect(await explained(noor, pieces)).toEqual([]);
    // What was corrected is not voided any more.
    const { body } = await isolde.ask<{ noVoid: string }>('GET', `/journal/sales/${sale.basket.id}`);
    expect(body.noVoid).not.toBe('');
  });

  it('waits until held baskets are dealt with, or wait for the next shift', async () => {
    const sale = await ringUp(house, ['MET-C']);
    await maren.ask('PUT', '/counter/basket', { basket: sale.basket, revision: 0 });
    const held = await maren.ask('POST', '/waiting/held', {
      basket: sale.basket,
      total: sale.expectedTotal,
      name: 'Wren',
      note: '',
      forTill: null,
    });
    expect(held.status).toBe(200);
    expect((await stateOf(maren)).leftOvers).toMatchObject([{ kind: 'held', blocks: false }]);
    const refused = await maren.ask('POST', '/drawer/closings', closing({ 10000: 2 }, 20_000));
    expect(refused).toMatchObject({ status: 409, body: { type: 'left-over' } });
  });

  it('counts the drawers of several tills at one desk, with a witness, and tells managers of a shortage', async () => {
    await house.house.database.ask((sql) =>
      sql.query("update shop set managers_mail = 'managers@shop.example', short_limit = 500"),
    );
    const desk = (await isolde.ask<DeskTill[]>('GET', '/drawer/desk')).body;
    expect(desk.filter(({ shift }) => shift).map(({ number }) => number)).toEqual([1, 2]);
    expect((await noor.ask('GET', '/drawer/desk')).status).toBe(403);
    expect((await noor.ask('GET', `/drawer?till=${desk[1]?.tillId}`)).status).toBe(403);
    const [{ tillId } = { tillId: 0 }] = desk;
    const before = await stateOf(isolde, `?till=${tillId}`);
    const wanted = closing({ 100: Math.floor((before.expected ?? 0) / 100) - 20 }, before.expected ?? 0, {
      tillId,
      keepHeld: true,
      note: 'Coins are low',
      witness: { name: 'Maren K.', path: 'M1 1L2 2' },
    });
    const closed = (await isolde.ask<ClosedShift>('POST', '/drawer/closings', wanted)).body;
    expect(closed.variance).toBeLessThan(-1900);
    const { body: view } = await isolde.ask<ClosedShiftView>('GET', `/drawer/shifts/${closed.id}`);
    expect(JSON.stringify(view.paper)).toContain('Witness: Maren K.');
    expect(view.handovers).toHaveLength(1);
    expect(view.comparisons.length).toBeGreaterThan(0);
    const [mail] = await house.house.database.ask((sql) =>
      sql.query<{ recipient: string; subject: string }>(
        'select recipient, subject from outbox where shift_id = $1',
        [closed.id],
      ),
    );
    expect(mail).toMatchObject({ recipient: 'managers@shop.example' });
    expect(mail?.subject).toContain('short');
    expect((await stateOf(isolde, `?till=${tillId}`)).noteBefore).toBe('Coins are low');

    // Later somebody knows what it was.
    const found = await isolde.ask<VarianceFound>('GET', `/drawer/shifts/${closed.id}/explanations`);
    expect(found.body.explanations.length).toBeGreaterThan(0);
    const note = { amount: closed.variance, reason: 'Window cleaner, paid from the drawer' };
    expect(
      (await isolde.ask('POST', `/drawer/shifts/${closed.id}/notes`, { ...note, amount: 5 })).status,
    ).toBe(422);
    expect((await isolde.ask('POST', `/drawer/shifts/${closed.id}/notes`, note)).status).toBe(200);
    expect((await isolde.ask('POST', `/drawer/shifts/${closed.id}/notes`, note)).status).toBe(422);
  });

  it('is in the history, by day, till and person, with returns and voids, as CSV and PDF', async () => {
    await openDrawer(noor);
    const sale = await ringUp(house, ['MET-C']);
    await pay(noor, sale);
    await bringBack(noor, sale.basket.id, [{ position: 1, quantity: 1000 }]);
    const { expected, left } = await stateOf(noor);
    expect(expected).toBe(left);
    const closed = await noor.ask<ClosedShift>(
      'POST',
      '/drawer/closings',
      closing({ 1: expected ?? 0 }, expected ?? 0, { keepHeld: true }),
    );
    expect(closed.status).toBe(200);
    const all = (await isolde.ask<ShiftHistory>('GET', '/drawer/history?from=2026-03-02')).body;
    expect(all.rows).toHaveLength(2);
    expect(all.rows[0]).toMatchObject({ sales: 2, taken: 0, refunded: sale.expectedTotal, variance: 0 });
    expect(all.sums.variance).toBe(all.rows[1]?.variance);
    expect(all.rows[1]?.explained).toBe(all.rows[1]?.variance);
    expect((await isolde.ask<ShiftHistory>('GET', '/drawer/history?from=2026-03-03')).body.rows).toEqual([]);
    const csv = (await isolde.ask<string>('GET', '/drawer/history.csv')).body;
    expect(csv.trim().split('\n')).toHaveLength(3);
    const pdf = await isolde.ask<string>('GET', '/drawer/history.pdf');
    expect(pdf.headers.get('content-type')).toContain('application/pdf');
  });

  it('opens with a difference that is told apart from what comes from the safe, and as it was left where that is allowed', async () => {
    const balances = async () => {
      const rows = await house.house.database.ask((sql) =>
        sql.query<{ account: string; amount: number }>(
          `select account, sum(amount)::float8 as amount from ledger_entry
           where account in ('safe', 'over-short') group by account`,
        ),
      );
      const of = (account: string) => rows.find((row) => row.account === account)?.amount ?? 0;
      return { safe: of('safe'), short: of('over-short') };
    };
    const { left } = await stateOf(noor);
    const before = await balances();
    const counted = (left ?? 0) - 700;
    const opened = await noor.ask('POST', '/drawer/shifts', {
      pieces: { 1: counted + 5000 },
      fromSafe: 5000,
    });
    expect(opened.status).toBe(200);
    const after = await balances();
    expect([before.safe - after.safe, after.short - before.short]).toEqual([5000, 700]);
    const { expected } = await stateOf(noor);
    expect(expected).toBe(counted + 5000);
    const closed = await noor.ask<ClosedShift>(
      'POST',
      '/drawer/closings',
      closing({ 1: expected ?? 0 }, expected ?? 0),
    );
    expect(closed.body).toMatchObject({ variance: 0 });
    const report = await noor.ask<string>('GET', `/drawer/shifts/${closed.body.id}/report.txt`);
    expect(report.body).toMatch(/Difference at opening +−7\.00/);

    const asLeft = () => noor.ask<ProblemDetails>('POST', '/drawer/shifts', { pieces: {}, asLeft: true });
    expect((await asLeft()).status).toBe(422);
    await house.house.database.ask((sql) => sql.query('update shop set open_as_left = true'));
    expect((await asLeft()).status).toBe(200);
    expect((await stateOf(noor)).expected).toBe((await stateOf(noor)).left);
    expect(await balances()).toEqual(after);
    expect(await house.house.database.ask(verify)).toEqual([]);
  });

  it('is added up with all others, however many there are', async () => {
    const history = async () => (await isolde.ask<ShiftHistory>('GET', '/drawer/history')).body;
    const before = await history();
    const sold = before.rows.find(({ taken }) => taken > 0);
    await house.house.database.ask((sql) =>
      sql.query(
        `insert into shift (till_id, number, state, opened_at, opened_by, opening_pieces, opening_float,
           closed_at, closed_by, closing)
         select till_id, 1000 + nth, state, opened_at, opened_by, opening_pieces, opening_float, closed_at, closed_by,
           closing
         from shift, generate_series(1, 2100) as nth where id = $1`,
        [sold?.id ?? 0],
      ),
    );
    const all = await history();
    expect(all.rows).toHaveLength(before.rows.length + 2100);
    expect(new Set(all.rows.map(({ id }) => id)).size).toBe(all.rows.length);
    expect(all.sums.taken).toBe(before.sums.taken + 2100 * (sold?.taken ?? Number.NaN));
    expect(all.sums.banked).toBe(before.sums.banked + 2100 * (sold?.banked ?? Number.NaN));
    expect((await isolde.ask<string>('GET', '/drawer/history.csv')).body.trim().split('\n')).toHaveLength(
      all.rows.length + 1,
    );
    const strip = (await isolde.ask<string>('GET', '/drawer/history.txt')).body.replaceAll(/\s+/g, ' ');
    const listed = all.rows.length.toLocaleString('en');
    expect(strip).toContain(`the newest 2,000 of ${listed}, together all of them`);
    expect(strip.match(/, shift /g)).toHaveLength(2000);
  });
});
