import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { PaymentView } from '../../contract/payment.ts';
import { verify } from '../books/verify.ts';
import { standIn, take, tap, tenderFor, typesByKind, view, type RungUp } from '../testing/paying.ts';
import { openDrawer, openHouse, pay, ringUp, type Browser, type TestHouse } from '../testing/testHouse.ts';

/** Every state in which the server may stop while money is being taken; `docs/payment.md` has the same list. */
let house: TestHouse;
let till: Browser;
let types: ReadonlyMap<string, number>;

beforeAll(async () => {
  house = await openHouse();
  till = house.browser();
  await till.signIn('1357', 1);
  await openDrawer(till);
  types = await typesByKind(house);
});
afterEach(() => vi.restoreAllMocks());
afterAll(async () => {
  expect(await house.house.database.ask(verify)).toEqual([]);
  await house.stop();
});

const card = (sale: RungUp, amount = sale.expectedTotal) =>
  tenderFor(sale, types.get('card') ?? 0, { amount });
const never = () => new Promise<never>(() => {});

async function until(sale: RungUp, holds: (view: PaymentView) => boolean): Promise<PaymentView> {
  return eventually(async () => {
    const { body } = await view(till, sale);
    if (!holds(body)) throw new Error(`still ${JSON.stringify(body.tenders.map(({ state }) => state))}`);
    return body;
  });
}

/** Money that terminals took and did not give back, and what the shop knows of. */
async function tiesOut(): Promise<void> {
  const atBank = (await standIn(house).list('T-1001', '')).filter(({ state }) => state === 'approved');
  const known = await house.house.database.ask((sql) =>
    sql.query<{ id: string }>(
      `select id from payment_tender where state = 'approved' and terminal_id is not null`,
    ),
  );
  expect(known.map(({ id }) => id).sort()).toEqual(atBank.map(({ reference }) => reference).sort());
}

