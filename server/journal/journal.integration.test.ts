import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Catalogue, ItemFacts } from '../../contract/goods.ts';
import type { JournalPage, JournalSale } from '../../contract/journal.ts';
import { parseJournalSearch } from '../../core/journal/journalSearch.ts';
import { verify } from '../books/verify.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';
import { journalWhere, whereAfter } from './searchStore.ts';
import { countSales, listSales } from './store.ts';

let test: TestHouse;
let noor: Browser;
const paid: string[] = [];

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  for (const number of ['CLA-0220', 'MET-C', 'PIC-M']) {
    const sale = await ringUp(test, [number]);
    await pay(noor, sale);
    paid.push(sale.basket.id);
  }
});
afterAll(() => test.stop());

describe(`the journal on ${ENGINE}`, () => {
  it("lists the day's sales, newest first, with their sum", async () => {
    const { body } = await noor.ask<JournalPage>('GET', '/journal/sales');
    expect(body.rows.map(({ number }) => number)).toEqual(['1-0003', '1-0002', '1-0001']);
    expect(body.counted).toEqual({
      count: 3,
      more: false,
      total: body.rows.reduce((sum, { total }) => sum + total, 0),
    });
    const before = await noor.ask<JournalPage>('GET', '/journal/sales?to=2026-03-01');
    expect(before.body.rows).toEqual([]);
  });

  it('finds a sale by its number, and refuses what is no day', async () => {
    expect(
      (await noor.ask<JournalPage>('GET', '/journal/sales?find=1-0002')).body.rows.map(({ id }) => id),
    ).toEqual([paid[1]]);
    for (const none of ['nonsense', '2026-13-45'])
      expect((await noor.ask<JournalPage>('GET', `/journal/sales?find=${none}`)).body.rows).toEqual([]);
    expect((await noor.ask('GET', '/journal/sales?from=today')).status).toBe(422);
  });

  it('finds the same however much fits the words, and goes on after a sale', async () => {
    const filter = {
      ...{ from: null, to: null, tillId: null, staffId: null, typeId: null, customerId: null, kind: null },
      ...parseJournalSearch('CLA-0220', 2),
    };
    const { database } = test.house;
    for (const most of [
      { items: 20, sales: 5000 },
      { items: 20, sales: 0 },
      { items: 0, sales: 0 },
    ]) {
      const fits = await database.ask((sql) => journalWhere(sql, filter, most));
      expect((await database.ask((sql) => listSales(sql, fits, 5))).map(({ id }) => id)).toEqual([paid[0]]);
      expect((await database.ask((sql) => countSales(sql, fits, 5))).count).toBe(1);
      const after = (at: string) => whereAfter(fits, { at, number: 1, id: newId() });
      expect(await database.ask((sql) => listSales(sql, after('2026-03-01T00:00Z'), 5))).toEqual([]);
      expect(await database.ask((sql) => listSales(sql, after('2026-04-01T00:00Z'), 5))).toHaveLength(1);
    }
  });

  it('keeps what is written about a sale afterwards, and finds it by those words and by a mail address', async () => {
    const [id] = paid;
    const add = (note: string) => noor.ask('POST', `/journal/sales/${id}/notes`, { note });
    expect((await add('Strap was promised for Thursday')).status).toBe(200);
    expect((await add('  ')).status).toBe(422);
    expect((await noor.ask('POST', `/journal/sales/${newId()}/notes`, { note: 'x' })).status).toBe(404);
    await noor.ask('POST', `/journal/sales/${id}/sent`, { by: 'mail', to: 'Ada@Reader.example' });
    const { body } = await noor.ask<JournalSale>('GET', `/journal/sales/${id}`);
    expect(body.afterwards.notes).toMatchObject([{ note: 'Strap was promised for Thursday', by: 'Noor A.' }]);
    expect(body.sent).toMatchObject([{ recipient: 'Ada@Reader.example' }]);
    const found = async (words: string) =>
      (await noor.ask<JournalPage>('GET', `/journal/sales?find=${encodeURIComponent(words)}`)).body.rows.map(
        (row) => row.id,
      );
    expect(await found('promised thurs')).toEqual([id]);
    expect(await found('ada@reader.example')).toEqual([id]);
    // What means something to the database is only text.
    for (const odd of ["o'clock & !", 'a\\b', '%', '_da@reader', ':*', '<->']) {
      expect(await found(odd)).toEqual([]);
    }
  });

  it('prints a copy that says so', async () => {
    const printed = new Promise<void>((resolve) => {
      const tell = test.house.events.tell;
      test.house.events.tell = (event) => {
        tell(event);
        if (event.kind === 'printed' && event.saleId === paid[0]) resolve();
      };
    });
    expect((await noor.ask('POST', `/journal/sales/${paid[0]}/reprints`)).status).toBe(200);
    await printed;
    const { body } = await noor.ask<{ text: string; openedDrawer: boolean }[]>('GET', '/printer/papers');
    expect(body[0]?.text).toContain('COPY');
    expect(body[0]?.openedDrawer).toBe(false);
    expect((await noor.ask<JournalSale>('GET', `/journal/sales/${paid[0]}`)).body.printedAt).not.toBeNull();
  });

  it('gives a receipt as document, text and PDF', async () => {
    const text = await noor.ask<string>('GET', `/journal/sales/${paid[0]}/receipt.txt`);
    expect(text.body).toContain('Total USD                           461.18');
    const pdf = await noor.ask<string>('GET', `/journal/sales/${paid[0]}/receipt.pdf`);
    expect(pdf.headers.get('content-type')).toContain('application/pdf');
    expect((await noor.ask('GET', '/journal/sales/none')).status).toBe(404);
    expect((await noor.ask('GET', '/journal/sales/6a2f5c1e-2f0b-4f6f-9f58-0e6a4b0f8f11')).status).toBe(404);
  });
});

