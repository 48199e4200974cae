import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../../contract/testing/eventually.ts';
import type { JournalPage, JournalSale, VoidView } from '../../../contract/journal.ts';
import type { StoredValueView } from '../../../contract/giftCards.ts';
import type { PaymentView } from '../../../contract/payment.ts';
import type { Returnable } from '../../../contract/returns.ts';
import { newStoredValueNumber } from '../../../core/giftCards/storedValue.ts';
import { verify } from '../../books/verify.ts';
import { standIn, take, tap, tenderFor, typesByKind, view } from '../../testing/paying.ts';
import { approveFor, bringBack, soldIn, stockOf } from '../../testing/returning.ts';
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
let maren: Browser;
let types: ReadonlyMap<string, number>;

beforeAll(async () => {
  house = await openHouse();
  noor = house.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  teo = house.browser();
  await teo.signIn('2468', 2);
  await openDrawer(teo);
  maren = house.browser();
  types = await typesByKind(house);
});
afterAll(async () => {
  expect(await house.house.database.ask(verify)).toEqual([]);
  await house.stop();
});

const sold = (numbers: readonly string[], units = 1) => soldIn(house, noor, numbers, units);
const approve = (about: string, right: string) => approveFor(noor, about, right);
const expectedIn = async (browser: Browser): Promise<number> =>
  (await browser.ask<{ expected: number }>('GET', '/drawer')).body.expected;
const page = (id: string) => noor.ask<JournalSale>('GET', `/journal/sales/${id}`);
const detailOf = ({ body }: { body: unknown }) => JSON.stringify(body);