describe('the server stops', () => {
  it('when a payment is stored, before the terminal is asked: nothing was taken', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    vi.spyOn(house.house.terminals, 'begin').mockImplementation(never);
    void take(till, card(sale)).catch(() => {});
    await until(sale, ({ tenders }) => tenders[0]?.state === 'stored');
    await house.restart();
    const { tenders } = await until(sale, (now) => now.tenders[0]?.state === 'cancelled');
    expect(tenders[0]?.words).toContain('before the terminal was asked');
    expect((await pay(till, sale)).body.change).toBe(0);
    await tiesOut();
  });

  it('when it is about to ask: the terminal never heard of it', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    vi.spyOn(standIn(house), 'ask').mockImplementation(never);
    void take(till, card(sale)).catch(() => {});
    await until(sale, ({ tenders }) => tenders[0]?.state === 'asked');
    await house.restart();
    await until(sale, ({ tenders }) => tenders[0]?.state === 'cancelled');
    await pay(till, sale);
    await tiesOut();
  });

  it('while the terminal is asked: the payment goes on', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    await take(till, card(sale));
    await house.restart();
    expect((await view(till, sale)).body.tenders[0]?.state).toBe('asked');
    tap(standIn(house));
    const { finished } = await until(sale, (now) => now.finished !== null);
    expect(finished?.total).toBe(sale.expectedTotal);
    await tiesOut();
  });

  it('when the terminal has approved and nobody has heard it: the sale is found and finished', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    await take(till, card(sale));
    standIn(house).press('T-1001', { press: 'set', line: 'lost' });
    tap(standIn(house));
    await house.restart();
    standIn(house).press('T-1001', { press: 'set', line: 'good' });
    const { finished, tenders } = await until(sale, (now) => now.finished !== null);
    expect(finished?.tenders).toHaveLength(1);
    expect(tenders).toHaveLength(1);
    await tiesOut();
  });

  it('when nobody knows what the terminal did: it is asked until it answers', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    const tender = card(sale);
    await take(till, tender);
    standIn(house).press('T-1001', { press: 'set', line: 'lost' });
    await till.ask('POST', `/payment/tenders/${tender.id}/check`);
    expect((await view(till, sale)).body.tenders[0]?.state).toBe('unanswered');
    await house.restart();
    expect((await view(till, sale)).body.tenders[0]?.state).toBe('unanswered');
    standIn(house).press('T-1001', { press: 'stop' });
    standIn(house).press('T-1001', { press: 'set', line: 'good' });
    await until(sale, ({ tenders }) => tenders[0]?.state === 'cancelled');
    await pay(till, sale);
    await tiesOut();
  });

  it('after the till has gone on without an answer: what was taken goes back', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    const tender = card(sale);
    await take(till, tender);
    standIn(house).press('T-1001', { press: 'set', line: 'lost' });
    tap(standIn(house));
    await till.ask('POST', `/payment/tenders/${tender.id}/check`);
    await till.ask('POST', `/payment/tenders/${tender.id}/abandon`);
    await pay(till, sale);
    await house.restart();
    standIn(house).press('T-1001', { press: 'set', line: 'good' });
    await until(sale, ({ tenders }) => tenders[0]?.state === 'undone');
    expect((await standIn(house).status('T-1001', tender.id)).state).toBe('reversed');
    await tiesOut();
  });

  it('with a part taken: it is found, and the rest is paid', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    await take(till, card(sale, 100_00));
    tap(standIn(house));
    await until(sale, ({ tenders }) => tenders[0]?.state === 'approved');
    await house.restart();
    const { body } = await view(till, sale);
    expect(body.tenders).toMatchObject([{ state: 'approved', amount: 100_00 }]);
    const finished = await pay(till, { ...sale, handed: sale.expectedTotal - 100_00 });
    expect(finished.body.tenders.map(({ amount }) => amount)).toEqual([100_00, sale.expectedTotal - 100_00]);
    await tiesOut();
  });

  it('when all is taken and the sale is not stored: it is finished at the next start', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    // The offer of a payment that is not covered yet: the drawer cannot be written to in between.
    await take(till, card(sale));
    await house.house.database.ask((sql) =>
      sql.query(`update payment set stale = true where basket_id = $1`, [sale.basket.id]),
    );
    tap(standIn(house));
    await until(sale, ({ tenders }) => tenders[0]?.state === 'approved');
    expect((await view(till, sale)).body.finished).toBeNull();
    await house.house.database.ask((sql) =>
      sql.query(`update payment set stale = false where basket_id = $1`, [sale.basket.id]),
    );
    await house.restart();
    const [stored] = await house.house.database.ask((sql) =>
      sql.query<{ total: number }>('select total from sale where id = $1', [sale.basket.id]),
    );
    expect(stored?.total).toBe(sale.expectedTotal);
    await tiesOut();
  });

  it.each([
    ['before the terminal has sent it back', false],
    ['after the terminal has sent it back', true],
  ])('while a payment is undone, %s: it is undone once', async (_when, sentBack) => {
    const sale = await ringUp(house, ['CLA-0220']);
    const tender = card(sale, 50_00);
    await take(till, tender);
    tap(standIn(house));
    await until(sale, ({ tenders }) => tenders[0]?.state === 'approved');
    const reverse = standIn(house).reverse.bind(standIn(house));
    vi.spyOn(standIn(house), 'reverse').mockImplementation(async (serial, reference) => {
      if (sentBack) await reverse(serial, reference);
      return never();
    });
    void till.ask('POST', `/payment/tenders/${tender.id}/undo`).catch(() => {});
    await until(sale, ({ tenders }) => tenders[0]?.state === 'undoing');
    await house.restart();
    await until(sale, ({ tenders }) => tenders[0]?.state === 'undone');
    await pay(till, sale);
    await tiesOut();
  });

  it('after the sale is stored and before its answer: the same sale is found, with its change', async () => {
    const sale = await ringUp(house, ['CLA-0220']);
    const value = tenderFor(sale, types.get('stored-value') ?? 0, { amount: 20_00, number: '44100771417' });
    await take(till, value);
    const cash = { ...sale, handed: sale.expectedTotal };
    const first = await pay(till, cash);
    await house.restart();
    const again = await pay(till, cash);
    expect(again.body).toEqual(first.body);
    expect(again.body.change).toBe(20_00);
  });
});
