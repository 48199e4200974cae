import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Catalogue, CatalogueRow, ItemFacts, StockedSerial } from '../../contract/goods.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { BasketLine } from '../../core/counter/basket.ts';
import { checkDigit } from '../../core/goods/barcode.ts';
import { verify } from '../books/verify.ts';
import { allItems } from './store.ts';
import { approveNeeded } from '../testing/returning.ts';
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

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  teo = test.browser();
  maren = test.browser();
  await noor.signIn('1357', 1);
  await teo.signIn('2468', 2);
  await maren.signIn('3690', 3);
  for (const browser of [noor, teo]) await openDrawer(browser);
});
afterAll(async () => {
  expect(await test.house.database.ask(verify)).toEqual([]);
  await test.stop();
});

const catalogue = async (since = 0, origin = '') =>
  (await noor.ask<Catalogue>('GET', `/goods/catalogue?since=${since}&origin=${origin}`)).body;
const rowOf = async (number: string) => {
  const row = (await catalogue()).items.find(([, one]) => one === number);
  if (!row) throw new Error(`no ${number}`);
  return row;
};
const idOf = async (number: string) => (await rowOf(number))[0];

/** A sale of one item with something special about its line, at the total that the till would show. */
async function special(number: string, line: Partial<BasketLine>, total: number) {
  const sale = await ringUp(test, [number]);
  const [only] = sale.basket.lines;
  if (!only) throw new Error(`no ${number}`);
  return {
    basket: { ...sale.basket, lines: [{ ...only, ...line }] },
    expectedTotal: total,
    handed: Math.max(total, 0),
  };
}
it('the whole catalogue is read in parts: nothing is missing, there twice or out of order', async () => {
  const { items } = await catalogue();
  const inParts = async (atATime: number) =>
    JSON.parse(await test.house.database.ask((sql) => allItems(sql, 1, atATime))) as CatalogueRow[];
  expect(items.length).toBeGreaterThan(500);
  expect(new Set(items.map(([id]) => id)).size).toBe(items.length);
  expect(await inParts(7)).toEqual(items);
  expect(await inParts(items.length)).toEqual(items);
});

const problemOf = ({ body }: { body: unknown }) => body as ProblemDetails;

