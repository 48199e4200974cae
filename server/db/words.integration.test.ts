import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { StoredValuePage } from '../../contract/giftCards.ts';
import type { ReportAnswer } from '../../contract/figures.ts';
import type { SetupChange } from '../../contract/setup.ts';
import type { OrdersPage, SupplierRow } from '../../contract/supply.ts';
import { fold } from '../../core/words.ts';
import { addSomebody } from '../testing/people.ts';
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
beforeAll(async () => {
  test = await openHouse();
  isolde = test.browser();
  await isolde.signIn('8024', 2);
  await openDrawer(isolde);
  const holder = await addSomebody(isolde, 'Zoë Łukasik');
  await test.house.database.write(async (sql) => {
    await sql.query("update supplier set name = 'Größe & Söhne' where id = (select min(id) from supplier)");
    await sql.query("update item set name = 'Ständer Élan' where number = 'STA-ORCH'");
    await sql.query("update staff set name = 'Íñigo R.' where name = 'Isolde R.'");
    await sql.query(
      `update stored_value set customer_id = $1, mail = 'zoe.l@post.example'
       where id = (select min(id) from stored_value where kind = 'gift-card')`,
      [holder],
    );
  });
  expect((await pay(isolde, await ringUp(test, ['STA-ORCH']))).status).toBe(200);
  expect(
    (await isolde.ask('POST', '/setup/staff', { name: 'Newcomer', role: 'cashier', pin: '5551' })).status,
  ).toBe(200);
});
afterAll(() => test.stop());

const asked = encodeURIComponent;
const LISTS: readonly [what: string, name: string, found: (find: string) => Promise<string[]>][] = [
  [
    'suppliers',
    'Größe & Söhne',
    async (find) =>
      (await isolde.ask<SupplierRow[]>('GET', `/supply/suppliers?find=${asked(find)}`)).body.map(
        ({ name }) => name,
      ),
  ],
  [
    'orders',
    'Größe & Söhne',
    async (find) => {
      const { body } = await isolde.ask<OrdersPage>('GET', `/supply/orders?show=all&find=${asked(find)}`);
      return [...new Set(body.orders.map(({ supplier }) => supplier))];
    },
  ],
  [
    'figures of goods',
    'Ständer Élan',
    async (find) => {
      const days = 'from=2026-03-02&to=2026-03-02&compare=none&place=0&till=0';
      const { body } = await isolde.ask<ReportAnswer>(
        'GET',
        `/figures/reports/items?${days}&find=${asked(find)}`,
      );
      return body.rows.map(({ name }) => name);
    },
  ],
  [
    'certificates and cards',
    'Zoë Łukasik',
    async (find) => {
      const search = { find, kind: '', state: '', page: 0 };
      const { body } = await isolde.ask<StoredValuePage>('POST', '/gift-cards/search', search);
      return body.rows.map(({ customer }) => customer ?? '');
    },
  ],
  [
    'changes of settings',
    'Íñigo R.',
    async (find) => [
      ...new Set(
        (await isolde.ask<SetupChange[]>('GET', `/setup/changes?find=${asked(find)}`)).body.map(
          ({ who }) => who,
        ),
      ),
    ],
  ],
];

describe.each(LISTS)(`%s on ${ENGINE}`, (_what, name, found) => {
  it('are found however they are written', async () => {
    const begun = name.split(' ').map((word) => word.slice(0, 3));
    const ways = [
      name,
      name.toUpperCase(),
      fold(name),
      name.normalize('NFD'),
      name.slice(0, 3),
      begun.toReversed().join(' '),
    ];
    for (const way of ways) expect([way, await found(way)]).toEqual([way, [name]]);
  });

  it('are not found by signs that stand for anything elsewhere', async () => {
    for (const sign of ['%', '_', '\\', '%%', "'"]) expect([sign, await found(sign)]).toEqual([sign, []]);
  });
});

describe(`a text as it is compared, on ${ENGINE}`, () => {
  it('is the same in the database and out of it, for all letters of Europe', async () => {
    const letters = Array.from({ length: 0x17f - 0xc0 + 1 }, (_, at) =>
      String.fromCodePoint(0xc0 + at),
    ).filter((letter) => /\p{L}/u.test(letter));
    const rows = await test.house.database.ask((sql) =>
      sql.query<{ letter: string; folded: string }>(
        'select letter, folded(letter) from unnest($1::text[]) as letter',
        [letters],
      ),
    );
    expect(rows.filter(({ letter, folded }) => folded !== fold(letter))).toEqual([]);
  });
});
