import { NIL, v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { StoredBasket } from '../../contract/counter.ts';
import type { JournalPage, JournalSale } from '../../contract/journal.ts';
import type { OfferDraft } from '../../contract/offers.ts';
import type { CustomerPage, DirectoryPage, FoundCustomer } from '../../contract/people.ts';
import type { HeldBasket } from '../../contract/waiting.ts';
import type { WithoutReceipt } from '../../contract/returns.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { verify } from '../books/verify.ts';
import { pastBaskets } from '../offers/pastBasketStore.ts';
import { addSomebody } from '../testing/people.ts';
import { anyAmount, approveFor, giveBack, linesBack } from '../testing/returning.ts';
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
let noor: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  isolde = test.browser();
  await isolde.signIn('8024', 2);
});
afterAll(async () => {
  expect(await test.house.database.ask(verify)).toEqual([]);
  await test.stop();
});

const page = async (id: number) => (await noor.ask<CustomerPage>('GET', `/people/customers/${id}/page`)).body;

async function basketFor(id: number, numbers: readonly string[]) {
  const sale = await ringUp(test, numbers);
  return { ...sale, basket: { ...sale.basket, customer: { id, name: 'somebody' } } };
}

/** @returns the id of the sale */
async function sellTo(id: number, numbers: readonly string[] = ['CLA-0220']): Promise<string> {
  const { status, body } = await pay(noor, await basketFor(id, numbers));
  expect(status).toBe(200);
  return body.id;
}

/** Makes one record of two. */
async function merge(stays: number, goes: number): Promise<void> {
  const [to, from] = [await page(stays), await page(goes)];
  const merged = await isolde.ask('POST', `/people/customers/${stays}/merge`, {
    record: to.record,
    goes,
    version: to.version,
    goesVersion: from.version,
  });
  expect(merged.status).toBe(200);
}

const forget = async (id: number) =>
  expect((await isolde.ask('POST', `/people/customers/${id}/forget`)).status).toBe(200);

/** Somebody with two records, who bought something under the one that goes. */
async function twice(name: string, card = '') {
  const goes = await addSomebody(noor, name, { card });
  const stays = await addSomebody(noor, `${name} Whole`);
  return { goes, stays, merge: () => merge(stays, goes) };
}

const journal = async (query: string) =>
  (await noor.ask<JournalPage>('GET', `/journal/sales?${query}`)).body.rows.map(({ id }) => id);
const searched = (find: string) => journal(`find=${encodeURIComponent(find)}`);

