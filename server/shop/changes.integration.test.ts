import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PaymentSetup } from '../../contract/payment.ts';
import type { TillPrinter } from '../../contract/printer.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { SetupFacts } from '../../contract/setup.ts';
import { ENGINE, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';

let shop: TestHouse;
let isolde: Browser;
let other: Browser;
beforeAll(async () => {
  shop = await openHouse();
  [isolde, other] = [shop.browser(), shop.browser()];
  await isolde.signIn('8024', 1);
  await other.signIn('8024', 2);
});
afterAll(() => shop.stop());

const look = async () => (await isolde.ask<SetupFacts>('GET', '/setup/facts')).body;
const lookAtPayment = async () => (await isolde.ask<PaymentSetup>('GET', '/payment/settings')).body;
const put = (who: Browser, path: string, body: object, seen: number | string) =>
  who.ask<ProblemDetails>('PUT', path, body, { 'setup-seen': String(seen) });

describe(`two who set up the shop at once on ${ENGINE}`, () => {
  it('do not undo unseen what the other one has changed, and are told what it was', async () => {
    const { shop: mine, seen } = await look();
    expect(
      (await put(other, '/setup/settings', { ...mine, taxRounding: 'line', lockMinutes: 7 }, seen)).status,
    ).toBe(200);
    const late = await put(isolde, '/setup/settings', { ...mine, receiptThanks: 'Until soon.' }, seen);
    expect([late.status, late.body.type]).toEqual([409, 'changed-meanwhile']);
    expect(late.body.detail).toBe(
      `Lock a till after so many minutes: ${mine.lockMinutes} → 7 (Isolde R.). ` +
        'Tax is rounded: once for each rate of a sale → on every line (Isolde R.). Look at it, then save again.',
    );
    expect((await look()).shop).toEqual({ ...mine, taxRounding: 'line', lockMinutes: 7 });

    const again = await look();
    const wanted = { ...again.shop, receiptThanks: 'Until soon.' };
    expect((await put(isolde, '/setup/settings', wanted, again.seen)).status).toBe(200);
    expect((await look()).shop).toEqual(wanted);
  });

  it('change different things without minding one another, and undo what they have seen', async () => {
    const { shop: mine, seen } = await look();
    expect((await put(other, '/setup/discount-limits', { role: 'cashier', rate: 50_000 }, seen)).status).toBe(
      200,
    );
    expect((await put(isolde, '/setup/settings', { ...mine, lockMinutes: 9 }, seen)).status).toBe(200);
    const { shop: now, seen: sinceThen } = await look();
    expect((await put(other, '/setup/settings', { ...now, lockMinutes: 3 }, sinceThen)).status).toBe(200);
    expect((await look()).shop).toEqual({ ...mine, lockMinutes: 3 });
  });

  it('take turns where they save in the same moment: one of them is told', async () => {
    const { shop: mine, seen } = await look();
    const answers = await Promise.all([
      put(isolde, '/setup/settings', { ...mine, receiptThanks: 'From here.' }, seen),
      put(other, '/setup/settings', { ...mine, receiptThanks: 'From there.' }, seen),
    ]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('say what they have seen', async () => {
    const { shop: mine } = await look();
    for (const seen of ['', 'everything', '-1', '1.5', '9'.repeat(30)])
      expect((await put(isolde, '/setup/settings', mine, seen)).status).toBe(400);
  });

  it.each<[string, () => Promise<{ path: string; seen: number; theirs: object; mine: object }>]>([
    [
      'a person',
      async () => {
        const { staff, seen } = await look();
        const noor = staff.find(({ name }) => name === 'Noor A.') ?? staff[0];
        return {
          path: `/setup/staff/${noor?.id}`,
          seen,
          theirs: { ...noor, role: 'supervisor' },
          mine: { ...noor, name: 'Noor B.' },
        };
      },
    ],
    [
      'how the shop takes money',
      async () => {
        const { settings, seen } = await lookAtPayment();
        return {
          path: '/payment/settings',
          seen,
          theirs: { ...settings, giftCardMonths: 18 },
          mine: { ...settings, dormantMonths: 9 },
        };
      },
    ],
    [
      'a means of payment',
      async () => {
        const { types, seen } = await lookAtPayment();
        const type = types.find(({ kind }) => kind === 'voucher');
        const sent = { ...type, foreignCurrency: '', foreignRate: null };
        return {
          path: `/payment/types/${type?.id}`,
          seen,
          theirs: { ...sent, opensDrawer: !type?.opensDrawer },
          mine: { ...sent, reference: 'Number' },
        };
      },
    ],
    [
      'a printer',
      async () => {
        const [till] = (await isolde.ask<TillPrinter[]>('GET', '/printer/tills')).body;
        return {
          path: `/printer/tills/${till?.tillId}`,
          seen: till?.seen ?? 0,
          theirs: { ...till?.setup, columns: 32 },
          mine: { ...till?.setup, cutter: !till?.setup.cutter },
        };
      },
    ],
    [
      'returns',
      async () => {
        const { afterSale, seen } = await look();
        return {
          path: '/setup/after-sale',
          seen,
          theirs: { ...afterSale, returnDays: afterSale.returnDays + 5 },
          mine: { ...afterSale, managersMail: 'desk@example.test' },
        };
      },
    ],
    [
      'points',
      async () => {
        const { points, seen } = await look();
        return {
          path: '/setup/points',
          seen,
          theirs: { ...points, months: points.months + 1 },
          mine: { ...points, backDays: points.backDays + 1 },
        };
      },
    ],
    [
      'house accounts',
      async () => {
        const { accounts, seen } = await look();
        return {
          path: '/setup/accounts',
          seen,
          theirs: { ...accounts, daysToPay: accounts.daysToPay + 1 },
          mine: { ...accounts, howToPay: 'At the counter.' },
        };
      },
    ],
  ])('%s: who comes later is told first, and can do it then', async (_what, about) => {
    const { path, seen, theirs, mine } = await about();
    expect((await put(other, path, theirs, seen)).status).toBe(200);
    expect((await put(isolde, path, mine, seen)).body.type).toBe('changed-meanwhile');
    expect((await put(isolde, path, mine, (await look()).seen)).status).toBe(200);
  });
});
