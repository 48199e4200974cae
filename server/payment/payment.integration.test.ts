import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PaymentView, StoredValueView, TakeTender } from '../../contract/payment.ts';
import { verify } from '../ledger/verify.ts';
import { openDrawer, openHouse, ringUp, type Browser, type TestHouse } from '../testing/testHouse.ts';
import {
  standIn,
  take,
  tap as tapCard,
  tenderFor as aTender,
  typesByKind,
  view as viewOf,
  type RungUp,
} from '../testing/paying.ts';

let house: TestHouse;
let till: Browser;
let second: Browser;
let types: ReadonlyMap<string, number>;

beforeAll(async () => {
  house = await openHouse();
  till = house.browser();
  await till.signIn('1357', 1);
  await openDrawer(till);
  second = house.browser();
  await second.signIn('2468', 2);
  await openDrawer(second);
  types = await typesByKind(house);
});
afterAll(async () => {
  expect(await house.house.database.ask(verify)).toEqual([]);
  await house.stop();
});

const GIFT_CARD = '44100771409';

const terminal = () => standIn(house);
const tenderFor = (sale: RungUp, kind: string, more: Partial<TakeTender> = {}) =>
  aTender(sale, types.get(kind) ?? 0, more);
const view = (sale: RungUp) => viewOf(till, sale);
const tap = () => {
  terminal().press('T-1001', { press: 'set', line: 'good' });
  tapCard(terminal());
};

const does = (browser: Browser, id: string, what: string) =>
  browser.ask<PaymentView>('POST', `/payment/tenders/${id}/${what}`);

/** Waits until a payment of a basket is in a state. */
async function inState(sale: RungUp, state: string): Promise<PaymentView> {
  for (let tries = 0; tries < 200; tries++) {
    const { body } = await view(sale);
    if (body.tenders.some((tender) => tender.state === state) || (state === 'finished' && body.finished))
      return body;
    await new Promise((wake) => setTimeout(wake, 20));
  }
  throw new Error(`no payment became ${state}`);
}

async function balanceOf(number: string): Promise<number> {
  return (await till.ask<StoredValueView>('GET', `/payment/stored-values/of/${number}`)).body.balance;
}

describe('a payment', () => {
  it('is split over a gift card, a terminal and cash, and the sale is finished once', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    const before = await balanceOf(GIFT_CARD);
    const first = await take(till, tenderFor(sale, 'stored-value', { amount: 150_00, number: GIFT_CARD }));
    expect(first.body.tenders).toMatchObject([
      { state: 'approved', amount: 150_00, leftOn: before - 150_00 },
    ]);
    expect(await balanceOf(GIFT_CARD)).toBe(before);
    const card = tenderFor(sale, 'card', { amount: 100_00 });
    expect((await take(till, card)).body.tenders.at(-1)?.state).toBe('asked');
    tap();
    await inState(sale, 'approved');
    const left = sale.expectedTotal - 250_00;
    const cash = tenderFor(sale, 'cash', { amount: left + 5_00 });
    const [one, again] = await Promise.all([take(till, cash), take(till, cash)]);
    for (const { body } of [one, again, await view(sale)]) {
      expect(body.finished).toMatchObject({ total: sale.expectedTotal, change: 5_00 });
      expect(body.finished?.tenders.map(({ amount }) => amount)).toEqual([150_00, 100_00, left]);
    }
    expect(await balanceOf(GIFT_CARD)).toBe(before - 150_00);
  });

  it('refuses more than is left, nothing, and what the screen has wrong', async () => {
    const sale = await ringUp(house, ['REE-BC-25']);
    const cheque = tenderFor(sale, 'cheque', { reference: '118' });
    expect(await take(till, { ...cheque, amount: sale.expectedTotal + 1 })).toMatchObject({ status: 422 });
    expect(await take(till, { ...cheque, reference: '' })).toMatchObject({ status: 422 });
    expect(await take(till, { ...cheque, amount: 0 })).toMatchObject({ status: 422 });
    expect(await take(till, { ...cheque, expectedTotal: 1 })).toMatchObject({ status: 409 });
    expect((await take(till, cheque)).body.finished?.tenders[0]?.name).toBe('Cheque 118');
  });

  it('is undone the way it came', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    const before = await balanceOf(GIFT_CARD);
    const value = tenderFor(sale, 'stored-value', { amount: 10_00, number: GIFT_CARD });
    await take(till, value);
    const card = tenderFor(sale, 'card', { amount: 20_00 });
    await take(till, card);
    tap();
    await inState(sale, 'approved');
    expect(
      (await till.ask('POST', '/waiting/held', { id: newId(), basket: sale.basket, name: '', note: '' }))
        .status,
    ).toBeGreaterThanOrEqual(400);
    expect((await does(till, value.id, 'undo')).body.tenders[0]?.state).toBe('undone');
    expect((await does(till, card.id, 'undo')).body.tenders[1]?.state).toBe('undone');
    expect((await terminal().status('T-1001', card.id)).state).toBe('reversed');
    expect(await balanceOf(GIFT_CARD)).toBe(before);
    expect((await does(till, card.id, 'undo')).body.tenders[1]?.state).toBe('undone');
    const cash = tenderFor(sale, 'cash');
    expect((await take(till, cash)).body.finished?.tenders).toHaveLength(1);
    expect(await does(till, value.id, 'undo')).toMatchObject({ status: 409 });
  });

  it('takes foreign cash at its rate, with change in own money', async () => {
    const sale = await ringUp(house, ['REE-BC-25']);
    const tender = tenderFor(sale, 'foreign-cash', { amount: 100_00 });
    const { body } = await take(till, tender);
    expect(body.finished).toMatchObject({ handed: 72_00, change: 72_00 - sale.expectedTotal });
  });
});

