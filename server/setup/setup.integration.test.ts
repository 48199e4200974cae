import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { TillFacts, Welcome } from '../../contract/setup.ts';
import { ENGINE, openHouse, type TestHouse } from '../testing/testHouse.ts';

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
    expect((await browser.ask<{ items: unknown[] }>('GET', '/goods/catalogue')).body.items).toEqual([]);
  });
});
