import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Catalogue } from '../../contract/goods.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { SetupChange, SetupFacts, TillFacts, Welcome } from '../../contract/setup.ts';
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
beforeAll(async () => {
  test = await openHouse('empty');
});
afterAll(() => test.stop());

const first = {
  shopName: 'Lantern Books',
  placeName: 'Quay',
  currency: 'EUR',
  timezone: 'Europe/Lisbon',
  taxMode: 'inside',
  taxes: [
    { name: 'VAT', rate: 230_000 },
    { name: 'No tax', rate: 0 },
  ],
  managerName: 'Ada P.',
  managerPin: '4711',
};

describe(`a new shop on ${ENGINE}`, () => {
  it('starts empty and asks to be set up', async () => {
    const { body } = await test.browser().ask<Welcome>('GET', '/setup/welcome');
    expect(body).toEqual({ ready: false, shopName: '', tills: [], lockMinutes: 0, demoPins: [] });
  });

  it('says which answers are missing or wrong', async () => {
    const { status, body } = await test.browser().ask<ProblemDetails>('POST', '/setup/shop', {
      ...first,
      shopName: ' ',
      currency: 'XXX',
      timezone: 'Moon/Base',
      managerPin: '1',
      taxes: [
        { name: 'A', rate: 1 },
        { name: 'a', rate: 2 },
      ],
    });
    expect(status).toBe(422);
    expect(body.fields?.map(({ field }) => field).sort()).toEqual([
      'currency',
      'managerPin',
      'shopName',
      'taxes',
      'timezone',
    ]);
  });

  it('is set up once, and its manager signs in', async () => {
    const browser = test.browser();
    expect((await browser.ask('POST', '/setup/shop', first)).status).toBe(200);
    expect((await browser.ask('POST', '/setup/shop', first)).status).toBe(409);
    const { body: welcome } = await browser.ask<Welcome>('GET', '/setup/welcome');
    expect(welcome).toMatchObject({
      ready: true,
      shopName: 'Lantern Books',
      tills: [{ number: 1, place: 'Quay' }],
    });
    await browser.signIn('4711', welcome.tills[0]?.id ?? 0);
    const { body: facts } = await browser.ask<TillFacts>('GET', '/setup/till');
    expect(facts.currency.code).toBe('EUR');
    expect(Object.values(facts.taxRates).flat()).toMatchObject([{ name: 'VAT', rate: 230_000 }]);
    const { items } = (await browser.ask<Catalogue>('GET', '/goods/catalogue')).body;
    expect(items.map(([id, number, , , price]) => [id, number, price])).toEqual([
      [facts.payment.giftCardItemId, 'GIFT', null],
      [facts.shop.openItemId, 'OPEN', null],
    ]);
  });
});