describe('a card terminal', () => {
  it('declines, approves a part, and is stopped; the rest stays to be paid', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    terminal().press('T-1001', { press: 'set', bank: 'no-funds', line: 'good' });
    await take(till, tenderFor(sale, 'card'));
    terminal().press('T-1001', { press: 'round-up', yes: false });
    terminal().press('T-1001', { press: 'card', entry: 'insert', cardId: 'harbour' });
    terminal().press('T-1001', { press: 'pin', right: true });
    expect((await inState(sale, 'declined')).tenders[0]?.words).toContain('Not enough money');

    terminal().press('T-1001', { press: 'set', bank: 'partial', partialRate: 250_000 });
    await take(till, tenderFor(sale, 'card'));
    terminal().press('T-1001', { press: 'round-up', yes: false });
    terminal().press('T-1001', { press: 'card', entry: 'tap', cardId: 'lantern' });
    const part = await inState(sale, 'approved');
    const amount = part.tenders.at(-1)?.amount ?? 0;
    expect(amount).toBe(Math.floor(sale.expectedTotal / 4));

    const rest = tenderFor(sale, 'card', { amount: sale.expectedTotal - amount });
    await take(till, rest);
    await does(till, rest.id, 'cancel');
    expect((await inState(sale, 'cancelled')).tenders.at(-1)?.words).toContain('Called off');
    const cash = tenderFor(sale, 'cash', { amount: sale.expectedTotal - amount });
    expect((await take(till, cash)).body.finished).not.toBeNull();
  });

  it('that is busy with another till says so; of two tills one gets it', async () => {
    const [mine, theirs] = [await ringUp(house, ['REE-BC-25']), await ringUp(house, ['REE-BC-25'])];
    const [one, two] = await Promise.all([
      take(till, tenderFor(mine, 'card')),
      take(second, tenderFor(theirs, 'card')),
    ]);
    const states = [one, two].map(({ body }) => body.tenders[0]?.state).sort();
    expect(states).toEqual(['asked', 'cancelled']);
    const busy = [one, two].find(({ body }) => body.tenders[0]?.state === 'cancelled');
    expect(busy?.body.tenders[0]?.words).toContain('busy');
    tap();
    await inState(one.body.tenders[0]?.state === 'asked' ? mine : theirs, 'finished');
  });

  it('whose answer comes after the till has gone on sends the money back', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    const card = tenderFor(sale, 'card');
    await take(till, card);
    terminal().press('T-1001', { press: 'set', line: 'lost', bank: 'approve' });
    expect((await does(till, card.id, 'check')).body.tenders[0]?.state).toBe('unanswered');
    // The customer pays all the same, and nobody can be told.
    terminal().press('T-1001', { press: 'round-up', yes: false });
    terminal().press('T-1001', { press: 'card', entry: 'tap', cardId: 'tideway' });
    expect((await does(till, card.id, 'abandon')).body.tenders[0]?.state).toBe('abandoned');
    const cash = tenderFor(sale, 'cash');
    expect((await take(till, cash)).body.finished?.tenders.map(({ name }) => name)).toEqual(['Cash']);
    terminal().press('T-1001', { press: 'set', line: 'good' });
    await inState(sale, 'undone');
    expect((await terminal().status('T-1001', card.id)).state).toBe('reversed');
  });

  it('that answers late or twice takes once, and the sale is finished by itself', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    const card = tenderFor(sale, 'card');
    await take(till, card);
    terminal().press('T-1001', { press: 'set', line: 'lost', bank: 'approve' });
    await does(till, card.id, 'check');
    terminal().press('T-1001', { press: 'round-up', yes: true });
    terminal().press('T-1001', { press: 'card', entry: 'tap', cardId: 'tideway' });
    terminal().press('T-1001', { press: 'set', line: 'good' });
    terminal().press('T-1001', { press: 'set', line: 'good' });
    const { finished } = await inState(sale, 'finished');
    expect(finished).toMatchObject({ total: sale.expectedTotal, change: 0 });
    expect(finished?.donation).toBe((100 - (sale.expectedTotal % 100)) % 100);
    expect(finished?.tenders).toHaveLength(1);
  });

  it('is settled once, with fees, and the books follow', async () => {
    const supervisor = house.browser();
    await supervisor.signIn('3690', 1);
    const [terminal] = (
      await supervisor.ask<{ id: number; name: string; unsettled: number }[]>('GET', '/payment/terminals')
    ).body;
    expect(terminal?.unsettled).toBeGreaterThan(0);
    const first = await supervisor.ask<{ gross: number; fees: number; count: number }>(
      'POST',
      `/payment/terminals/${terminal?.id}/settle`,
    );
    expect(first.body).toMatchObject({ gross: terminal?.unsettled });
    expect(first.body.fees).toBeGreaterThan(0);
    const again = await supervisor.ask<{ count: number }>(
      'POST',
      `/payment/terminals/${terminal?.id}/settle`,
    );
    expect(again.body.count).toBe(0);
    const csv = await supervisor.ask<string>('GET', '/payment/cards.csv');
    expect(csv.status).toBe(200);
    expect((await till.ask('GET', '/payment/cards')).status).toBe(403);
  });
});