describe(`goods that ask, on ${ENGINE}`, () => {
  it('travel to the till with what they ask: variants, parts, serials, age, note', async () => {
    const [family, ...rest] = [await rowOf('BAG-GU'), await rowOf('BAG-GU-1BK')];
    expect(family[10]).toMatchObject({ kind: 'family', axes: ['Size', 'Colour'] });
    expect(rest[0]?.[10]).toMatchObject({ familyId: family[0], variant: ['1/2', 'black'] });
    expect((await rowOf('BUN-RC'))[10]?.parts).toEqual([
      { itemId: await idOf('STA-FOLD-BK'), quantity: 1000 },
      { itemId: await idOf('MUS-RP1I'), quantity: 1000 },
      { itemId: await idOf('MET-P'), quantity: 1000 },
    ]);
    expect((await rowOf('CLA-0510'))[10]).toMatchObject({ serials: true });
    expect((await rowOf('CAR-RK'))[10]).toMatchObject({ minAge: 18 });
    expect((await rowOf('ENG'))[10]).toMatchObject({ asksNote: 'Which words?' });
    expect((await rowOf('MET-C'))[10]?.kind).toBeUndefined();
  });

  it('have pictures that may run nothing', async () => {
    const { body: facts } = await noor.ask<ItemFacts>('GET', `/goods/items/${await idOf('MET-C')}`);
    const answer = await noor.ask<string>('GET', `/goods/pictures/${facts.picture ?? 0}`);
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'image/svg+xml']);
    expect(answer.headers.get('content-security-policy')).toBe('sandbox');
    expect(answer.body).toContain('<svg');
    expect((await noor.ask('GET', '/goods/pictures/99999')).status).toBe(404);
  });

  it('with serial numbers leave once: of two tills, one sells the unit and the other is told', async () => {
    const id = await idOf('CLA-0510');
    const { body: stocked } = await noor.ask<StockedSerial[]>('GET', `/goods/items/${id}/serials`);
    const unit = stocked.find(({ here }) => here);
    if (!unit) throw new Error('none in stock');
    const refused = await pay(noor, await ringUp(test, ['CLA-0510']));
    expect([refused.status, problemOf(refused).title]).toEqual([
      422,
      'Kestrel clarinet, K-510 wood needs its serial number. Remove the line and ring it up again.',
    ]);
    const sale = () => special('CLA-0510', { serial: unit.serial }, 97_718);
    const answers = await Promise.all([pay(noor, await sale()), pay(teo, await sale())]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    const lost = answers.find(({ status }) => status === 409);
    expect(lost && problemOf(lost)).toMatchObject({
      type: 'serial-gone',
      title: `Kestrel clarinet, K-510 wood ${unit.serial} was sold before. Nothing was taken.`,
    });
    const { body: left } = await noor.ask<StockedSerial[]>('GET', `/goods/items/${id}/serials`);
    expect(left.map(({ serial }) => serial)).not.toContain(unit.serial);
    expect((await pay(noor, await special('CLA-0510', { serial: 'NOT-LISTED-1' }, 97_718))).status).toBe(200);
  });

  it('are refused without the age check, and families and bundles themselves', async () => {
    const knife = await special('CAR-RK', {}, 3752);
    expect((await pay(noor, knife)).status).toBe(422);
    expect((await pay(noor, await special('CAR-RK', { ageChecked: true }, 3752))).status).toBe(200);
    for (const number of ['BAG-GU', 'BUN-RC']) {
      const itself = await special('MET-C', { itemId: await idOf(number) }, 4838);
      expect(problemOf(await pay(noor, itself)).title).toContain('cannot be sold itself');
    }
  });

  it('with a label sell for what the server reads on it, whatever the page says', async () => {
    const code = (digits: string) => digits + checkDigit(digits);
    const felt = code('270041701250');
    const honest = await special('FELT', { label: { code: felt, amount: 2250 }, quantity: 1250 }, 2419);
    expect((await pay(noor, honest)).body.total).toBe(2419);
    const cheap = await special('FELT', { label: { code: felt, amount: 1 }, quantity: 1 }, 1);
    expect(problemOf(await pay(noor, cheap))).toMatchObject({
      type: 'figures-differ',
      data: { basket: { lines: [{ label: { amount: 2250 }, quantity: 1250 }] }, priced: { total: 2419 } },
    });
    const other = await special('MUS-2ND', { label: { code: felt, amount: 2250 } }, 2306);
    expect(problemOf(await pay(noor, other)).title).toContain('label of Second-hand music cannot be read');
    const music = code('280005200640');
    const priced = await special('MUS-2ND', { label: { code: music, amount: 640 }, listPrice: 640 }, 656);
    expect((await pay(noor, priced)).body.total).toBe(656);
  });
});

describe(`codes that nobody knows, on ${ENGINE}`, () => {
  it('are tied to an item by somebody who may, and all tills hear of it', async () => {
    const id = await idOf('MET-C');
    const tie = (browser: Browser, code: string, key = newKey()) =>
      browser.ask<ProblemDetails>('POST', `/goods/items/${id}/codes`, { code }, { 'idempotency-key': key });
    expect((await tie(noor, 'ABC-4711')).status).toBe(403);
    const { revision, origin } = await catalogue();
    const key = newKey();
    expect((await tie(maren, 'ABC-4711', key)).status).toBe(200);
    expect((await tie(maren, 'ABC-4711', key)).status).toBe(200);
    const { items, whole } = await catalogue(revision, origin);
    expect(whole).toBe(false);
    expect(items.map(([one, , , , , , , , , codes]) => [one, codes.includes('ABC-4711')])).toEqual([
      [id, true],
    ]);
    const again = await tie(maren, 'ABC-4711');
    expect([again.status, again.body.title]).toEqual([422, 'ABC-4711 means Metronome, clip-on already.']);
    expect((await tie(maren, 'PIC-M')).body.title).toContain('means Pick, medium already');
  });

  it('become new items, which can be sold at once', async () => {
    const [, , , , , , , tax = 0] = await rowOf('MET-C');
    const item = { code: '2099000000012', name: 'Kazoo', price: 250, category: 'Toys', taxCategoryId: tax };
    const add = (body: object) => maren.ask<ProblemDetails>('POST', '/goods/items', body);
    expect((await add({ ...item, name: ' ' })).body.fields?.[0]?.field).toBe('name');
    expect((await add(item)).status).toBe(200);
    expect((await add(item)).body.title).toBe('2099000000012 means Kazoo already.');
    expect((await pay(noor, await ringUp(test, [item.code]))).body.total).toBe(269);
  });
});

