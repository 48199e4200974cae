import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { AccountView, BankLineView } from '../../contract/accounts.ts';
import type { DaySummary } from '../../contract/books.ts';
import type { CustomerPanel } from '../../contract/people.ts';
import type { PaymentView } from '../../contract/payment.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { putAccountMoney } from '../../core/counter/accountLines.ts';
import { accountMoneyOf } from '../drawer/store.ts';
import { verify } from '../books/verify.ts';
import { take, tenderFor, typesByKind, type RungUp } from '../testing/paying.ts';
import { addSomebody } from '../testing/people.ts';
import { giveBack, linesBack } from '../testing/returning.ts';
import { ENGINE, openDrawer, openHouse, ringUp, type Browser, type TestHouse } from '../testing/testHouse.ts';
import { accountItem } from './accountStore.ts';

let house: TestHouse;
let till: Browser;
let other: Browser;
let cashier: Browser;
let types: ReadonlyMap<string, number>;

beforeAll(async () => {
  house = await openHouse();
  types = await typesByKind(house);
  till = house.browser();
  await till.signIn('8024', 1);
  await openDrawer(till);
  other = house.browser();
  await other.signIn('8024', 2);
  await openDrawer(other);
  cashier = house.browser();
  await cashier.signIn('1357', 1);
});
afterAll(() => house.stop());

const TODAY = '2026-03-02';

interface Opened {
  customerId: number;
  id: number;
  name: string;
}

async function openAccount(
  name: string,
  limit: number,
  more: { asksFor?: string; buyers?: { customerId: number; most: number | null }[] } = {},
): Promise<Opened> {
  const customerId = await addSomebody(till, name);
  const { status, body } = await till.ask<AccountView>('PUT', `/accounts/of/${customerId}`, {
    ofCompany: false,
    limit,
    daysToPay: 30,
    blocked: false,
    asksFor: '',
    buyers: [],
    version: null,
    ...more,
  });
  expect(status, JSON.stringify(body)).toBe(200);
  return { customerId, id: body.id, name };
}

const look = async (customerId: number): Promise<AccountView> => {
  const { body } = await till.ask<{ account: AccountView }>('GET', `/accounts/of/${customerId}`);
  return body.account;
};

async function rungFor(customer: { customerId: number; name: string }, goods: string[]): Promise<RungUp> {
  const rung = await ringUp(house, goods);
  const basket = { ...rung.basket, customer: { id: customer.customerId, name: customer.name } };
  return { ...rung, basket };
}

const charge = (browser: Browser, rung: RungUp, account: { id: number }, more: object = {}) =>
  take(browser, tenderFor(rung, types.get('account') ?? 0, { accountId: account.id, ...more }));

/** Pays onto an account, or out of it, at a till in cash. */
async function payAtTill(browser: Browser, account: Opened, amount: number, more: object = {}) {
  const item = await house.house.database.ask(accountItem);
  if (!item) throw new Error('no item for money on account');
  const empty: Basket = { id: newId(), lines: [] };
  const basket = putAccountMoney(empty, { id: account.id, name: account.name }, amount, {
    item,
    id: newId(),
    ...more,
  });
  const asked = { basket, expectedTotal: amount };
  return amount > 0
    ? browser.ask<PaymentView>(
        'POST',
        '/counter/sales',
        { ...asked, handed: amount },
        { 'idempotency-key': basket.id },
      )
    : giveBack(browser, basket, amount);
}

const tiesOut = async () => expect(await house.house.database.ask(verify)).toEqual([]);