describe('a gift card', () => {
  const number = '55500011199';

  it('is active once it is paid for, cannot be sold twice, and is topped up', async () => {
    const sale = await giftCardSale(number, 40_00);
    expect((await till.ask('GET', `/payment/stored-values/of/${number}`)).status).toBe(404);
    expect((await take(till, tenderFor(sale, 'cash'))).body.finished?.total).toBe(40_00);
    expect(await balanceOf(number)).toBe(40_00);
    const twice = await giftCardSale(number, 40_00);
    expect((await take(till, tenderFor(twice, 'cash'))).status).toBe(409);
    const more = await giftCardSale(number, 10_00, true);
    await take(till, tenderFor(more, 'cash'));
    expect(await balanceOf(number)).toBe(50_00);
  });

  it('never goes below zero, also with two tills at once', async () => {
    const sales = [await ringUp(house, ['CLA-0220']), await ringUp(house, ['CLA-0220'])];
    const answers = await Promise.all(
      sales.map((sale, at) =>
        take(at ? second : till, tenderFor(sale, 'stored-value', { amount: 40_00, number })),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
    const won = answers.findIndex(({ status }) => status === 200);
    const sale = sales[won];
    if (!sale) throw new Error('nobody got it');
    await take(won ? second : till, tenderFor(sale, 'cash', { amount: sale.expectedTotal - 40_00 }));
    expect(await balanceOf(number)).toBe(10_00);
  });

  it('is frozen when it is lost, and moved to a new one', async () => {
    const supervisor = house.browser();
    await supervisor.signIn('3690', 1);
    const { body: card } = await till.ask<StoredValueView>('GET', `/payment/stored-values/of/${number}`);
    expect((await till.ask('POST', `/payment/stored-values/${card.id}/freeze`)).status).toBe(403);
    expect((await supervisor.ask('POST', `/payment/stored-values/${card.id}/freeze`)).status).toBe(200);
    const sale = await ringUp(house, ['CLA-0220']);
    const refused = await take(till, tenderFor(sale, 'stored-value', { amount: 5_00, number }));
    expect(JSON.stringify(refused.body)).toContain('frozen');
    const moved = await supervisor.ask<{ id: number; number: string }>(
      'POST',
      `/payment/stored-values/${card.id}/move`,
      { number: '' },
    );
    expect(await balanceOf(moved.body.number)).toBe(10_00);
    expect(await balanceOf(number)).toBe(0);
  });

  it('of paper comes in by a list, whole or not at all, and is used once', async () => {
    const supervisor = house.browser();
    await supervisor.signIn('3690', 1);
    const bad = await supervisor.ask('POST', '/payment/certificates/import', {
      csv: 'number,amount\nX-1001,20.00\nX-1001,5',
    });
    expect(JSON.stringify(bad.body)).toContain('Line 3');
    expect((await till.ask('GET', '/payment/stored-values/of/X-1001')).status).toBe(404);
    const good = await supervisor.ask('POST', '/payment/certificates/import', {
      csv: 'number,amount,until,once\nX-1001,20.00,,once\nX-1002,1',
    });
    expect(good.body).toEqual({ count: 2, amount: 21_00 });
    const sale = await ringUp(house, ['REE-BC-25']);
    const used = await take(till, tenderFor(sale, 'stored-value', { amount: 2_00, number: 'x-1001' }));
    expect(used.status).toBe(200);
    await take(till, tenderFor(sale, 'cash', { amount: sale.expectedTotal - 2_00 }));
    expect(await balanceOf('X-1001')).toBe(0);
    const again = await ringUp(house, ['REE-BC-25']);
    expect(
      (await take(till, tenderFor(again, 'stored-value', { amount: 1_00, number: 'X-1001' }))).status,
    ).toBe(422);
  });
});

async function giftCardSale(number: string, amount: number, topUp = false): Promise<RungUp> {
  const sale = await ringUp(house, ['GIFT']);
  for (const line of sale.basket.lines) {
    Object.assign(line, { listPrice: amount, storedValue: { number, kind: 'gift-card', topUp } });
  }
  return { ...sale, expectedTotal: amount, handed: amount };
}