describe(`what somebody did before two records became one, on ${ENGINE}`, () => {
  it('stands in the journal under the record that stays, by its number, its card and its name', async () => {
    const person = await twice('Odo Quillon', 'odo-7');
    const before = await sellTo(person.goes);
    const after = await sellTo(person.stays);
    await person.merge();
    const both = [after, before];
    expect(await journal(`customerId=${person.stays}`)).toEqual(both);
    expect(await searched('Odo-7')).toEqual(both);
    expect(await searched('quillon whole')).toEqual(both);
  });

  it('counts for what one customer may have of an offer', async () => {
    const person = await twice('Ivo Perrin');
    const draft: OfferDraft = {
      name: 'Once each',
      rule: {
        kind: 'each',
        goods: { itemIds: [], categories: ['Stands'] },
        off: { kind: 'percent', rate: 100_000 },
      },
      combines: false,
      conditions: { from: null, to: null, weekdays: [], hours: null, placeIds: [], groups: [], minimum: 0 },
      limits: { perSale: null, perCustomer: 1, total: null },
      needs: 'nothing',
      points: 0,
    };
    const { id } = (await isolde.ask<{ id: number }>('POST', '/offers', draft)).body;
    expect((await isolde.ask('PUT', `/offers/${id}/state`, { state: 'live', version: 1 })).status).toBe(200);
    const take = async (customer: number, total: number) => {
      const { basket } = await basketFor(customer, ['STA-ORCH']);
      const wanted = { basket, expectedTotal: total, handed: total };
      return noor.ask('POST', '/counter/sales', wanted, { 'idempotency-key': basket.id });
    };
    expect((await take(person.goes, 5708)).status).toBe(200);
    expect((await page(person.goes)).panel.offerUses).toEqual([{ offerId: id, uses: 1 }]);
    await person.merge();
    expect((await page(person.stays)).panel.offerUses).toEqual([{ offerId: id, uses: 1 }]);
    expect((await take(person.stays, 5708)).status).toBe(409);
    expect((await take(person.stays, 6343)).status).toBe(200);
    await isolde.ask('PUT', `/offers/${id}/state`, { state: 'ended', version: 1 });
  });

  it('counts for how often goods came back without a receipt', async () => {
    const person = await twice('Una Tarn');
    const { basket, expectedTotal } = await basketFor(person.goes, ['MET-C']);
    const returnCountersign = await approveFor(noor, basket.id, 'return.no-receipt', [
      anyAmount(`item:${basket.lines[0]?.itemId}`),
    ]);
    const back: Basket = {
      ...basket,
      lines: basket.lines.map((line) => ({
        ...line,
        quantity: -1000,
        comesBack: { reason: 'Faulty', condition: 'damaged' },
        returnCountersign,
      })),
    };
    expect((await giveBack(noor, back, 0 - expectedTotal)).body.finished).toBeTruthy();
    await person.merge();
    const counted = await noor.ask<WithoutReceipt>('GET', `/journal/without-receipt/${person.stays}`);
    expect(counted.body.count).toBe(1);
  });

  it('is rehearsed with the groups that they are in now', async () => {
    const person = await twice('Enno Falk');
    const sale = await sellTo(person.goes);
    const to = await page(person.stays);
    const [group = ''] = (await noor.ask<DirectoryPage>('GET', '/people/directory')).body.groups.flatMap(
      ({ name, rule }) => (rule ? [] : [name]),
    );
    const change = { record: { ...to.record, groups: [group] }, version: to.version };
    expect((await isolde.ask('PUT', `/people/customers/${person.stays}`, change)).status).toBe(200);
    await person.merge();
    const day = test.house.clock.now().toISOString().slice(0, 10);
    const past = await test.house.database.ask((sql) =>
      pastBaskets(sql, { from: day, to: day }, 'UTC', NIL, 1000),
    );
    expect(past.find(({ saleId }) => saleId === sale)?.groups).toEqual([group]);
  });
});

describe(`a basket on hold on ${ENGINE}`, () => {
  it('is taken up for the record that stays', async () => {
    const person = await twice('Tove Marsh');
    const { basket, expectedTotal: total } = await basketFor(person.goes, ['MET-C']);
    const held = { basket, name: 'Tove', note: '', total, forTill: null };
    expect((await noor.ask('POST', '/waiting/held', held)).status).toBe(200);
    await person.merge();
    const waiting = (await noor.ask<HeldBasket[]>('GET', '/waiting/held')).body;
    const id = waiting.find(({ name }) => name === 'Tove')?.id;
    const taken = await noor.ask<StoredBasket>('POST', `/waiting/held/${id}/taken`, {});
    expect(taken.body.basket.customer).toEqual({ id: person.stays, name: 'Tove Marsh Whole' });
    const sold = await pay(noor, { basket: taken.body.basket, expectedTotal: total, handed: total });
    expect(sold.status).toBe(200);
  });
});

describe(`goods of somebody on ${ENGINE}`, () => {
  it('come back for the record that stays', async () => {
    const person = await twice('Rasmus Oake');
    const sale = await sellTo(person.goes, ['MET-C']);
    await person.merge();
    const { body } = await noor.ask<{ customer: object }>('GET', `/journal/sales/${sale}/returnable`);
    expect(body.customer).toEqual({ id: person.stays, name: 'Rasmus Oake Whole' });
  });

  it('come back for nobody once they are forgotten', async () => {
    const id = await addSomebody(noor, 'Nils Leaving');
    const sale = await sellTo(id, ['MET-C']);
    await forget(id);
    const { body } = await noor.ask<{ customer: null }>('GET', `/journal/sales/${sale}/returnable`);
    expect(body.customer).toBeNull();
    const { lines, refund } = await linesBack(noor, sale, [{ position: 1, quantity: 1000 }]);
    expect((await giveBack(noor, { id: newId(), lines }, 0 - refund)).body.finished).toBeTruthy();
  });
});