describe('setting up a shop that runs', () => {
  let isolde: Browser;
  let shop: TestHouse;
  beforeAll(async () => {
    shop = await openHouse();
    isolde = shop.browser();
    await isolde.signIn('8024', 1);
  });
  afterAll(() => shop.stop());

  const facts = async () => (await isolde.ask<SetupFacts>('GET', '/setup/facts')).body;

  it('is for those who may', async () => {
    const noor = shop.browser();
    await noor.signIn('1357', 2);
    expect((await noor.ask('GET', '/setup/facts')).status).toBe(403);
    expect((await noor.ask('POST', '/setup/staff', { name: 'X', role: 'manager', pin: '5555' })).status).toBe(
      403,
    );
  });

  it('changes float, limits and the words on receipts', async () => {
    const next = { ...(await facts()).shop, openingFloat: 15_000, receiptThanks: 'Come again.' };
    expect((await isolde.ask('PUT', '/setup/settings', next)).status).toBe(200);
    expect((await facts()).shop).toEqual(next);
    const wrong = await isolde.ask<ProblemDetails>('PUT', '/setup/settings', {
      ...next,
      name: '',
      lockMinutes: 999,
    });
    expect(wrong.body.fields?.map(({ field }) => field).sort()).toEqual(['lockMinutes', 'name']);
  });

  it('keeps who changed what, from what to what, and finds it', async () => {
    const next = { ...(await facts()).shop, openingFloat: 17_500 };
    await isolde.ask('PUT', '/setup/settings', next);
    await isolde.ask('PUT', '/setup/settings', next);
    const changes = async (asked: string) =>
      (await isolde.ask<SetupChange[]>('GET', `/setup/changes?${asked}`)).body;
    expect(await changes('find=usual float')).toMatchObject([
      { who: 'Isolde R.', section: 'shop', what: 'Usual float', was: '150.00', became: '175.00' },
      { who: 'Isolde R.', section: 'shop', what: 'Usual float', became: '150.00' },
    ]);
    // What was refused changed nothing, and neither does what is as it was.
    await isolde.ask('PUT', '/setup/settings', { ...next, name: '' });
    const [newest] = await changes('');
    expect(await changes(`before=${newest?.id}&section=receipts`)).toMatchObject([
      { what: 'At the end of receipts', became: 'Come again.' },
    ]);
    expect((await isolde.ask('GET', '/setup/changes?section=moon')).status).toBe(422);
    await expect(
      shop.house.database.ask((sql) => sql.query("update setup_change set was = 'x'")),
    ).rejects.toThrow();
    await expect(shop.house.database.ask((sql) => sql.query('delete from setup_change'))).rejects.toThrow();
  });

  it('tells a logo from another one that is as large', async () => {
    const { shop: before } = await facts();
    for (const picture of ['AAAA', 'BBBB'])
      await isolde.ask('PUT', '/setup/settings', {
        ...before,
        receiptLogo: `data:image/png;base64,${picture}`,
      });
    const { body } = await isolde.ask<SetupChange[]>('GET', '/setup/changes?find=logo');
    expect(body).toHaveLength(2);
    expect([body[0]?.was, body[1]?.was]).toEqual([body[1]?.became, '']);
    await isolde.ask('PUT', '/setup/settings', before);
  });

  it('writes figures as the locale does, at once, in messages too', async () => {
    const before = (await facts()).shop;
    await openDrawer(isolde);
    await isolde.ask('PUT', '/setup/settings', { ...before, locale: 'de-DE' });
    const sale = { ...(await ringUp(shop, ['REE-BC-25'])), handed: 1 };
    expect((await pay(isolde, sale)).body).toMatchObject({
      fields: [{ message: expect.stringMatching(/^0,01 does not cover it/) as string }],
    });
    await isolde.ask('PUT', '/setup/settings', before);
    expect((await isolde.ask('PUT', '/setup/settings', { ...before, locale: 'xx' })).status).toBe(422);
    expect((await isolde.ask('PUT', '/setup/settings', { ...before, timezone: 'Moon' })).status).toBe(422);
  });

  it('adds people with a PIN of their own, changes them and lets them go', async () => {
    const taken = await isolde.ask<ProblemDetails>('POST', '/setup/staff', {
      name: 'Ines P.',
      role: 'cashier',
      pin: '1357',
    });
    expect(taken.body.fields).toEqual([
      { field: 'pin', message: 'Choose another PIN: somebody else has this one.' },
    ]);
    const { body } = await isolde.ask<{ id: number }>('POST', '/setup/staff', {
      name: 'Ines P.',
      role: 'cashier',
      pin: '6060',
    });
    const ines = shop.browser();
    await ines.signIn('6060', 2);
    const change = { name: 'Ines P.', role: 'supervisor', active: true, pin: '7070' };
    expect((await isolde.ask('PUT', `/setup/staff/${body.id}`, change)).status).toBe(200);
    await ines.signIn('7070', 2);
    await isolde.ask('PUT', `/setup/staff/${body.id}`, { ...change, pin: undefined, active: false });
    expect((await ines.ask('GET', '/drawer')).status).toBe(401);
    expect((await isolde.ask('PUT', '/setup/staff/9999', change)).status).toBe(404);
  });

  it('gives and takes rights at once, but never the last one to set up the shop', async () => {
    const noor = shop.browser();
    await noor.signIn('1357', 2);
    expect((await noor.ask('GET', '/journal/sales')).status).toBe(200);
    await isolde.ask('PUT', '/setup/rights', { role: 'cashier', right: 'journal.see', granted: false });
    expect((await noor.ask('GET', '/journal/sales')).status).toBe(403);
    await isolde.ask('PUT', '/setup/rights', { role: 'cashier', right: 'journal.see', granted: true });
    expect((await noor.ask('GET', '/journal/sales')).status).toBe(200);
    const last = await isolde.ask<ProblemDetails>('PUT', '/setup/rights', {
      role: 'manager',
      right: 'shop.set-up',
      granted: false,
    });
    expect([last.status, last.body.type]).toEqual([409, 'nobody-left']);
    const me = (await facts()).staff.find(({ name }) => name === 'Isolde R.');
    const leave = { name: 'Isolde R.', role: 'cashier', active: true };
    expect((await isolde.ask('PUT', `/setup/staff/${me?.id}`, leave)).status).toBe(409);
  });

  it('adds places and tills with names and numbers of their own', async () => {
    const { body: place } = await isolde.ask<{ id: number }>('POST', '/setup/places', {
      name: 'Market stall',
      kind: 'shop',
    });
    expect((await isolde.ask('POST', '/setup/places', { name: 'market stall', kind: 'shop' })).status).toBe(
      422,
    );
    expect((await isolde.ask('POST', '/setup/tills', { number: 4, placeId: place.id })).status).toBe(200);
    expect((await isolde.ask('POST', '/setup/tills', { number: 4, placeId: place.id })).status).toBe(422);
    const depot = (await facts()).places.find(({ name }) => name === 'Depot');
    expect((await isolde.ask('POST', '/setup/tills', { number: 5, placeId: depot?.id })).status).toBe(422);
    expect((await facts()).tills.at(-1)).toMatchObject({ number: 4, place: 'Market stall' });
  });

  it('decides on returns and the end of the shift, and says what is wrong', async () => {
    const isolde = test.browser();
    await isolde.signIn('4711', 1);
    const { afterSale } = (await isolde.ask<SetupFacts>('GET', '/setup/facts')).body;
    expect(afterSale).toMatchObject({ returnDays: 30, refundRest: 'cash', blindCount: false, dropAbove: 0 });
    const wanted = {
      ...afterSale,
      returnDays: 14,
      blindCount: true,
      dropAbove: 80_000,
      refundLimits: { cashier: 5000, supervisor: null, manager: null },
    };
    expect((await isolde.ask('PUT', '/setup/after-sale', wanted)).status).toBe(200);
    expect((await isolde.ask<SetupFacts>('GET', '/setup/facts')).body.afterSale).toEqual(wanted);
    expect((await isolde.ask<TillFacts>('GET', '/setup/till')).body).toMatchObject({
      refundLimits: { cashier: 5000, supervisor: null },
      shop: { blindCount: true, dropAbove: 80_000 },
    });
    const wrong = await isolde.ask<ProblemDetails>('PUT', '/setup/after-sale', {
      ...wanted,
      managersMail: 'nobody',
    });
    expect(wrong.body.fields?.[0]?.field).toBe('managersMail');
  });
});