describe(`what comes back without its receipt, on ${ENGINE}`, () => {
  const back = (returnCountersign?: string) => ({
    quantity: -1000,
    ...(returnCountersign && { returnCountersign }),
  });

  it('needs somebody who may, and goods that are taken instead', async () => {
    const sale = await ringUp(test, ['PIC-M', 'STA-ORCH']);
    const [pick, stand] = sale.basket.lines;
    if (!pick || !stand) throw new Error('no lines');
    const lines = [{ ...pick, ...back() }, stand];
    const exchange = { basket: { ...sale.basket, lines }, expectedTotal: 6278, handed: 6278 };
    const refused = await pay(noor, exchange);
    expect(refused.status).toBe(403);
    const countersign = await approveNeeded(noor, refused);
    const approved = {
      ...exchange,
      basket: { ...sale.basket, lines: [{ ...pick, ...back(countersign) }, stand] },
    };
    expect((await pay(noor, approved)).body.total).toBe(6278);
    const only = {
      basket: { ...sale.basket, id: newKey(), lines: [{ ...pick, ...back() }] },
      expectedTotal: -65,
      handed: 0,
    };
    expect([422, 403]).toContain((await pay(noor, { ...only, expectedTotal: 0 })).status);
  });

  it('is worth the lowest price of the last ninety days', async () => {
    const id = await idOf('TUN-C');
    const worth = async () =>
      (await noor.ask<{ price: number }>('GET', `/goods/items/${id}/return-price`)).body.price;
    expect(await worth()).toBe(1690);
    await test.house.database.write((sql) => sql.query('update item set price = 990 where id = $1', [id]));
    await test.house.database.write((sql) => sql.query('update item set price = 1990 where id = $1', [id]));
    expect(await worth()).toBe(990);
    const sale = await ringUp(test, ['TUN-C', 'STA-ORCH']);
    const [tuner, stand] = sale.basket.lines;
    if (!tuner || !stand) throw new Error('no lines');
    const exchange = (browser: Browser) =>
      pay(browser, {
        basket: { ...sale.basket, lines: [{ ...tuner, ...back() }, stand] },
        expectedTotal: 4203,
        handed: 4203,
      });
    const own = test.browser();
    await own.signIn('3690', 1);
    const differ = problemOf(await exchange(own));
    expect(differ).toMatchObject({ type: 'figures-differ', data: { priced: { total: 5278 } } });
  });
});

const place = (items: CatalogueRow[], number: string) => items.findIndex(([, one]) => one === number);

describe(`the catalogue of a till, on ${ENGINE}`, () => {
  it('is read whole where the till knows another history, or more than there is', async () => {
    const { revision, origin, items } = await catalogue();
    for (const asked of [catalogue(revision), catalogue(revision + 1, origin), catalogue(0, origin)]) {
      const { whole, items: all } = await asked;
      expect([whole, all.length]).toEqual([true, items.length]);
    }
    expect(await catalogue(revision, origin)).toEqual({
      origin,
      revision,
      whole: false,
      items: [],
      removed: [],
    });
  });

  it('begins with what is on the shelves and what was sold lately', async () => {
    const first = async () =>
      (await noor.ask<Catalogue['items']>('GET', '/counter/first-items')).body.map(([, number]) => number);
    const { items } = await catalogue();
    const before = await first();
    expect(before).toContain('LES-30');
    const asksNothing = ([, , , , price, , decimals, , , , more]: CatalogueRow) =>
      price && decimals === 0 && !more?.kind && !more?.serials && !more?.minAge && !more?.asksNote;
    const seldom = items.find((row) => asksNothing(row) && !before.includes(row[1]))?.[1] ?? '';
    expect((await pay(noor, await ringUp(test, [seldom]))).status).toBe(200);
    expect(await first()).toEqual([...before, seldom].sort((a, b) => place(items, a) - place(items, b)));
  });

  it('says how much lies at the place of the till', async () => {
    const levels = new Map((await noor.ask<[number, number][]>('GET', '/goods/stock')).body);
    const { items } = await catalogue();
    const kept = items.filter((item) => item[8] !== null);
    expect([...levels]).toHaveLength(kept.length);
    for (const [id, , , , , , , , stock] of kept) expect(levels.get(id)).toBe(stock);
  });
});