describe('the catalogue of a till', () => {
  it('comes whole, then only what has changed', async () => {
    const { body: whole } = await noor.ask<Catalogue>('GET', '/goods/catalogue');
    expect(whole).toMatchObject({ whole: true, removed: [] });
    expect(whole.items.find(([, number]) => number === 'CLA-0220')?.[4]).toBe(42_900);
    const after = `/goods/catalogue?since=${whole.revision}&origin=${whole.origin}`;
    expect((await noor.ask<Catalogue>('GET', after)).body.items).toEqual([]);
    await test.house.database.ask((sql) => sql.query("update item set price = 1 where number = 'MET-C'"));
    await test.house.database.ask((sql) =>
      sql.query("update item set active = false where number = 'MET-P'"),
    );
    const { body: changed } = await noor.ask<Catalogue>('GET', after);
    expect(changed.items.map(([, number, , , price]) => [number, price])).toEqual([['MET-C', 1]]);
    expect(changed.removed).toHaveLength(1);
  });
});

describe('an item', () => {
  it('shows stock at every place, codes, and every price it has had', async () => {
    const [row] = await test.house.database.ask((sql) =>
      sql.query<{ id: number }>("select id from item where number = 'STA-ORCH'"),
    );
    await test.house.database.ask((sql) =>
      sql.query("update item set price = 6900 where number = 'STA-ORCH'"),
    );
    const { body } = await noor.ask<ItemFacts>('GET', `/goods/items/${row?.id}`);
    expect(body.stock.map(({ place, here }) => [place, here])[0]).toEqual(['Ostler Lane', true]);
    expect(body.stock).toHaveLength(3);
    expect(body.prices.map(({ price }) => price)).toEqual([6900, 5900]);
    expect(body.codes).toHaveLength(1);
    expect((await noor.ask('GET', '/goods/items/x')).status).toBe(404);
    expect((await noor.ask('GET', '/goods/items/99999999999')).status).toBe(404);
  });

  it('that is a service has no stock', async () => {
    const [row] = await test.house.database.ask((sql) =>
      sql.query<{ id: number }>("select id from item where number = 'LES-30'"),
    );
    expect((await noor.ask<ItemFacts>('GET', `/goods/items/${row?.id}`)).body.stock).toEqual([]);
  });
});

describe('verify', () => {
  it('finds a kept figure that its events do not make', async () => {
    const { database } = test.house;
    expect(await database.ask(verify)).toEqual([]);
    await database.ask((sql) =>
      sql.query("update account_balance set balance = balance + 1 where account = 'cash'"),
    );
    await database.ask((sql) => sql.query('update till set next_receipt = next_receipt + 1 where id = 1'));
    const found = (await database.ask(verify)).map(({ check }) => check);
    expect(found).toEqual([
      'kept account balances are the sums of their entries',
      'receipt numbers of a till run without gaps',
      "a drawer's cash account is what its shift expects",
    ]);
  });
});
