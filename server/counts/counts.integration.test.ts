import type { ProblemDetails } from '../../contract/problem.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CountDifferences, CountPage, CountsPage, EntryView } from '../../contract/counts.ts';
import { verify } from '../books/verify.ts';
import { checkDigit } from '../../core/goods/barcode.ts';
import { setStock } from '../testing/stocking.ts';
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
let teo: Browser;
let maren: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  [noor, teo, maren, isolde] = [test.browser(), test.browser(), test.browser(), test.browser()];
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  await teo.signIn('2468', 2);
  await maren.signIn('3690', 2);
  await isolde.signIn('8024', 3);
});
afterAll(() => test.stop());

const sql = <Row extends object>(text: string, values: (string | number)[] = []) =>
  test.house.database.ask((reader) => reader.query<Row>(text, values));
const stockOf = async (number: string) =>
  (
    await sql<{ quantity: number }>(
      'select quantity from stock_level where item_id = (select id from item where number = $1) and place_id = 1',
      [number],
    )
  )[0]?.quantity ?? 0;
const wrong = async () =>
  (await test.house.database.ask((reader) => verify(reader))).map(({ check, what }) => `${check}: ${what}`);

async function begin(more: object = {}): Promise<number> {
  const made = await maren.ask<{ id: number }>('POST', '/counts', { placeId: 1, ...more });
  expect(made.status).toBe(200);
  return made.body.id;
}
const count = (by: Browser, id: number, code: string, quantity: number, more: object = {}) =>
  by.ask<EntryView>('POST', `/counts/${id}/entries`, { code, quantity, ...more });
const withCheckDigit = (digits: string) => `${digits}${checkDigit(digits)}`;
const found = async (id: number) =>
  (await isolde.ask<CountDifferences>('GET', `/counts/${id}/differences`)).body;

