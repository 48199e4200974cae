import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { StoredValueView } from '../../contract/giftCards.ts';
import type { PaymentView, TakeTender } from '../../contract/payment.ts';
import { verify } from '../books/verify.ts';
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

/** Waits until a payment of a basket, the newest if none is named, is in a state: others may be in it before. */
function inState(sale: RungUp, state: string, which?: { id: string }): Promise<PaymentView> {
  return eventually(async () => {
    const { body } = await view(sale);
    const one = which ? body.tenders.find(({ id }) => id === which.id) : body.tenders.at(-1);
    const there = one?.state === state;
    if (!there && !(state === 'finished' && body.finished)) throw new Error(`no payment became ${state}`);
    return body;
  });
}

async function balanceOf(number: string): Promise<number> {
  return (await till.ask<StoredValueView>('POST', '/gift-cards/enquiries', { number: number })).body.balance;
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
      expect(body.tenders[0]).toMatchObject({ leftOn: before - 150_00 });
    }
    expect(await balanceOf(GIFT_CARD)).toBe(before - 150_00);
  });

  it('that finishes the sale says what is left on the card, as it does when it is asked again', async () => {
    const sale = await ringUp(house, ['REE-BC-25']);
    const before = await balanceOf(GIFT_CARD);
    const whole = tenderFor(sale, 'stored-value', { amount: sale.expectedTotal, number: GIFT_CARD });
    for (const { body } of [await take(till, whole), await take(till, whole), await view(sale)]) {
      expect(body.finished?.total).toBe(sale.expectedTotal);
      expect(body.tenders[0]?.leftOn).toBe(before - sale.expectedTotal);
    }
    expect(await balanceOf(GIFT_CARD)).toBe(before - sale.expectedTotal);
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
    expect((await take(till, cash)).body.finished).toBeTruthy();
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

  it('that takes very long is said to be silent, and may still answer', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    const card = tenderFor(sale, 'card');
    await take(till, card);
    const later = new Date(house.house.clock.now().getTime() + 10 * 60_000);
    const clock = vi.spyOn(house.house.clock, 'now').mockReturnValue(later);
    expect((await does(till, card.id, 'check')).body.tenders[0]).toMatchObject({
      state: 'unanswered',
      words: 'The card terminal takes very long.',
    });
    clock.mockRestore();
    tap();
    await inState(sale, 'finished');
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
    await inState(sale, 'undone', card);
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
      await supervisor.ask<{ id: number; name: string; unsettled: number }[]>(
        'GET',
        '/card-payments/terminals',
      )
    ).body;
    expect(terminal?.unsettled).toBeGreaterThan(0);
    const first = await supervisor.ask<{ gross: number; fees: number; count: number }>(
      'POST',
      `/card-payments/terminals/${terminal?.id}/settle`,
    );
    expect(first.body).toMatchObject({ gross: terminal?.unsettled });
    expect(first.body.fees).toBeGreaterThan(0);
    const again = await supervisor.ask<{ count: number }>(
      'POST',
      `/card-payments/terminals/${terminal?.id}/settle`,
    );
    expect(again.body.count).toBe(0);
    const csv = await supervisor.ask<string>('GET', '/card-payments/payments.csv');
    expect(csv.status).toBe(200);
    expect((await till.ask('GET', '/card-payments/payments')).status).toBe(403);
  });
});

