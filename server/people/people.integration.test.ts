import { ownEan13 } from '../../demo/barcodes.ts';
import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CustomerPanel, FoundCustomer, LikelySame } from '../../contract/people.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';

/** The first card of the made-up shop. */
const CARD = ownEan13(24, 1);

let test: TestHouse;
let noor: Browser;
beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
});
afterAll(() => test.stop());

const find = async (text: string) =>
  (await noor.ask<FoundCustomer[]>('GET', `/people/customers?find=${encodeURIComponent(text)}`)).body;
const panel = async (id: number) => (await noor.ask<CustomerPanel>('GET', `/people/customers/${id}`)).body;
const idOf = async (text: string) => (await find(text))[0]?.id ?? 0;
const form = (customer: object) => ({
  name: '',
  company: '',
  phone: '',
  mail: '',
  birthMonth: null,
  birthDay: null,
  note: '',
  card: '',
  anyway: 'no',
  ...customer,
});

describe(`customers on ${ENGINE}`, () => {
  it('are found by name, company, phone, mail and card, as somebody types', async () => {
    for (const text of ['priya', 'hal pri', '0120', '555-0120', 'priya.hallow@', CARD]) {
      expect([text, (await find(text)).map(({ name }) => name)]).toEqual([text, ['Priya Hallow']]);
    }
    expect((await find('ferrisport')).map(({ name }) => name)).toEqual(['Dorian Pell', 'Marit Solvane']);
    expect(await find('%')).toEqual([]);
    expect(await find('  ')).toEqual([]);
  });

  it('have a panel with groups, balances, birthday and group prices', async () => {
    const marit = await panel(await idOf('marit'));
    expect(marit).toMatchObject({
      company: 'Ferrisport Schools',
      groups: ['Schools and choirs', 'Teachers'],
      owes: 21_450,
      credit: 0,
      visits: [],
      visitCount: 0,
    });
    expect(marit.groupPrices.length).toBeGreaterThan(50);
    expect(await panel(await idOf('lou bram'))).toMatchObject({ owes: 0, credit: 3500 });
    expect((await noor.ask('GET', '/people/customers/99999')).status).toBe(404);
    expect((await noor.ask('GET', '/people/customers/x')).status).toBe(404);
  });

  it('are known by their card, and a replaced card says so', async () => {
    const card = (code: string) => noor.ask<CustomerPanel & ProblemDetails>('GET', `/people/cards/${code}`);
    expect((await card(CARD)).body.name).toBe('Priya Hallow');
    const { rows } = await test.house.database.ask(async (sql) => ({
      rows: await sql.query<{ code: string }>('select code from customer_card where replaced_at is not null'),
    }));
    const old = await card(rows[0]?.code ?? '');
    expect([old.status, old.body.title]).toEqual([
      409,
      expect.stringMatching(/^This card of Sam Okonedal was replaced and counts no more\. It stopped on /),
    ]);
    expect((await card(ownEan13(24, 999))).status).toBe(404);
  });

  it('are created with two fields, once, with a warning about who may be the same', async () => {
    const key = newKey();
    const create = (customer: object, headers = {}) =>
      noor.ask<CustomerPanel & ProblemDetails>('POST', '/people/customers', form(customer), headers);
    const mo = { name: 'Mo Tindall', phone: '555-0199' };
    const answers = await Promise.all([1, 2, 3].map(() => create(mo, { 'idempotency-key': key })));
    expect(new Set(answers.map(({ body }) => body.id)).size).toBe(1);
    expect((await find('tindall')).length).toBe(1);
    const same = await create({ name: 'Somebody else', phone: '(555) 0199' });
    expect([same.status, same.body.type]).toEqual([409, 'customer-known']);
    expect(same.body.data as LikelySame).toMatchObject({
      why: 'same phone number',
      customer: { name: 'Mo Tindall' },
    });
    expect((await create({ name: 'Somebody else', phone: '(555) 0199', anyway: 'yes' })).status).toBe(200);
    const wrong = await create({ name: ' ', mail: 'nonsense', birthDay: 3 });
    expect(wrong.body.fields?.map(({ field }) => field).sort()).toEqual(['birthDay', 'mail', 'name']);
  });

  it('pay their group prices, decided on the server, and see the visit in their panel', async () => {
    const sale = await ringUp(test, ['REC-SO']);
    const [line] = sale.basket.lines;
    const marit = { id: await idOf('marit'), name: 'Marit Solvane' };
    const basket = { ...sale.basket, customer: marit };
    const refused = await pay(noor, { ...sale, basket });
    expect((refused.body as unknown as ProblemDetails).data).toMatchObject({
      priced: {
        lines: [{ regular: 3490, net: 2967, records: [{ kind: 'group-price', why: 'Schools and choirs' }] }],
      },
    });
    expect((await pay(noor, { ...sale, basket, expectedTotal: 3190, handed: 3190 })).body.total).toBe(3190);
    const { visits, visitCount } = await panel(marit.id);
    expect([visitCount, visits[0]?.total, visits[0]?.lines]).toEqual([
      1,
      3190,
      [{ itemId: line?.itemId, name: 'Recorder, soprano', quantity: 1000 }],
    ]);
    const nobody = { ...sale, basket: { ...sale.basket, id: newKey(), customer: { id: 99_999, name: 'X' } } };
    expect((await pay(noor, nobody)).status).toBe(422);
  });
});