describe(`counting while the shop sells on ${ENGINE}`, () => {
  it('gives no difference for a right count, by several people, whatever is sold meanwhile', async () => {
    await test.house.database.write((writer) => setStock(writer, 'MET-C', 1, 9_000));
    const id = await begin();
    expect((await count(noor, id, 'MET-C', 4_000)).status).toBe(200);
    expect((await pay(noor, await ringUp(test, ['MET-C']))).status).toBe(200);
    // It came from the part that was counted before.
    const entry = await count(teo, id, 'met-c', 5_000);
    expect(entry.body).toMatchObject({ counted: 9_000, expected: null });
    expect(await found(id)).toMatchObject({ differences: [], right: 1 });
    expect((await pay(noor, await ringUp(test, ['MET-C']))).status).toBe(200);
    expect((await maren.ask('POST', `/counts/${id}/booked`)).body).toEqual({ booked: 0 });
    expect(await stockOf('MET-C')).toBe(7_000);
    expect((await count(noor, id, 'MET-C', 1_000)).status).toBe(409);
    expect(await wrong()).toEqual([]);
  });

  it('books what is missing and what is too much at cost, all at once and once', async () => {
    await test.house.database.write(async (writer) => {
      await setStock(writer, 'MET-C', 1, 8_000);
      await setStock(writer, 'MET-W', 1, 3_000);
    });
    const id = await begin({ blind: false });
    const entry = await count(noor, id, 'MET-C', 6_000);
    expect(entry.body.expected).toBe(8_000);
    const slip = await count(noor, id, 'MET-W', 9_000);
    expect((await noor.ask('DELETE', `/counts/${id}/entries/${slip.body.id}`)).status).toBe(200);
    await count(noor, id, 'MET-W', 4_000);
    const { differences, cost } = await found(id);
    expect(differences.map(({ number, difference }) => [number, difference]).toSorted()).toEqual([
      ['MET-C', -2_000],
      ['MET-W', 1_000],
    ]);
    expect(cost).not.toBe(0);
    const { body: hidden } = await maren.ask<CountDifferences>('GET', `/counts/${id}/differences`);
    expect(hidden.cost).toBeNull();
    expect((await noor.ask('POST', `/counts/${id}/booked`)).status).toBe(403);
    const twice = await Promise.all([
      maren.ask('POST', `/counts/${id}/booked`),
      isolde.ask('POST', `/counts/${id}/booked`),
    ]);
    expect(twice.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect([await stockOf('MET-C'), await stockOf('MET-W')]).toEqual([6_000, 4_000]);
    const kept = await found(id);
    expect(kept.differences).toHaveLength(2);
    const { body: page } = await isolde.ask<CountPage>('GET', `/counts/${id}`);
    expect(page).toMatchObject({ state: 'booked', cost: kept.cost });
    expect(await wrong()).toEqual([]);
  });

  it('is booked above the limit of a role with an approval only', async () => {
    await test.house.database.write((writer) => setStock(writer, 'MET-C', 1, 8_000));
    const limits = { cashier: 0, supervisor: 0, manager: null };
    expect((await isolde.ask('PUT', '/setup/stock', { limits })).status).toBe(200);
    const id = await begin();
    await count(noor, id, 'MET-C', 7_000);
    const refused = await maren.ask<ProblemDetails<'countersign-needed'>>('POST', `/counts/${id}/booked`);
    expect([refused.status, await stockOf('MET-C')]).toEqual([403, 8_000]);
    const { needed } = refused.body.data ?? {};
    expect(needed?.steps[0]?.amount).toBe(Math.abs((await found(id)).cost ?? 0));
    const signed = await maren.ask<{ id: string }>('POST', '/staff/countersigns', {
      pin: '8024',
      right: 'stock.large',
      basketId: needed?.about,
      reason: 'A count',
      covers: needed?.steps,
    });
    const approval = { about: needed?.about, countersign: signed.body.id };
    expect((await maren.ask('POST', `/counts/${id}/booked`, { approval })).status).toBe(200);
    expect(await stockOf('MET-C')).toBe(7_000);
    expect(
      (await isolde.ask('PUT', '/setup/stock', { limits: { ...limits, supervisor: 50_000 } })).status,
    ).toBe(200);
  });

  it('reads labels with a weight inside as so much of it', async () => {
    const [item] = await sql<{ number: string; code: string }>(
      "select number, code from item join item_code on item_id = item.id where code like '27%' and length(code) = 7 and stocked and decimals = 3 limit 1",
    );
    const id = await begin();
    const label = withCheckDigit(`${item?.code ?? ''}00350`);
    const entry = await count(noor, id, label, 2_000);
    // Twice what the label says.
    expect(entry.body).toMatchObject({ number: item?.number, counted: 700 });
    expect((await count(noor, id, withCheckDigit('279999900350'), 1_000)).status).toBe(422);
  });

  it('lists what was not counted, and takes it for none only when somebody says so', async () => {
    const [category] = await sql<{ id: number }>("select category_id as id from item where number = 'MET-C'");
    const id = await begin({ categories: [category?.id] });
    await count(noor, id, 'MET-C', await stockOf('MET-C'));
    const before = await found(id);
    const left = before.notCounted.find(({ number }) => number === 'MET-W');
    expect(left?.expected).toBe(await stockOf('MET-W'));
    expect((await maren.ask('POST', `/counts/${id}/none`, { items: [left?.itemId] })).status).toBe(200);
    const after = await found(id);
    expect(after.notCounted.some(({ number }) => number === 'MET-W')).toBe(false);
    expect(after.differences).toMatchObject([{ number: 'MET-W', difference: -(left?.expected ?? 0) }]);
    // Somebody looks again, and finds it.
    await maren.ask('POST', `/counts/${id}/again`, { items: [left?.itemId] });
    await count(teo, id, 'MET-W', left?.expected ?? 0);
    expect((await found(id)).differences).toEqual([]);
    expect((await maren.ask('POST', `/counts/${id}/cancelled`)).status).toBe(200);
  });

  it('counts units by their serial numbers, each once', async () => {
    const known = await sql<{ serial: string }>(
      `select serial from serial join item on item.id = item_id
       where number = 'CLA-0510' and place_id = 1 and sale_id is null order by serial`,
    );
    const id = await begin();
    const [first, ...others] = known.map(({ serial }) => serial);
    expect((await count(noor, id, 'CLA-0510', 1_000)).status).toBe(422);
    for (const serial of others) expect((await count(noor, id, serial, 1_000)).status).toBe(200);
    expect((await count(noor, id, others[0] ?? 'CLA-0510', 1_000)).status).toBe(422);
    expect((await count(noor, id, 'CLA-0510', 1_000, { serial: 'NEW-77' })).status).toBe(200);
    // One is missing and another one is there: that is shown as it will be booked.
    expect((await found(id)).differences).toMatchObject([
      { number: 'CLA-0510', difference: 0, missing: [first], extra: ['NEW-77'] },
    ]);
    const [away] = await sql<{ serial: string }>(
      `select serial from serial join item on item.id = item_id
       where number like 'CLA-%' and place_id <> 1 and sale_id is null limit 1`,
    );
    expect((await count(noor, id, away?.serial ?? 'none', 1_000)).status).toBe(422);
    expect((await maren.ask('POST', `/counts/${id}/booked`)).body).toEqual({ booked: 1 });
    const now = await sql<{ serial: string }>(
      `select serial from serial join item on item.id = item_id
       where number = 'CLA-0510' and place_id = 1 and sale_id is null order by serial`,
    );
    expect(now.map(({ serial }) => serial)).toEqual([...others, 'NEW-77'].toSorted());
    expect(now.map(({ serial }) => serial)).not.toContain(first);
    expect(await wrong()).toEqual([]);
  });

  it('refuses what is nothing, and half a piece', async () => {
    const id = await begin();
    expect((await count(noor, id, 'NO-SUCH', 1_000)).status).toBe(422);
    expect((await count(noor, id, 'MET-C', 1_500)).status).toBe(422);
    expect((await noor.ask('GET', `/counts/${id}/differences`)).status).toBe(403);
    expect((await noor.ask('GET', '/counts/999999')).status).toBe(404);
  });

  it('are found by number, place, words and who began them, page by page', async () => {
    const listed = async (find: string, page = 0) =>
      (
        await maren.ask<CountsPage>(
          'GET',
          `/counts?${new URLSearchParams({ find, page: String(page) }).toString()}`,
        )
      ).body;
    const id = await begin({ words: 'Shelf 3 (behind)' });
    const { number } = (await maren.ask<CountPage>('GET', `/counts/${id}`)).body;
    const ids = async (find: string) => (await listed(find)).counts.map((row) => row.id);
    expect(await ids('SHELF 3 (')).toEqual([id]);
    expect(await ids(`z-${number}`)).toEqual([id]);
    expect(await ids('maren')).toContain(id);
    expect(await ids('nowhere')).toEqual([]);
    const before = (await listed('')).count;
    for (let nth = 0; nth < 100; nth += 1) await begin();
    const [top, rest] = [await listed(''), await listed('', 1)];
    expect([top.count, top.counts.length, rest.counts.length]).toEqual([before + 100, 100, before]);
    expect(rest.counts.map((row) => row.id)).toContain(id);
  });
});
