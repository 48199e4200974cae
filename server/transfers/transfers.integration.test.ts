import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TransfersPage, TransferView } from '../../contract/transfers.ts';
import { verify } from '../books/verify.ts';
import { setStock } from '../testing/stocking.ts';
import { ENGINE, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let maren: Browser;
beforeAll(async () => {
  test = await openHouse();
  maren = test.browser();
  await maren.signIn('3690', 1);
});
afterAll(() => test.stop());

const sql = <Row extends object>(text: string, values: (string | number)[] = []) =>
  test.house.database.ask((reader) => reader.query<Row>(text, values));
const itemId = async (number: string) =>
  (await sql<{ id: number }>('select id from item where number = $1', [number]))[0]?.id ?? 0;
const stockAt = async (number: string, place: number) =>
  (
    await sql<{ quantity: number }>(
      'select quantity from stock_level where item_id = (select id from item where number = $1) and place_id = $2',
      [number, place],
    )
  )[0]?.quantity ?? 0;
const worth = async (account: string) =>
  (
    await sql<{ amount: number }>(
      'select coalesce(sum(amount), 0)::bigint as amount from ledger_entry where account = $1',
      [account],
    )
  )[0]?.amount ?? 0;
const wrong = async () =>
  (await test.house.database.ask((reader) => verify(reader))).map(({ check, what }) => `${check}: ${what}`);
const ask = async (number: string, quantity: number, serials: string[] = []) =>
  maren.ask<TransferView>('POST', '/transfers', {
    fromPlace: 1,
    toPlace: 2,
    lines: [{ itemId: await itemId(number), quantity, serials }],
  });
const step = (transfer: TransferView, what: string, more: object = {}) =>
  maren.ask<TransferView>('POST', `/transfers/${transfer.id}/${what}`, {
    version: transfer.version,
    ...more,
  });

describe(`goods from a place to another on ${ENGINE}`, () => {
  it('are asked for, on the way, and there; what does not come is missing, at cost', async () => {
    await test.house.database.write((writer) => setStock(writer, 'MET-C', 1, 6_000));
    const there = await stockAt('MET-C', 2);
    const { body: asked } = await ask('MET-C', 5_000);
    expect(asked.state).toBe('asked');
    const { body: sent } = await step(asked, 'sent');
    expect(await stockAt('MET-C', 1)).toBe(1_000);
    expect(await worth('stock-on-way')).toBeGreaterThan(0);
    expect(await wrong()).toEqual([]);
    expect((await step(asked, 'sent')).status).toBe(409);
    expect((await step(sent, 'arrived', { lines: [6_000] })).status).toBe(422);
    const lost = await worth('shrinkage');
    const { body: came } = await step(sent, 'arrived', { lines: [4_000] });
    expect(came.state).toBe('arrived');
    expect(await stockAt('MET-C', 2)).toBe(there + 4_000);
    expect(await worth('stock-on-way')).toBe(0);
    expect(await worth('shrinkage')).toBeGreaterThan(lost);
    expect(await wrong()).toEqual([]);
  });

  it('may be more than the books know of: what is owed there is paid by what comes in', async () => {
    await test.house.database.write((writer) => setStock(writer, 'MET-W', 1, 1_000));
    const { body: asked } = await ask('MET-W', 3_000);
    const { body: sent } = await step(asked, 'sent');
    expect(await stockAt('MET-W', 1)).toBe(-2_000);
    expect(await wrong()).toEqual([]);
    await step(sent, 'arrived', { lines: [3_000] });
    expect(await wrong()).toEqual([]);
    await test.house.database.write((writer) => setStock(writer, 'MET-W', 1, 2_000));
    expect(await wrong()).toEqual([]);
  });

  it('with serial numbers go by them; nobody sends what is sold, or to where it is', async () => {
    const [unit] = await sql<{ serial: string }>(
      `select serial from serial join item on item.id = item_id
       where number = 'CLA-0510' and place_id = 1 and sale_id is null order by serial limit 1`,
    );
    expect((await ask('CLA-0510', 1_000)).status).toBe(422);
    const { body: asked } = await ask('CLA-0510', 1_000, [unit?.serial ?? '']);
    const { body: sent } = await step(asked, 'sent');
    const { body: came } = await step(sent, 'arrived', { lines: [1_000] });
    expect(came.state).toBe('arrived');
    const [now] = await sql<{ place: number }>('select place_id as place from serial where serial = $1', [
      unit?.serial ?? '',
    ]);
    expect(now?.place).toBe(2);
    const again = await ask('CLA-0510', 1_000, [unit?.serial ?? '']);
    expect((await step(again.body, 'sent')).status).toBe(422);
    expect((await step(again.body, 'cancelled')).body.state).toBe('cancelled');
    const home = { fromPlace: 1, toPlace: 1, lines: [{ itemId: await itemId('MET-C'), quantity: 1_000 }] };
    expect((await maren.ask('POST', '/transfers', home)).status).toBe(422);
    expect(await wrong()).toEqual([]);
  });

  it('are found by goods, places, words and number, page by page, those that are open first', async () => {
    const listed = async (find: string, page = 0) =>
      (
        await maren.ask<TransfersPage>(
          'GET',
          `/transfers?${new URLSearchParams({ find, page: String(page) }).toString()}`,
        )
      ).body;
    const { count: before } = await listed('');
    const { body: first } = await maren.ask<TransferView>('POST', '/transfers', {
      fromPlace: 2,
      toPlace: 1,
      words: '100 % for the fair (_ or %)',
      lines: [{ itemId: await itemId('CLA-0510'), quantity: 1_000, serials: ['none yet'] }],
    });
    const ids = async (find: string) => (await listed(find)).transfers.map(({ id }) => id);
    expect(await ids('the FAIR (_')).toEqual([first.id]);
    expect(await ids('side → ostler')).toEqual([first.id]);
    expect(await ids(`Transfer ${first.id}`)).toEqual([first.id]);
    expect(await ids('clarinet')).toContain(first.id);
    expect(await ids('cla-0510')).toContain(first.id);
    expect(await listed('no such thing')).toMatchObject({ transfers: [], count: 0 });
    for (let nth = 0; nth < 100; nth += 1) await ask('MET-C', 1_000);
    const [top, rest] = [await listed(''), await listed('', 1)];
    expect([top.count, top.transfers.length, rest.transfers.length]).toEqual([before + 101, 100, before + 1]);
    expect(rest.transfers[0]?.id).toBe(first.id);
    expect(rest.transfers.slice(1).map(({ state }) => state)).not.toContain('asked');
    expect((await maren.ask<TransferView>('GET', `/transfers/${first.id}`)).body).toEqual(first);
    expect((await maren.ask('GET', '/transfers/999999')).status).toBe(404);
  });
});