describe('a gift card', () => {
  const number = '55500011199';

  it('is active once it is paid for, cannot be sold twice, and is topped up', async () => {
    const sale = await giftCardSale(number, 40_00);
    expect((await till.ask('POST', '/gift-cards/enquiries', { number: number })).status).toBe(404);
    expect((await take(till, tenderFor(sale, 'cash'))).body.finished?.total).toBe(40_00);
    expect(await balanceOf(number)).toBe(40_00);
    const twice = await giftCardSale(number, 40_00);
    expect((await take(till, tenderFor(twice, 'cash'))).status).toBe(409);
    const more = await giftCardSale(number, 10_00, true);
    await take(till, tenderFor(more, 'cash'));
    expect(await balanceOf(number)).toBe(50_00);
  });

  it('that is sent by e-mail is there when it is paid for', async () => {
    const sale = await giftCardSale('55500022205', 15_00, false, 'ben@reader.example');
    await take(till, tenderFor(sale, 'cash'));
    const folder = join(house.dataFolder, 'outbox');
    await eventually(async () => {
      const mails = await Promise.all(
        (await readdir(folder)).map((name) => readFile(join(folder, name), 'utf8')),
      );
      const mine = mails.find((mail) => mail.includes('To: ben@reader.example'));
      expect(mine).toContain('55500022205');
    });
  });

  it('shows its number to nobody who has not typed it, and numbers that nobody knows are slowed', async () => {
    const search = (browser: Browser, find: string) =>
      browser.ask<{ rows: StoredValueView[] }>('POST', '/gift-cards/search', { find });
    const listed = (await search(till, '')).body.rows;
    expect(listed.length).toBeGreaterThan(0);
    expect(listed.every(({ number }) => number.startsWith('·· '))).toBe(true);
    expect((await search(till, GIFT_CARD.slice(0, 6))).body.rows).toEqual([]);
    expect((await search(till, GIFT_CARD)).body.rows).toHaveLength(1);
    expect((await search(till, GIFT_CARD.slice(-4))).body.rows.length).toBeGreaterThan(0);
    const supervisor = house.browser();
    await supervisor.signIn('3690', 3);
    expect((await search(supervisor, GIFT_CARD.slice(0, 6))).body.rows[0]?.number).toContain('4410');
    const guess = (at: number) => till.ask('POST', '/gift-cards/enquiries', { number: `GUESS-${at}` });
    const answers: number[] = [];
    for (let at = 0; at < 14; at++) answers.push((await guess(at)).status);
    expect(answers.filter((status) => status === 404).length).toBeLessThanOrEqual(11);
    expect(answers.at(-1)).toBe(429);
    // Paying with a guess is slowed as well.
    const sale = await ringUp(house, ['STR-VI-44']);
    expect((await take(till, tenderFor(sale, 'stored-value', { number: 'GUESS-99' }))).status).toBe(429);
    house.elapse(7_200);
    expect(await balanceOf(GIFT_CARD)).toBeGreaterThan(0);
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
    const { body: card } = await till.ask<StoredValueView>('POST', '/gift-cards/enquiries', {
      number: number,
    });
    expect((await till.ask('POST', `/gift-cards/${card.id}/freeze`)).status).toBe(403);
    expect((await supervisor.ask('POST', `/gift-cards/${card.id}/freeze`)).status).toBe(200);
    const sale = await ringUp(house, ['CLA-0220']);
    const refused = await take(till, tenderFor(sale, 'stored-value', { amount: 5_00, number }));
    expect(JSON.stringify(refused.body)).toContain('frozen');
    const moved = await supervisor.ask<{ id: number; number: string }>(
      'POST',
      `/gift-cards/${card.id}/move`,
      { number: '' },
    );
    expect(await balanceOf(moved.body.number)).toBe(10_00);
    expect(await balanceOf(number)).toBe(0);
  });

  it('of paper comes in by a list as long as thousands of them are', async () => {
    const supervisor = house.browser();
    await supervisor.signIn('3690', 1);
    const lines = Array.from({ length: 8_000 }, (_, at) => `LONG-${100_000 + at},5.00,2027-12-31,once`);
    const csv = ['number,amount,until,once', ...lines].join('\n');
    const { status, body } = await supervisor.ask('POST', '/gift-cards/certificates/import', { csv });
    expect([status, body]).toEqual([200, { count: 8_000, amount: 40_000_00 }]);
  });

  it('that has expired is written off once, with all others', async () => {
    const supervisor = house.browser();
    await supervisor.signIn('3690', 1);
    const writeOff = async () => (await supervisor.ask('POST', '/gift-cards/expired')).body;
    await writeOff();
    const csv = 'number,amount,until\nOLD-1,7.00,2026-02-28\nOLD-2,8.00,2026-03-01\nOLD-3,9.00,2026-03-02';
    await supervisor.ask('POST', '/gift-cards/certificates/import', { csv });
    const before = await owed('lapsed-value');
    expect(await writeOff()).toEqual({ count: 2, amount: 15_00 });
    expect((await owed('lapsed-value')) - before).toBe(15_00);
    const left = await Promise.all(['OLD-1', 'OLD-2', 'OLD-3'].map(balanceOf));
    expect(left).toEqual([0, 0, 9_00]);
    expect(await writeOff()).toEqual({ count: 0, amount: 0 });
  });

  it('of paper comes in by a list, whole or not at all, and is used once', async () => {
    const supervisor = house.browser();
    await supervisor.signIn('3690', 1);
    const bad = await supervisor.ask('POST', '/gift-cards/certificates/import', {
      csv: 'number,amount\nX-1001,20.00\nX-1001,5',
    });
    expect(JSON.stringify(bad.body)).toContain('Line 3');
    expect((await till.ask('POST', '/gift-cards/enquiries', { number: 'X-1001' })).status).toBe(404);
    const good = await supervisor.ask('POST', '/gift-cards/certificates/import', {
      csv: 'number,amount,until,once\nX-1001,20.00,,once\nX-1002,1',
    });
    expect(good.body).toEqual({ count: 2, amount: 21_00 });
    const taken = 'There is a certificate or card of this number already.';
    const again = await supervisor.ask('POST', '/gift-cards/certificates/import', {
      csv: 'number,amount\nX-1003,20.00\nx-1002,5',
    });
    expect(JSON.stringify(again.body)).toContain(`Line 3, x-1002: ${taken}`);
    expect((await till.ask('POST', '/gift-cards/enquiries', { number: 'X-1003' })).status).toBe(404);
    const one = { number: 'X-1002', amount: 5_00 };
    expect(JSON.stringify((await supervisor.ask('POST', '/gift-cards/certificates', one)).body)).toContain(
      taken,
    );
    const sale = await ringUp(house, ['REE-BC-25']);
    const used = await take(till, tenderFor(sale, 'stored-value', { amount: 2_00, number: 'x-1001' }));
    expect(used.status).toBe(200);
    await take(till, tenderFor(sale, 'cash', { amount: sale.expectedTotal - 2_00 }));
    expect(await balanceOf('X-1001')).toBe(0);
    const next = await ringUp(house, ['REE-BC-25']);
    expect(
      (await take(till, tenderFor(next, 'stored-value', { amount: 1_00, number: 'X-1001' }))).status,
    ).toBe(422);
  });
});