describe(`voids on ${ENGINE}`, () => {
  it('need the right, and leave nothing of the sale but its number', async () => {
    const cash = await expectedIn(noor);
    const stock = await stockOf(house, 'MET-C');
    const sale = await sold(['MET-C'], 2);
    expect(
      (await noor.ask('POST', `/journal/sales/${sale.id}/void`, { reason: 'Wrong customer' })).status,
    ).toBe(403);
    const countersign = await approve(sale.id, 'sale.void');
    const done = await noor.ask<VoidView>('POST', `/journal/sales/${sale.id}/void`, {
      reason: 'Wrong customer',
      countersign,
    });
    expect(done.body.state).toBe('done');
    expect(await expectedIn(noor)).toBe(cash);
    expect(await stockOf(house, 'MET-C')).toBe(stock);
    const { body } = await page(sale.id);
    expect(body.voided).toBe('done');
    expect(body.entries.filter(({ event }) => event === 'void').length).toBe(body.entries.length / 2);
    // Again changes nothing, and nothing comes back from it.
    expect(
      (await noor.ask<VoidView>('POST', `/journal/sales/${sale.id}/void`, { reason: 'Again', countersign }))
        .body.state,
    ).toBe('done');
    const back = await noor.ask<Returnable>('GET', `/journal/sales/${sale.id}/returnable`);
    expect(back.body.voided).toBe(true);
    const listed = await noor.ask<JournalPage>('GET', '/journal/sales?kind=void');
    expect(listed.body.rows.map(({ id }) => id)).toContain(sale.id);
  });

  it('send the money back to the card without it, and to the gift card', async () => {
    const number = '44100771409';
    const before = (await noor.ask<StoredValueView>('POST', '/gift-cards/enquiries', { number: number })).body
      .balance;
    const sale = await ringUp(house, ['CLA-0220']);
    await take(noor, tenderFor(sale, types.get('stored-value') ?? 0, { amount: 20_00, number }));
    await take(noor, tenderFor(sale, types.get('card') ?? 0, { amount: sale.expectedTotal - 20_00 }));
    tap(standIn(house));
    await eventually(async () => {
      expect((await view(noor, sale)).body.finished).toBeTruthy();
    });
    const countersign = await approve(sale.basket.id, 'sale.void');
    await noor.ask('POST', `/journal/sales/${sale.basket.id}/void`, { reason: 'Wrong size', countersign });
    await eventually(async () => {
      expect((await page(sale.basket.id)).body.voided).toBe('done');
    });
    expect(
      (await noor.ask<StoredValueView>('POST', '/gift-cards/enquiries', { number: number })).body.balance,
    ).toBe(before);
    const { body } = await noor.ask<PaymentView>('GET', `/payment/baskets/${sale.basket.id}`);
    expect(body.tenders.map(({ state }) => state)).toContain('undone');
  });

  it('give a certificate back whole that is used once, with the rest that had lapsed', async () => {
    const number = 'ONCE-2001';
    await maren.signIn('3690', 3);
    const listed = await maren.ask('POST', '/gift-cards/certificates/import', {
      csv: `number,amount,until,once\n${number},20.00,,once`,
    });
    expect(listed.status).toBe(200);
    const valueOf = async () =>
      (await noor.ask<StoredValueView>('POST', '/gift-cards/enquiries', { number })).body.balance;
    const sale = await ringUp(house, ['REE-BC-25']);
    await take(noor, tenderFor(sale, types.get('stored-value') ?? 0, { amount: 2_00, number }));
    await take(noor, tenderFor(sale, types.get('cash') ?? 0, { amount: sale.expectedTotal - 2_00 }));
    const { entries } = (await page(sale.basket.id)).body;
    expect(entries.filter(({ account }) => account === 'lapsed-value')).toMatchObject([
      { event: 'sale', amount: -18_00 },
    ]);
    expect(await valueOf()).toBe(0);
    const countersign = await approve(sale.basket.id, 'sale.void');
    await noor.ask('POST', `/journal/sales/${sale.basket.id}/void`, { reason: 'Wrong size', countersign });
    await eventually(async () => {
      expect((await page(sale.basket.id)).body.voided).toBe('done');
    });
    expect(await valueOf()).toBe(20_00);
    const undone = (await page(sale.basket.id)).body.entries.filter(({ event }) => event === 'void');
    expect(undone.filter(({ account }) => account === 'lapsed-value')).toMatchObject([{ amount: 18_00 }]);
    expect(await house.house.database.ask(verify)).toEqual([]);
  });

  it('refund a card payment that was settled, and go on after the terminal was lost', async () => {
    const sale = await ringUp(house, ['MET-C']);
    await take(noor, tenderFor(sale, types.get('card') ?? 0));
    tap(standIn(house));
    await eventually(async () => {
      expect((await view(noor, sale)).body.finished).toBeTruthy();
    });
    await maren.signIn('3690', 3);
    const [terminal] = (
      await maren.ask<{ id: number; serial: string }[]>('GET', '/card-payments/terminals')
    ).body.filter(({ serial }) => serial === 'T-1001');
    expect((await maren.ask('POST', `/card-payments/terminals/${terminal?.id}/settle`)).status).toBe(200);
    standIn(house).press('T-1001', { press: 'set', line: 'lost' });
    const countersign = await approve(sale.basket.id, 'sale.void');
    const begun = await noor.ask<VoidView>('POST', `/journal/sales/${sale.basket.id}/void`, {
      reason: 'Wrong size',
      countersign,
    });
    expect(begun.body.state).toBe('begun');
    // Meanwhile nothing comes back from it, and the drawer cannot be closed.
    standIn(house).press('T-1001', { press: 'set', line: 'good' });
    await eventually(async () => {
      expect((await page(sale.basket.id)).body.voided).toBe('done');
    });
  });

  it('are refused after the goods came back, and on another till', async () => {
    const sale = await sold(['MET-C']);
    await bringBack(noor, sale.id, [{ position: 1, quantity: 1000 }]);
    const countersign = await approve(sale.id, 'sale.void');
    const refused = await noor.ask('POST', `/journal/sales/${sale.id}/void`, {
      reason: 'Wrong',
      countersign,
    });
    expect(refused.status).toBe(409);
    expect(detailOf(refused)).toContain('came back');
    const other = await soldIn(house, teo, ['MET-C']);
    const there = await noor.ask('POST', `/journal/sales/${other.id}/void`, {
      reason: 'Wrong',
      countersign: await approve(other.id, 'sale.void'),
    });
    expect(detailOf(there)).toContain('void it there');
  });

  it('of a return let the goods come back again', async () => {
    const sale = await sold(['PIC-M']);
    const { basket } = await bringBack(noor, sale.id, [{ position: 1, quantity: 1000 }]);
    const countersign = await approve(basket.id, 'sale.void');
    expect(
      (
        await noor.ask<VoidView>('POST', `/journal/sales/${basket.id}/void`, {
          reason: 'Changed their mind',
          countersign,
        })
      ).body.state,
    ).toBe('done');
    const { body } = await noor.ask<Returnable>('GET', `/journal/sales/${sale.id}/returnable`);
    expect(body.lines[0]?.left).toBe(1000);
    expect(
      (await bringBack(noor, sale.id, [{ position: 1, quantity: 1000 }])).answer.body.finished,
    ).not.toBeNull();
  });

  it('take a gift card back that was sold, unless it was used meanwhile', async () => {
    const balanceOf = async (number: string) =>
      (await noor.ask<StoredValueView>('POST', '/gift-cards/enquiries', { number: number })).body;
    const sellCard = async (figure: number) => {
      const number = newStoredValueNumber(() => figure);
      const sale = await ringUp(house, ['GIFT']);
      for (const line of sale.basket.lines) {
        Object.assign(line, { listPrice: 50_00, storedValue: { number, kind: 'gift-card' } });
      }
      expect((await pay(noor, { ...sale, expectedTotal: 50_00, handed: 50_00 })).status).toBe(200);
      return { number, id: sale.basket.id };
    };
    const unused = await sellCard(3);
    const voided = { reason: 'Wrong amount', countersign: await approve(unused.id, 'sale.void') };
    expect((await noor.ask<VoidView>('POST', `/journal/sales/${unused.id}/void`, voided)).body.state).toBe(
      'done',
    );
    expect(await balanceOf(unused.number)).toMatchObject({ balance: 0, state: 'closed' });
    const used = await sellCard(6);
    const spent = await ringUp(house, ['PIC-M']);
    await take(noor, tenderFor(spent, types.get('stored-value') ?? 0, { number: used.number }));
    const refused = await noor.ask('POST', `/journal/sales/${used.id}/void`, {
      reason: 'Wrong amount',
      countersign: await approve(used.id, 'sale.void'),
    });
    expect(refused.status).toBe(409);
    expect(detailOf(refused)).toContain('was used meanwhile');
    expect((await page(used.id)).body.voided).toBeNull();
  });
});