describe(`house accounts on ${ENGINE}`, () => {
  it('take charges up to their limit, and say what may still go on them', async () => {
    const school = await openAccount('Lindral School', 10_000);
    const rung = await rungFor(school, ['MET-C']);
    const answer = await charge(till, rung, school);
    expect(answer.body.finished, JSON.stringify(answer.body)).toBeTruthy();
    const account = await look(school.customerId);
    expect(account).toMatchObject({ owed: rung.expectedTotal, limit: 10_000 });
    expect(account.items[0]).toMatchObject({
      kind: 'charge',
      remaining: rung.expectedTotal,
      dueOn: '2026-04-01',
    });
    const { body } = await till.ask<CustomerPanel>('GET', `/people/customers/${school.customerId}`);
    expect(body.accounts).toMatchObject([
      { id: school.id, owed: rung.expectedTotal, held: 0, blocked: false },
    ]);
    expect(body.owes).toBe(rung.expectedTotal);
    await tiesOut();
  });

  it('go over their limit only with an approval; what fits goes on them, the rest is paid otherwise', async () => {
    const small = await openAccount('Small Ensemble', 1_000);
    const rung = await rungFor(small, ['MET-C']);
    const whole = await charge(cashier, rung, small);
    expect(whole.body).toMatchObject({
      type: 'countersign-needed',
      data: { needed: { right: 'account.over-limit' } },
    });
    const part = await charge(cashier, rung, small, { amount: 1_000 });
    expect(part.body.finished).toBeNull();
    const cash = await take(
      cashier,
      tenderFor(rung, types.get('cash') ?? 0, { amount: rung.expectedTotal - 1_000 }),
    );
    expect(cash.body.finished, JSON.stringify(cash.body)).toBeTruthy();
    expect((await look(small.customerId)).owed).toBe(1_000);
    // Whoever has the right needs no approval.
    const more = await rungFor(small, ['PIC-M']);
    expect((await charge(till, more, small)).body.finished).toBeTruthy();
    await tiesOut();
  });

  it('are charged by two tills at once for no more than there is', async () => {
    const both = await openAccount('Two at Once', 0);
    const prices = [await rungFor(both, ['PIC-M']), await rungFor(both, ['PIC-M'])] as const;
    const { version } = await look(both.customerId);
    await till.ask('PUT', `/accounts/of/${both.customerId}`, {
      ofCompany: false,
      limit: prices[0].expectedTotal,
      daysToPay: 30,
      blocked: false,
      asksFor: '',
      buyers: [],
      version,
    });
    const second = house.browser();
    await second.signIn('2468', 2);
    const answers = await Promise.all([charge(cashier, prices[0], both), charge(second, prices[1], both)]);
    expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 403]);
    expect((await look(both.customerId)).owed).toBe(prices[0].expectedTotal);
    await tiesOut();
  });

  it('hold what is charged until the sale is finished, and let go of it when it is undone', async () => {
    const held = await openAccount('Held Players', 50_000);
    const rung = await rungFor(held, ['MET-C']);
    await charge(till, rung, held, { amount: 500 });
    expect(await look(held.customerId)).toMatchObject({ owed: 0, held: 500 });
    const { body } = await till.ask<PaymentView>('GET', `/payment/baskets/${rung.basket.id}`);
    await till.ask('POST', `/payment/tenders/${body.tenders[0]?.id}/undo`);
    expect(await look(held.customerId)).toMatchObject({ owed: 0, held: 0 });
  });

  it('of a company are charged by those whom it names, up to what each may; it asks for a reference', async () => {
    const teacher = await addSomebody(till, 'Tilda Brook');
    const company = await openAccount('Brook Schools', 100_000, {
      asksFor: 'Order number',
      buyers: [{ customerId: teacher, most: 2_000 }],
    });
    const buyer = { customerId: teacher, name: 'Tilda Brook' };
    const rung = await rungFor(buyer, ['PIC-M']);
    expect((await charge(cashier, rung, company)).body).toMatchObject({
      fields: [{ field: 'reference', message: 'Order number is missing.' }],
    });
    const done = await charge(cashier, rung, company, { reference: 'PO 7' });
    expect(done.body.finished, JSON.stringify(done.body)).toBeTruthy();
    const { items, owed } = await look(company.customerId);
    expect(items[0]).toMatchObject({ buyer: 'Tilda Brook', reference: 'PO 7' });
    expect(owed).toBe(rung.expectedTotal);
    const dear = await rungFor(buyer, ['CLA-0220']);
    expect((await charge(cashier, dear, company, { reference: 'PO 8' })).status).toBe(403);
    const stranger = {
      customerId: await addSomebody(till, 'Somebody Else'),
      name: 'Somebody Else',
    };
    expect((await charge(cashier, await rungFor(stranger, ['PIC-M']), company)).body).toMatchObject({
      fields: [{ field: 'accountId' }],
    });
    await tiesOut();
  });

  it('are paid at a till: the oldest charge first, and what is over waits as credit', async () => {
    const payer = await openAccount('Paying Band', 100_000);
    const first = await rungFor(payer, ['PIC-M']);
    await charge(till, first, payer);
    const second = await rungFor(payer, ['MET-C']);
    await charge(till, second, payer);
    const owed = first.expectedTotal + second.expectedTotal;
    expect((await payAtTill(cashier, payer, first.expectedTotal + 100)).status).toBe(200);
    const open = (await look(payer.customerId)).items.filter(({ remaining }) => remaining !== 0);
    expect(open.map(({ remaining }) => remaining)).toEqual([second.expectedTotal - 100]);
    await payAtTill(cashier, payer, second.expectedTotal + 400);
    expect(await look(payer.customerId)).toMatchObject({ owed: owed - owed - 500 });
    await tiesOut();

    // Paying it out needs a right; more than is over never goes out.
    expect((await payAtTill(cashier, payer, -500)).body).toMatchObject({ type: 'countersign-needed' });
    expect((await payAtTill(till, payer, -501)).body).toMatchObject({ type: 'not-valid' });
    const out = await payAtTill(till, payer, -500);
    expect(out.body.finished, JSON.stringify(out.body)).toBeTruthy();
    expect((await look(payer.customerId)).owed).toBe(0);
    await tiesOut();
  });

  it('are not paid by being charged', async () => {
    const round = await openAccount('Round Trip', 100_000);
    const item = await house.house.database.ask(accountItem);
    if (!item) throw new Error('no item');
    const basket = {
      ...putAccountMoney({ id: newId(), lines: [] }, round, 100, { item, id: newId() }),
      customer: { id: round.customerId, name: round.name },
    };
    const answer = await charge(
      till,
      { basket, expectedTotal: 100, handed: 100 } as unknown as RungUp,
      round,
    );
    expect(answer.body).toMatchObject({ fields: [{ field: 'accountId' }] });
  });

  it('are taken back by a void, charges and payments alike: what was paid is open again', async () => {
    const undone = await openAccount('Void Quartet', 100_000);
    const rung = await rungFor(undone, ['MET-C']);
    await charge(till, rung, undone);
    const paid = await payAtTill(till, undone, rung.expectedTotal);
    expect((await look(undone.customerId)).owed).toBe(0);
    const sale = paid.body as unknown as { id: string };
    expect(
      (await till.ask('POST', `/journal/sales/${sale.id}/void`, { reason: 'Wrong account' })).status,
    ).toBe(200);
    expect((await look(undone.customerId)).items.find(({ kind }) => kind === 'charge')).toMatchObject({
      remaining: rung.expectedTotal,
    });
    expect(
      (await till.ask('POST', `/journal/sales/${rung.basket.id}/void`, { reason: 'Wrong goods' })).status,
    ).toBe(200);
    expect(await look(undone.customerId)).toMatchObject({ owed: 0 });
    await tiesOut();
  });

  it('get the money of goods that come back, also below zero', async () => {
    const back = await openAccount('Back Again', 100_000);
    const rung = await rungFor(back, ['MET-C']);
    await charge(till, rung, back);
    await payAtTill(till, back, rung.expectedTotal);
    const { lines, refund } = await linesBack(till, rung.basket.id, [{ position: 1, quantity: 1000 }]);
    const basket = { id: newId(), lines, customer: { id: back.customerId, name: back.name } };
    const answer = await giveBack(till, basket, 0 - refund);
    expect(answer.body.finished, JSON.stringify(answer.body)).toBeTruthy();
    expect((await look(back.customerId)).owed).toBe(0 - refund);
    await tiesOut();
  });

  it('take what was paid in cash, where the customer wants it so', async () => {
    const onto = await openAccount('Onto the Account', 100_000);
    const rung = await rungFor(onto, ['MET-C']);
    const cash = await take(till, tenderFor(rung, types.get('cash') ?? 0));
    expect(cash.body.finished).toBeTruthy();
    const { lines, refund } = await linesBack(till, rung.basket.id, [{ position: 1, quantity: 1000 }]);
    const basket = { id: newId(), lines, customer: { id: onto.customerId, name: onto.name } };
    const answer = await till.ask<PaymentView>('POST', '/payment/refunds', {
      basket,
      expectedTotal: 0 - refund,
      parts: [{ id: newId(), to: 'account', amount: refund }],
    });
    expect(answer.body.finished, JSON.stringify(answer.body)).toBeTruthy();
    expect((await look(onto.customerId)).owed).toBe(0 - refund);
    await tiesOut();
  });

  it('are paid by bank for the charges that are picked, written off, and opened with what was owed before', async () => {
    const bank = await openAccount('Bank Choir', 100_000);
    await till.ask('POST', `/accounts/${bank.id}/opening`, {
      amount: 5_000,
      day: '2025-12-01',
      words: 'Old book',
    });
    const rung = await rungFor(bank, ['MET-C']);
    await charge(till, rung, bank);
    const { items } = await look(bank.customerId);
    const picked = items.find(({ kind }) => kind === 'charge');
    await till.ask('POST', `/accounts/${bank.id}/payments`, {
      amount: rung.expectedTotal,
      day: TODAY,
      items: [picked?.id],
    });
    const now = await look(bank.customerId);
    expect(now.items.filter(({ remaining }) => remaining !== 0)).toMatchObject([
      { kind: 'opening', remaining: 5_000 },
    ]);
    expect(now.ages).toMatchObject({ notDue: 0, days90: 5_000 });
    const forbidden = await cashier.ask('POST', `/accounts/${bank.id}/write-off`, {
      amount: 1,
      words: 'Gone',
    });
    expect(forbidden.status).toBe(403);
    const much = await till.ask('POST', `/accounts/${bank.id}/write-off`, { amount: 5_001, words: 'Gone' });
    expect(much.body).toMatchObject({ fields: [{ field: 'amount' }] });
    const gone = await till.ask('POST', `/accounts/${bank.id}/write-off`, {
      amount: 5_000,
      words: 'Moved away',
    });
    expect(gone.status).toBe(200);
    expect(await look(bank.customerId)).toMatchObject({ owed: 0 });
    await tiesOut();
  });

  it('find the lines of a bank, each once, and book them where somebody says so', async () => {
    const named = await openAccount('Orlen Strings', 100_000);
    const rung = await rungFor(named, ['PIC-M']);
    await charge(till, rung, named);
    const { number } = await look(named.customerId);
    const amount = (rung.expectedTotal / 100).toFixed(2);
    const csv = [
      'Date;Amount;Payer;Reference',
      `2026-03-02;${amount};Orlen Strings;for ${number}`,
      '2026-03-02;-12.00;Bank;fee',
      '2026-03-01;3.33;Unknown;thanks',
    ].join('\n');
    const taken = await till.ask('POST', '/accounts/bank', { csv });
    expect(taken.body).toEqual({ added: 2, known: 0, passed: 1 });
    expect((await till.ask('POST', '/accounts/bank', { csv })).body).toMatchObject({ added: 0, known: 2 });
    const lines = (await till.ask<BankLineView[]>('GET', '/accounts/bank')).body;
    const line = lines.find(({ payer }) => payer === 'Orlen Strings');
    expect(line?.guess).toMatchObject({ accountId: named.id, sure: true });
    const booked = await Promise.all(
      [till, other].map((one) => one.ask('POST', `/accounts/bank/${line?.id}/book`, { accountId: named.id })),
    );
    expect(booked.map(({ status }) => status).toSorted()).toEqual([200, 409]);
    expect(await look(named.customerId)).toMatchObject({ owed: 0 });
    const rest = lines.find(({ payer }) => payer === 'Unknown');
    expect((await till.ask('POST', `/accounts/bank/${rest?.id}/drop`)).status).toBe(200);
    expect((await till.ask('POST', '/accounts/bank', { csv: 'a;b\n1;2' })).body).toMatchObject({
      fields: [{ field: 'csv' }],
    });
    await tiesOut();
  });

  it('are reminded once for each day and step', async () => {
    const late = await openAccount('Late Payers', 100_000);
    await till.ask('POST', `/accounts/${late.id}/opening`, { amount: 700, day: '2026-01-02' });
    const remind = () => till.ask('POST', '/accounts/reminders', { accountId: late.id });
    expect((await remind()).body).toEqual({ sent: 0, unreachable: ['Late Payers'] });
    await house.house.database.ask((sql) =>
      sql.query("update customer set mail = 'late@mail.example' where id = $1", [late.customerId]),
    );
    const [one, two] = await Promise.all([remind(), remind()]);
    expect([one.body, two.body]).toContainEqual({ sent: 1, unreachable: [] });
    expect([one.body, two.body]).toContainEqual({ sent: 0, unreachable: [] });
    expect((await look(late.customerId)).reminders).toMatchObject([{ step: 2, amount: 700 }]);

    // Reminder and statement go out as letters, with the sheets that go into an envelope.
    const mailed = await till.ask('POST', `/accounts/${late.id}/statement/mails`, {
      from: '2026-01-01',
      to: TODAY,
    });
    expect(mailed.body).toEqual({ to: 'late@mail.example' });
    await eventually(async () => {
      const letters = await house.house.database.ask((sql) =>
        sql.query<{ state: string; trouble: string }>(
          'select state, trouble from outbox where account_id = $1 order by id',
          [late.id],
        ),
      );
      expect(letters).toEqual([
        { state: 'sent', trouble: '' },
        { state: 'sent', trouble: '' },
      ]);
    });
  });

  it('are moved when their owners are one person, and settle what is open on both', async () => {
    const goes = await openAccount('Double One', 100_000);
    const stays = await openAccount('Double Two', 100_000);
    const rung = await rungFor(goes, ['PIC-M']);
    await charge(till, rung, goes);
    const kept = await rungFor(goes, ['MET-C']);
    await charge(till, kept, goes);
    await till.ask('POST', `/accounts/${stays.id}/payments`, { amount: 100, day: TODAY });
    const page = async (id: number) =>
      (await till.ask<{ record: object; version: number }>('GET', `/people/customers/${id}/page`)).body;
    const [from, to] = [await page(goes.customerId), await page(stays.customerId)];
    const merged = await till.ask('POST', `/people/customers/${stays.customerId}/merge`, {
      goes: goes.customerId,
      record: to.record,
      version: to.version,
      goesVersion: from.version,
    });
    expect(merged.status, JSON.stringify(merged.body)).toBe(200);
    expect(await look(stays.customerId)).toMatchObject({
      owed: rung.expectedTotal + kept.expectedTotal - 100,
    });
    await tiesOut();

    // What was charged before is voided, or comes back, where it is now.
    const { lines, refund } = await linesBack(till, kept.basket.id, [{ position: 1, quantity: 1000 }]);
    const back = await giveBack(till, { id: newId(), lines }, 0 - refund);
    expect(back.body.finished, JSON.stringify(back.body)).toBeTruthy();
    const { status } = await till.ask('POST', `/journal/sales/${rung.basket.id}/void`, { reason: 'Wrong' });
    expect(status).toBe(200);
    expect(await look(stays.customerId)).toMatchObject({ owed: -100 });
    await tiesOut();
  });

  it('are in the day of the shop and in the report of the shift, beside what was sold', async () => {
    const { body: day } = await till.ask<DaySummary>('GET', '/books/day');
    expect(day.onAccounts).toBeGreaterThan(0);
    expect(day.gross + day.reductions - day.refunded + day.deposits + day.onAccounts + day.tax).toBe(
      day.total,
    );
    const shift = await house.house.database.ask((sql) =>
      sql.query<{ id: number }>("select id from shift where state = 'open' order by id limit 1"),
    );
    const money = await house.house.database.ask((sql) => accountMoneyOf(sql, shift[0]?.id ?? 0));
    expect(money.charged).toBeGreaterThan(0);
    expect(money.paid).toBeGreaterThan(0);
  });

  it('say on the receipt what was owed before, what was charged, and what is owed now', async () => {
    const told = await openAccount('Told on Paper', 100_000);
    const rung = await rungFor(told, ['PIC-M']);
    await charge(till, rung, told);
    const { body } = await till.ask<{ paper: { rows: { left?: string; right?: string }[] } }>(
      'GET',
      `/journal/sales/${rung.basket.id}`,
    );
    const rows = body.paper.rows.map(({ left, right }) => `${left} ${right}`);
    expect(rows).toContain('Owed before 0.00');
    expect(rows).toContain(`Charged ${(rung.expectedTotal / 100).toFixed(2)}`);
  });

  it('have statements that add up, for a buyer and for all', async () => {
    const stated = await openAccount('Stated Choir', 100_000);
    await till.ask('POST', `/accounts/${stated.id}/opening`, { amount: 1_000, day: '2026-01-15' });
    const rung = await rungFor(stated, ['PIC-M']);
    await charge(till, rung, stated);
    await payAtTill(till, stated, 300);
    const { body } = await till.ask<{ statement: { before: number; after: number; rows: unknown[] } }>(
      'GET',
      `/accounts/${stated.id}/statement?from=2026-02-01&to=2026-03-31`,
    );
    expect(body.statement).toMatchObject({
      before: 1_000,
      charged: rung.expectedTotal,
      paid: 300,
      after: 700 + rung.expectedTotal,
      ages: { days60: 700 },
    });
    const wrong = await till.ask('GET', `/accounts/${stated.id}/statement?from=2026-03-02&to=2026-03-01`);
    expect(wrong.status).toBe(422);
  });
});