describe(`how somebody wants their receipts on ${ENGINE}`, () => {
  const remember = (sale: string, to: string) =>
    noor.ask('POST', `/journal/sales/${sale}/sent`, { by: 'mail', to, remember: true });
  const receiptOf = async (sale: string) =>
    (await noor.ask<JournalSale>('GET', `/journal/sales/${sale}`)).body.receiptCustomer;

  it('is kept with their address, under which they are found, and with who changed it', async () => {
    const id = await addSomebody(noor, 'Marta Postwell');
    const sale = await sellTo(id);
    const before = await page(id);
    expect((await remember(sale, 'marta@letters.example')).status).toBe(200);
    const found = await noor.ask<FoundCustomer[]>('GET', '/people/customers?find=marta@letters.example');
    expect(found.body.map((one) => one.id)).toEqual([id]);
    const after = await page(id);
    expect(after.record.mail).toBe('marta@letters.example');
    expect(after.changes[0]).toMatchObject({ what: 'Mail', became: 'marta@letters.example' });
    // Who has the record open does not write the old address over it.
    expect(after.version).toBeGreaterThan(before.version);
    expect(await receiptOf(sale)).toMatchObject({ mail: 'marta@letters.example', by: 'mail' });
  });

  it('is kept in the record that stays', async () => {
    const person = await twice('Gerd Bellamy');
    const sale = await sellTo(person.goes);
    await person.merge();
    expect((await remember(sale, 'gerd@letters.example')).status).toBe(200);
    expect((await page(person.stays)).record.mail).toBe('gerd@letters.example');
    expect(await receiptOf(sale)).toMatchObject({ name: 'Gerd Bellamy Whole', mail: 'gerd@letters.example' });
  });

  it('is kept for nobody who was forgotten', async () => {
    const id = await addSomebody(noor, 'Peer Vanish');
    const sale = await sellTo(id);
    await forget(id);
    expect((await remember(sale, 'peer@letters.example')).status).toBe(200);
    const kept = await test.house.database.ask((sql) =>
      sql.query("select id from customer where mail <> '' and forgotten_at is not null"),
    );
    expect(kept).toEqual([]);
    expect(await receiptOf(sale)).toBeNull();
  });
});

describe(`words of customers on ${ENGINE}`, () => {
  it('find their sales in the journal however they are written', async () => {
    const id = await addSomebody(noor, 'Zoë Łukasik');
    const sale = await sellTo(id);
    for (const find of ['Zoë', 'zoe', 'Łukasik', 'lukasik zoe', 'LUKAS'])
      expect([find, await searched(find)]).toEqual([find, [sale]]);
  });

  it('find them whatever signs are typed, none of which means anything else', async () => {
    const id = await addSomebody(noor, "Ann O'Dell & Sons\\ | !Brass <-> (B:*)", {
      mail: 'ann.o+1@dell.example',
    });
    const counter = async (find: string) =>
      (await noor.ask<FoundCustomer[]>('GET', `/people/customers?find=${encodeURIComponent(find)}`)).body;
    for (const find of [
      "O'Dell",
      'dell sons',
      '& sons\\',
      '!brass',
      '<-> (b:*)',
      'ann.o+1@dell.example',
      'dell | brass',
    ])
      expect([find, (await counter(find)).map((one) => one.id)]).toEqual([
        find,
        find === 'dell | brass' ? [] : [id],
      ]);
    for (const find of ["''", '\\', ':*', '!', '&', '| |', '()', "'a' & 'b'", '%', '_'])
      expect([find, (await counter(find)).some((one) => one.id !== id)]).toEqual([find, false]);
  });
});
