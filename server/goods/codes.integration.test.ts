import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { EntryView } from '../../contract/counts.ts';
import type { GoodsPage } from '../../contract/goods.ts';
import type { JournalPage } from '../../contract/journal.ts';
import type { OrderableItem } from '../../contract/supply.ts';
import type { SendableItem } from '../../contract/transfers.ts';
import { checkDigit } from '../../core/goods/barcode.ts';
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
let isolde: Browser;
let itemId = 0;
let orderId = 0;
let countId = 0;

const withCheckDigit = (digits: string) => `${digits}${checkDigit(digits)}`;
/** A UPC-A code with zeros, and how it is printed without them (GS1 General Specifications, 5.2.2.4). */
const UPC_A = withCheckDigit('01234500006');
const UPC_E = `0123456${UPC_A.at(-1)}`;
/** A code of another system, with letters; and a part of it, which means nothing. */
const LETTERS = 'Ks-90417725';
const PART = '90417';

beforeAll(async () => {
  test = await openHouse();
  isolde = test.browser();
  await isolde.signIn('8024', 1);
  await openDrawer(isolde);
  const [item] = await test.house.database.ask((reader) =>
    reader.query<{ id: number }>("select id from item where number = 'MET-C'"),
  );
  itemId = item?.id ?? 0;
  for (const code of [UPC_A, LETTERS])
    expect((await isolde.ask('POST', `/goods/items/${itemId}/codes`, { code })).status).toBe(200);
  const [supplier] = await test.house.database.ask((reader) =>
    reader.query<{ id: number }>('select id from supplier order by id limit 1'),
  );
  orderId = (
    await isolde.ask<{ id: number }>('POST', '/supply/orders', {
      supplierId: supplier?.id,
      placeId: 1,
      cover: 0,
    })
  ).body.id;
  countId = (await isolde.ask<{ id: number }>('POST', '/counts', { placeId: 1 })).body.id;
});
afterAll(() => test.stop());

/** What a scanned code means, wherever goods are scanned: the item's id, or nothing. */
const PLACES: Readonly<Record<string, (code: string) => Promise<number | null>>> = {
  'the pages of goods': async (code) =>
    (await isolde.ask<{ id: number | null }>('GET', `/goods/codes/${code}`)).body.id,
  'the list of goods': async (code) =>
    (await isolde.ask<GoodsPage>('GET', `/goods/list?code=${code}`)).body.rows[0]?.id ?? null,
  'an order': async (code) =>
    (await isolde.ask<OrderableItem[]>('GET', `/supply/orders/${orderId}/items?code=${code}`)).body[0]
      ?.itemId ?? null,
  'a transfer': async (code) =>
    (await isolde.ask<SendableItem[]>('GET', `/transfers/items?place=1&code=${code}`)).body[0]?.itemId ??
    null,
  'a count': async (code) => {
    const counted = await isolde.ask<EntryView>('POST', `/counts/${countId}/entries`, {
      code,
      quantity: 1_000,
    });
    return counted.status === 200 ? counted.body.itemId : null;
  },
};

describe(`a code that is scanned on ${ENGINE}`, () => {
  for (const [place, meant] of Object.entries(PLACES)) {
    it(`means its item in ${place}, however it is spelled`, async () => {
      for (const code of [UPC_A, `0${UPC_A}`, UPC_E, LETTERS, LETTERS.toUpperCase(), 'met-c'])
        expect([code, await meant(code)]).toEqual([code, itemId]);
    });
    it(`means nothing in ${place} where it is only a part of a code`, async () => {
      for (const code of [PART, LETTERS.slice(0, -1), UPC_A.slice(1)])
        expect([code, await meant(code)]).toEqual([code, null]);
    });
  }

  it('is asked for alone, whatever was typed beside it', async () => {
    for (const address of [`/supply/orders/${orderId}/items?`, '/transfers/items?place=1&'])
      expect(
        (await isolde.ask<{ itemId: number }[]>('GET', `${address}find=reed&code=met-c`)).body.map(
          (one) => one.itemId,
        ),
      ).toEqual([itemId]);
  });

  it('finds its item among the goods and its sales in the journal', async () => {
    const sale = await pay(isolde, await ringUp(test, ['MET-C']));
    expect(sale.status).toBe(200);
    for (const code of [UPC_A, UPC_E, LETTERS.toLowerCase()]) {
      const { rows } = (await isolde.ask<GoodsPage>('GET', `/goods/list?find=${code}`)).body;
      expect(rows.map(({ id }) => id)).toEqual([itemId]);
      const { rows: sales } = (await isolde.ask<JournalPage>('GET', `/journal/sales?find=${code}`)).body;
      expect(sales).toHaveLength(1);
    }
  });

  it('belongs to one item in all its spellings', async () => {
    const record = { name: 'Kazoo, tin', price: 4_00, category: 'Small things', taxCategoryId: 1 };
    for (const code of [UPC_E, LETTERS.toUpperCase()])
      expect((await isolde.ask('POST', '/goods/items', { code, ...record })).status).toBe(422);
    expect((await isolde.ask('POST', `/goods/items/${itemId}/codes`, { code: UPC_E })).status).toBe(422);
  });
});