describe('what goes with a payment', () => {
  it('tips are asked for on the terminal, and owed to those who served', async () => {
    await setUp({ tipRates: [100_000, 200_000] });
    const sale = await ringUp(house, ['REE-BC-25']);
    const tips = await owed('tips-payable');
    await take(till, tenderFor(sale, 'card'));
    terminal().press('T-1001', { press: 'set', bank: 'approve', line: 'good' });
    terminal().press('T-1001', { press: 'round-up', yes: true });
    expect(terminal().face('T-1001').step).toBe('tip');
    terminal().press('T-1001', { press: 'tip', amount: 75 });
    terminal().press('T-1001', { press: 'card', entry: 'tap', cardId: 'lantern' });
    const { finished } = await inState(sale, 'finished');
    expect(finished?.tenders).toMatchObject([{ tip: 75 }]);
    expect(finished?.donation).toBeGreaterThan(0);
    expect(await owed('tips-payable')).toBe(tips + 75);
    await setUp({});
  });

  it('the customer is asked to round up once, on screen or on the terminal', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    const declined = tenderFor(sale, 'card', { amount: 10_00, askRoundUp: false });
    await take(till, declined);
    expect(terminal().face('T-1001').step).toBe('card');
    await does(till, declined.id, 'cancel');
    await take(till, tenderFor(sale, 'card', { amount: 10_00 }));
    expect(terminal().face('T-1001').step).toBe('round-up');
    tap();
    await inState(sale, 'approved');
    await take(till, tenderFor(sale, 'card', { amount: 10_00 }));
    expect(terminal().face('T-1001').step).toBe('card');
    tap();
    await eventually(async () => {
      const { tenders } = (await view(sale)).body;
      expect(tenders.filter(({ state }) => state === 'approved')).toHaveLength(2);
    });
    await take(till, tenderFor(sale, 'cash'));
  });

  it('the drawer opens for a part in cash, and when it is given back', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    const part = tenderFor(sale, 'cash', { amount: 20_00 });
    const openings = async () => {
      const [row] = await house.house.database.ask((sql) =>
        sql.query<{ count: number }>(
          `select count(*)::integer as count from print_job where payment_tender_id = $1 and open_drawer`,
          [part.id],
        ),
      );
      return row?.count;
    };
    await take(till, part);
    expect(await openings()).toBe(1);
    await does(till, part.id, 'undo');
    expect(await openings()).toBe(2);
    await take(till, tenderFor(sale, 'cash'));
  });

  it('cash is rounded to the smallest coin, other means are not', async () => {
    await setUp({ cashRounding: 5 });
    const sale = await ringUp(house, ['REE-BC-25']);
    const rounded = Math.round(sale.expectedTotal / 5) * 5;
    const { body } = await take(till, tenderFor(sale, 'cash', { amount: rounded }));
    expect(body.finished).toMatchObject({ cashRounding: rounded - sale.expectedTotal, change: 0 });
    const other = await ringUp(house, ['REE-BC-25']);
    const cheque = await take(till, tenderFor(other, 'cheque', { reference: '7' }));
    expect(cheque.body.finished).toMatchObject({ cashRounding: 0 });
    await setUp({});
  });

  it('a card that was agreed to be kept pays again without the card, for its customer only', async () => {
    const { body: found } = await till.ask<{ id: number; name: string }[]>('GET', '/people/customers?find=a');
    const [ada, ben] = found;
    if (!ada || !ben) throw new Error('there are no customers');
    const sale = await ringUp(house, ['CLA-0220']);
    const mine = { ...sale, basket: { ...sale.basket, customer: { id: ada.id, name: ada.name } } };
    const first = tenderFor(mine, 'card', { amount: 10_00, notPresent: true });
    const { status } = await take(till, first);
    expect(status).toBe(200);
    terminal().press('T-1001', {
      press: 'keyed',
      card: { token: 'tok-1', brand: 'Lantern', lastFour: '1190', kind: 'credit' },
    });
    await inState(sale, 'approved');
    const keep = (body: object) => till.ask('POST', `/payment/tenders/${first.id}/keep-card`, body);
    // Not without the customer's word, and for nobody else.
    expect((await keep({ customerId: ada.id })).status).toBe(422);
    expect((await keep({ customerId: ben.id, agreed: true })).status).toBe(422);
    expect(
      (
        await second.ask('POST', `/payment/tenders/${first.id}/keep-card`, {
          customerId: ada.id,
          agreed: true,
        })
      ).status,
    ).toBe(403);
    expect((await keep({ customerId: ada.id, agreed: true })).status).toBe(200);
    const { body: cards } = await till.ask<{ id: number; lastFour: string }[]>(
      'GET',
      `/payment/cards-on-file/${ada.id}`,
    );
    expect(cards).toMatchObject([{ lastFour: '1190' }]);
    const theirs = { ...sale, basket: { ...sale.basket, customer: { id: ben.id, name: ben.name } } };
    const stolen = await take(
      till,
      tenderFor(theirs, 'card', { amount: 5_00, cardOnFileId: cards[0]?.id ?? 0 }),
    );
    expect(stolen.status).toBe(422);
    const again = tenderFor(mine, 'card', { amount: 5_00, cardOnFileId: cards[0]?.id ?? 0 });
    await take(till, again);
    await eventually(async () => {
      const { body } = await view(sale);
      expect(body.tenders.at(-1)).toMatchObject({ state: 'approved', name: 'Lantern ·· 1190' });
    });
    await take(till, tenderFor(mine, 'cash', { amount: sale.expectedTotal }));
    // Who rings up somebody else cannot forget it; who may see card payments can.
    const id = cards[0]?.id ?? 0;
    expect((await till.ask('DELETE', `/payment/cards-on-file/${id}`, {})).status).toBe(403);
    const supervisor = house.browser();
    await supervisor.signIn('3690', 1);
    expect((await supervisor.ask('DELETE', `/payment/cards-on-file/${id}`, {})).status).toBe(200);
    // No number of a card is anywhere: four digits are all that is stored.
    const columns = await house.house.database.ask((sql) =>
      sql.query<{ text: string }>('select to_jsonb(payment_tender)::text as text from payment_tender'),
    );
    expect(columns.some(({ text }) => /(?<![\d-])\d{13,19}(?![\d-])/.test(text))).toBe(false);
  });

  it('the receipt goes out as the customer likes it, by mail as a file that mail programs read', async () => {
    const { body: found } = await till.ask<{ id: number; name: string }[]>('GET', '/people/customers?find=a');
    const [ada] = found;
    if (!ada) throw new Error('there are no customers');
    const ringUpForAda = async () => {
      const sale = await ringUp(house, ['LES-30']);
      return { ...sale, basket: { ...sale.basket, customer: { id: ada.id, name: ada.name } } };
    };
    const first = await ringUpForAda();
    await take(till, tenderFor(first, 'cash'));
    const send = (body: object) => till.ask('POST', `/journal/sales/${first.basket.id}/sent`, body);
    expect((await send({ by: 'mail', to: 'nobody' })).status).toBe(422);
    expect((await send({ by: 'mail', to: 'ada@reader.example', remember: true })).status).toBe(200);
    const second = await ringUpForAda();
    await take(till, tenderFor(second, 'cash'));
    const folder = join(house.dataFolder, 'outbox');
    const mails = await eventually(async () => {
      const all = await Promise.all(
        (await readdir(folder)).map((name) => readFile(join(folder, name), 'utf8')),
      );
      const hers = all.filter((mail) => mail.includes('To: ada@reader.example'));
      expect(hers).toHaveLength(2);
      return hers;
    });
    expect(mails.every((mail) => mail.includes('application/pdf'))).toBe(true);
    // Who wants none gets none; paper comes again when it is asked for.
    expect((await send({ by: 'none' })).status).toBe(200);
    const third = await ringUpForAda();
    await take(till, tenderFor(third, 'cash'));
    const papers = () =>
      house.house.database.ask((sql) =>
        sql.query<{ kind: string }>('select kind from print_job where sale_id = $1 order by id', [
          third.basket.id,
        ]),
      );
    expect((await papers()).map(({ kind }) => kind)).toEqual(['drawer-only']);
    await till.ask('POST', `/journal/sales/${third.basket.id}/sent`, { by: 'print' });
    expect((await papers()).map(({ kind }) => kind)).toEqual(['drawer-only', 'receipt']);
    expect((await send({ by: 'text', to: '555-0199' })).status).toBe(200);
    await eventually(async () => {
      const names = await readdir(folder);
      expect(names.some((name) => name.endsWith('.txt'))).toBe(true);
    });
  });

  it('the drawer is not signed off while money is held, and what is counted is compared', async () => {
    const third = house.browser();
    await third.signIn('8024', 3);
    await openDrawer(third);
    const sale = await ringUp(house, ['REE-BC-25']);
    const cheque = tenderFor(sale, 'cheque', { amount: 1_00, reference: '9' });
    await take(third, cheque);
    const closing = {
      pieces: { 2000: 5, 1000: 5, 100: 50 },
      expected: 200_00,
      float: 200_00,
      bagNumber: '',
      note: '',
      signature: { name: 'Isolde R.', path: '' },
    };
    expect(await third.ask('POST', '/drawer/closings', closing)).toMatchObject({ status: 409 });
    const left = sale.expectedTotal - 1_00;
    await take(third, tenderFor(sale, 'transfer', { amount: left, reference: 'T1' }));
    expect(await third.ask('POST', '/drawer/closings', closing)).toMatchObject({ status: 422 });
    const others = [{ typeId: types.get('cheque'), counted: 50 }];
    const closed = await third.ask<{ id: number }>('POST', '/drawer/closings', { ...closing, others });
    expect(closed.status).toBe(200);
    const { body: report } = await third.ask<string>('GET', `/drawer/shifts/${closed.body.id}/report.txt`);
    expect(report).toContain('Cheque counted, 0.50 short');
  });
});

async function setUp(more: { tipRates?: number[]; cashRounding?: number }): Promise<void> {
  const manager = house.browser();
  await manager.signIn('8024', 1);
  const { status } = await manager.ask('PUT', '/payment/settings', {
    roundUpStep: 100,
    fund: 'Ferrisport Youth Orchestra instrument fund',
    tipRates: [],
    cashRounding: 0,
    giftCardMonths: 60,
    dormantMonths: 24,
    ...more,
  });
  expect(status).toBe(200);
}

async function owed(account: string): Promise<number> {
  const [row] = await house.house.database.ask((sql) =>
    sql.query<{ owed: number }>(
      'select coalesce(-sum(amount), 0)::bigint as owed from ledger_entry where account = $1',
      [account],
    ),
  );
  return row?.owed ?? 0;
}

async function giftCardSale(number: string, amount: number, topUp = false, mail?: string): Promise<RungUp> {
  const sale = await ringUp(house, ['GIFT']);
  for (const line of sale.basket.lines) {
    Object.assign(line, { listPrice: amount, storedValue: { number, kind: 'gift-card', topUp, mail } });
  }
  return { ...sale, expectedTotal: amount, handed: amount };
}
