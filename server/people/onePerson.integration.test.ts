import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CustomerPage, DirectoryPage } from '../../contract/people.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { verify } from '../books/verify.ts';
import { addSomebody } from '../testing/people.ts';
import { pricedAt, setAside } from '../testing/promising.ts';
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
afterAll(() => test.stop());

const found = async (find: string) =>
  (await noor.ask<DirectoryPage>('GET', `/people/directory?find=${encodeURIComponent(find)}`)).body.rows;
const idOf = async (find: string) => (await found(find))[0]?.id ?? 0;
const page = async (id: number) => (await noor.ask<CustomerPage>('GET', `/people/customers/${id}/page`)).body;
/** @returns the points that it gave */
async function sellTo(id: number): Promise<number> {
  const sale = await ringUp(test, ['CLA-0220']);
  const basket = { ...sale.basket, customer: { id, name: 'somebody' } };
  const { status, body } = await pay(noor, { ...sale, basket });
  expect(status).toBe(200);
  return body.points?.earned ?? 0;
}
const everythingTiesOut = async () => expect(await test.house.database.ask(verify)).toEqual([]);

describe(`two records of one person on ${ENGINE}`, () => {
  it('become one: points, debts, credit, cards, visits and what waits are found under the one that stays', async () => {
    const stays = await idOf('lou bramblecote');
    const goes = await addSomebody(noor, 'L. Bramblecote', { card: 'LOU-2', phone: '555-0166' });
    await sellTo(goes);
    const aside = await setAside(test, noor, { id: goes, name: 'L. Bramblecote' }, ['CAR-SO']);
    const deposit = aside.answer.body.stored?.basket;
    if (!deposit) throw new Error('nothing was set aside');
    const { total } = await pricedAt(test, deposit);
    const wanted = { basket: deposit, expectedTotal: total, handed: total };
    const paid = await noor.ask('POST', '/counter/sales', wanted, { 'idempotency-key': deposit.id });
    expect(paid.status).toBe(200);
    const marit = await idOf('marit');
    const [to, from, third] = [await page(stays), await page(goes), await page(marit)];
    const merge = (more: object) =>
      isolde.ask<CustomerPage & ProblemDetails>('POST', `/people/customers/${stays}/merge`, {
        record: { ...to.record, tags: ['merged'] },
        goes,
        version: to.version,
        goesVersion: from.version,
        ...more,
      });
    expect((await merge({ goesVersion: from.version + 1 })).body.type).toBe('changed-meanwhile');
    expect((await merge({ goes: stays, goesVersion: to.version })).status).toBe(409);
    const merged = await merge({});
    expect(merged.status).toBe(200);
    expect(merged.body).toMatchObject({
      mergedFrom: ['L. Bramblecote'],
      record: { name: 'Lou Bramblecote', tags: ['merged'] },
      panel: { points: 900 + from.panel.points, credit: 3500, visitCount: 2 },
    });
    expect(merged.body.panel.promises).toHaveLength(1);
    expect(merged.body.cards.map(({ code }) => code)).toContain('LOU-2');
    // A third one, who owes and has groups, comes to it too; what came before comes along.
    const owing = await merge({
      goes: marit,
      version: merged.body.version,
      goesVersion: third.version,
    });
    expect(owing.body.panel).toMatchObject({ owes: 21_450, credit: 3500 });
    expect(owing.body.panel.points).toBe(900 + from.panel.points + third.panel.points);
    expect((await page(goes)).panel.id).toBe(stays);
    expect(await found('marit')).toEqual([]);
    await everythingTiesOut();
  });

  it('wait while the one that goes is on a basket', async () => {
    const [stays, goes] = [await addSomebody(noor, 'Twin One'), await addSomebody(noor, 'Twin Two')];
    const { basket } = await ringUp(test, ['CLA-0220']);
    const on = { ...basket, customer: { id: goes, name: 'Twin Two' } };
    expect((await noor.ask('PUT', '/counter/basket', { basket: on, revision: 1 })).status).toBe(200);
    const [to, from] = [await page(stays), await page(goes)];
    const refused = await isolde.ask<ProblemDetails>('POST', `/people/customers/${stays}/merge`, {
      record: to.record,
      goes,
      version: to.version,
      goesVersion: from.version,
    });
    expect([refused.status, refused.body.title]).toEqual([409, 'Twin Two is on the basket at till 1.']);
  });
});

describe(`what is known of somebody on ${ENGINE}`, () => {
  it('is given to them as one file, in two forms', async () => {
    const id = await idOf('priya');
    const earned = await sellTo(id);
    const known = await isolde.ask<{ points: number; sales: { lines: string[] }[]; record: object }>(
      'GET',
      `/people/customers/${id}/known.json`,
    );
    expect(known.body).toMatchObject({
      points: 1240 + earned,
      record: { name: 'Priya Hallow', tags: ['flute', 'orchestra'] },
    });
    expect(known.body.sales[0]?.lines[0]).toMatch(/^1 /);
    const { body } = await isolde.ask<string>('GET', `/people/customers/${id}/known.csv`);
    expect(body).toContain('name,,Priya Hallow\r\n');
    expect((await noor.ask('GET', `/people/customers/${id}/known.json`)).status).toBe(403);
  });

  it('is forgotten once nothing is open: no name, number or address of theirs is left anywhere', async () => {
    const id = await addSomebody(noor, 'Quentin Forgettable', {
      phone: '555-0155',
      mail: 'quentin@gone.example',
      card: 'GONE-1',
    });
    await sellTo(id);
    const forget = (one: number) => isolde.ask<ProblemDetails>('POST', `/people/customers/${one}/forget`);
    const agnes = await idOf('agnes');
    expect((await forget(agnes)).body).toMatchObject({
      type: 'cannot-forget',
      detail: 'They owe 89.00.',
    });
    expect((await page(agnes)).open).toEqual(['They owe 89.00.']);
    expect((await noor.ask('POST', `/people/customers/${id}/forget`)).status).toBe(403);
    expect((await forget(id)).status).toBe(200);
    expect((await noor.ask('GET', `/people/customers/${id}`)).status).toBe(404);
    expect((await noor.ask('GET', '/people/cards/GONE-1')).status).toBe(404);
    for (const word of ['Quentin', '555-0155', 'quentin@gone.example', 'GONE-1']) {
      expect([word, await placesWith(word)]).toEqual([word, []]);
    }
    await everythingTiesOut();
  });
});

/** Tables of which some row holds a text. */
async function placesWith(text: string): Promise<string[]> {
  return test.house.database.ask(async (sql) => {
    const tables = await sql.query<{ name: string }>(
      `select table_name as name from information_schema.tables
        where table_schema = 'public' and table_type = 'BASE TABLE'`,
    );
    const found: string[] = [];
    for (const { name } of tables) {
      const rows = await sql.query(
        `select 1 from "${name}" as one where strpos(lower(one::text), lower($1)) > 0 limit 1`,
        [text],
      );
      if (rows.length > 0) found.push(name);
    }
    return found;
  });
}
