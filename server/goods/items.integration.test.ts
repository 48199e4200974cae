import { PNG } from 'pngjs';
import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  Catalogue,
  GoodsPage,
  ItemPage,
  ManyEffect,
  PickedItem,
  WantedItem,
} from '../../contract/goods.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { ItemSupply } from '../../contract/supply.ts';
import { ownEan13 } from '../../core/goods/barcode.ts';
import { MOST_AT_ONCE } from '../../core/goods/manyItems.ts';
import { NEW_ITEM } from '../../core/goods/itemRecord.ts';
import { ONE } from '../../core/quantity.ts';
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
import { beginDay } from './pricesToCome.ts';

let test: TestHouse;
let noor: Browser;
let maren: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  [noor, maren, isolde] = [test.browser(), test.browser(), test.browser()];
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  await maren.signIn('3690', 2);
  await isolde.signIn('8024', 3);
});
afterAll(() => test.stop());

type Answered<T> = T & ProblemDetails;
const list = async (query = '') => (await maren.ask<GoodsPage>('GET', `/goods/list?${query}`)).body;
const numbers = async (query: string) => (await list(query)).rows.map(({ number }) => number);
const idOf = async (number: string) => {
  const row = (await list(`state=&find=${number}`)).rows.find((one) => one.number === number);
  if (!row) throw new Error(`no ${number}`);
  return row.id;
};
const look = async (id: number, by = maren) =>
  (await by.ask<ItemPage>('GET', `/goods/items/${id}/page`)).body;
const change = async (id: number, fields: Partial<WantedItem>, by = maren, version?: number) => {
  const page = await look(id);
  return by.ask<Answered<ItemPage>>('PUT', `/goods/items/${id}`, {
    record: { ...page.record, ...fields },
    version: version ?? page.version,
  });
};
const wrong = ({ body }: { body: ProblemDetails }) =>
  Object.fromEntries((body.fields ?? []).map(({ field, message }) => [field, message]));
let taxCategoryId = 0;
const fresh = async (fields: Partial<WantedItem>, stock = 0, by = maren) => {
  taxCategoryId ||= (await look(await idOf('MET-C'))).record.taxCategoryId;
  const record = { ...NEW_ITEM, category: 'Accessories', taxCategoryId, ...fields };
  return by.ask<Answered<{ id: number }>>('POST', '/goods/items/new', { record, stock });
};
const catalogue = async (since = 0, origin = '') =>
  (await noor.ask<Catalogue>('GET', `/goods/catalogue?since=${since}&origin=${origin}`)).body;

describe(`the list of goods on ${ENGINE}`, () => {
  it('finds by words, number, code and tag, and sorts and counts', async () => {
    expect(await numbers('find=metronome+clip')).toEqual(['MET-C', 'TUN-C']);
    expect((await numbers('find=met-c'))[0]).toBe('MET-C');
    const { record } = await look(await idOf('MET-C'));
    expect(await numbers(`find=${record.codes[0] ?? ''}`)).toEqual(['MET-C']);
    const all = await list();
    expect([all.rows.length, all.count > 200]).toEqual([50, true]);
    const names = all.rows.map(({ name }) => name);
    expect(names).toEqual(names.toSorted((a, b) => (a < b ? -1 : 1)));
    const dear = (await list('sort=price')).rows.map(({ price }) => price ?? 0);
    expect(dear).toEqual(dear.toSorted((a, b) => b - a));
    const second = await list('page=1');
    expect(second.rows.map(({ id }) => id)).not.toContain(all.rows[0]?.id);
    // Money is no goods.
    for (const number of ['DEPOSIT', 'GIFT', 'ON-ACCOUNT'])
      expect(await numbers(`find=${number}`)).toEqual([]);
  });

  it('is narrowed by category, tax, state and what is missing', async () => {
    const { categories, rows } = await list('find=MET-C');
    const own = categories.find(({ name }) => name === rows[0]?.category)?.id ?? 0;
    const inside = await list(`category=${own}`);
    expect(new Set(inside.rows.map(({ category }) => category))).toEqual(new Set([rows[0]?.category]));
    for (const row of (await list('out=yes')).rows) expect(row.here).toBeLessThanOrEqual(0);
    for (const row of (await list('noPrice=yes')).rows)
      expect([row.price, row.kind]).toEqual([null, 'goods']);
    const { count } = await list('noCode=yes');
    expect(count).toBeGreaterThan(0);
    expect(count).toBeLessThan((await list()).count);
  });

  it('is narrowed to a supplier and to what is below its reorder point here; costs are for those who may see them', async () => {
    const id = await idOf('MET-C');
    const made = await maren.ask<{ id: number }>('POST', '/supply/suppliers', { name: 'List & Co' });
    const source = {
      supplierId: made.body.id,
      theirNumber: 'L-1',
      cost: null,
      pack: 1_000,
      least: 0,
      first: true,
    };
    expect((await maren.ask('POST', `/supply/items/${id}/suppliers`, source)).status).toBe(200);
    const found = await list(`supplier=${made.body.id}`);
    expect(found.rows.map(({ number, supplier, cost }) => [number, supplier, cost])).toEqual([
      ['MET-C', 'List & Co', null],
    ]);
    expect(found.suppliers).toContainEqual({ id: made.body.id, name: 'List & Co' });
    const costs = await isolde.ask<GoodsPage>('GET', `/goods/list?supplier=${made.body.id}`);
    expect(costs.body.rows[0]?.cost).toBeGreaterThan(0);
    expect(await numbers('below=yes&find=MET-C')).toEqual([]);
    const placeId = (await look(id)).stock.find(({ here }) => here)?.placeId ?? 0;
    const { reorder: had } = (await maren.ask<ItemSupply>('GET', `/supply/items/${id}`)).body;
    const seen = had.find((at) => at.placeId === placeId);
    const reorder = { placeId, point: 900_000, target: 950_000, seen };
    expect((await maren.ask('PUT', `/supply/items/${id}/reorder`, reorder)).status).toBe(200);
    expect(await numbers('below=yes&find=MET-C')).toEqual(['MET-C']);
  });

  it('is for those who look after goods', async () => {
    const refused = await noor.ask('GET', '/goods/list');
    expect(refused.status).toBe(403);
    expect((await noor.ask('GET', `/goods/items/${await idOf('MET-C')}/page`)).status).toBe(403);
    expect((await maren.ask('GET', '/goods/items/999999/page')).status).toBe(404);
    expect((await maren.ask('GET', '/goods/list?sort=colour')).status).toBe(422);
  });
});

describe(`an item on ${ENGINE}`, () => {
  it('is added, sellable at once on every till, and found by what it is', async () => {
    const { revision, origin } = await catalogue();
    const code = ownEan13(23, 1);
    const { status, body } = await fresh(
      { number: 'kaz-1', name: 'Kazoo, tin', price: 250, codes: [code], tags: ['fun', 'brass'] },
      12_000,
    );
    expect(status).toBe(200);
    const { items } = await catalogue(revision, origin);
    expect(items.map(([id, number]) => [id, number])).toEqual([[body.id, 'KAZ-1']]);
    const page = await look(body.id);
    expect(page).toMatchObject({
      record: { number: 'KAZ-1', price: 250, codes: [code], tags: ['brass', 'fun'] },
      moved: true,
      moves: [{ reason: 'opening', quantity: 12_000 }],
      changes: [{ what: 'Added', became: 'Kazoo, tin', who: 'Maren K.' }],
    });
    expect(page.stock.filter(({ onHand }) => onHand > 0)).toMatchObject([{ here: true, onHand: 12_000 }]);
    for (const find of ['kazoo', 'KAZ-1', code, 'fun'])
      expect((await numbers(`find=${find}`))[0]).toBe('KAZ-1');
    expect(await numbers('tag=fun')).toEqual(['KAZ-1']);
    const sale = await ringUp(test, ['KAZ-1']);
    expect((await pay(noor, { ...sale, handed: sale.expectedTotal })).status).toBe(200);
    expect((await look(body.id)).months).toMatchObject([{ quantity: 1000, net: 250 }]);
  });

  it('is refused next to what is wrong, and nothing is stored', async () => {
    const code = (await look(await idOf('MET-C'))).record.codes[0] ?? '';
    const before = (await list('state=')).count;
    expect(wrong(await fresh({ number: 'MET-C', name: 'Another', price: 1 }))).toEqual({
      'record.number': 'MET-C means Metronome, clip-on already.',
    });
    expect(wrong(await fresh({ number: 'NEW-1', name: 'Another', price: 1, codes: [code] }))).toEqual({
      'record.codes': `${code} means Metronome, clip-on already.`,
    });
    expect(wrong(await fresh({ number: '', name: ' ', price: 1 }))).toMatchObject({
      'record.number': 'What number has it?',
      'record.name': 'What is it called?',
    });
    expect(wrong(await fresh({ number: 'NEW-2', name: 'Odd', serials: true, decimals: 2 }))).toHaveProperty([
      'record.decimals',
    ]);
    expect((await fresh({ number: 'NEW-3', name: 'Odd', price: 1 }, 0, noor)).status).toBe(403);
    expect((await list('state=')).count).toBe(before);
  });

  it('keeps who changed what, and refuses what somebody else changed meanwhile', async () => {
    const id = await idOf('PIC-M');
    const { version } = await look(id);
    const { body } = await change(id, {
      name: 'Pick, middle',
      price: 65,
      tags: ['guitar'],
      category: 'Plectra',
    });
    expect(body.record).toMatchObject({ name: 'Pick, middle', price: 65, category: 'Plectra' });
    expect(body.changes.map(({ what, was, became }) => [what, was, became])).toEqual(
      expect.arrayContaining([
        ['Name', 'Pick, medium', 'Pick, middle'],
        ['Price', '0.60', '0.65'],
        ['Tags', '', 'guitar'],
      ]) as unknown,
    );
    expect(body.prices[0]?.price).toBe(65);
    const late = await change(id, { name: 'Pick' }, isolde, version);
    expect([late.status, late.body.type]).toEqual([409, 'changed-meanwhile']);
    // What is saved as it was is no change.
    const same = await change(id, {});
    expect([same.status, same.body.version]).toEqual([200, body.version]);
    expect((await change(id, { price: 60, name: 'Pick, medium', tags: [] })).status).toBe(200);
  });

  it('that has moved is counted as it was; with stock, it is kept in stock', async () => {
    const id = await idOf('MET-C');
    expect(wrong(await change(id, { unit: 'm', decimals: 1 }))).toEqual({
      'record.unit': 'It has moved already: how it is counted stands.',
      'record.decimals': 'It has moved already: how it is counted stands.',
    });
    expect(wrong(await change(id, { stocked: false }))).toEqual({
      'record.stocked': 'There is stock of it: take that out first.',
    });
    const family = await idOf('BAG-GU');
    expect(wrong(await change(family, { price: 100 }))).toEqual({
      'record.price': 'A family has no price of its own.',
    });
    expect((await look(family)).contains.length).toBeGreaterThan(2);
  });

  it('that is not sold any more is gone from the tills, and comes back', async () => {
    const { body } = await fresh({ number: 'GONE-1', name: 'Going', price: 100 });
    const { revision, origin } = await catalogue();
    expect((await change(body.id, { active: false })).status).toBe(200);
    const after = await catalogue(revision, origin);
    expect(after.removed).toEqual([body.id]);
    expect(await numbers('find=GONE-1')).toEqual([]);
    expect(await numbers('find=GONE-1&state=ended')).toEqual(['GONE-1']);
    expect((await change(body.id, { active: true })).status).toBe(200);
    expect((await catalogue(after.revision, origin)).items.map(([id]) => id)).toEqual([body.id]);
  });

  it('has pictures, told by what is in them, in an order; the first is the one that tills show', async () => {
    const id = await idOf('MET-C');
    const at = `/goods/items/${id}/pictures`;
    const png = (width: number) => PNG.sync.write(new PNG({ width, height: 2 })).toString('base64');
    const add = (content: string, instead: number | null = null) =>
      maren.ask<Answered<ItemPage>>('POST', at, { content, instead });
    const had = (await maren.ask<ItemPage>('GET', `/goods/items/${id}/page`)).body.pictures;
    await maren.ask('PUT', at, { pictures: [], seen: had });
    const one = (await add(png(3))).body.pictures[0] ?? 0;
    const two = (await add(png(4))).body.pictures[1] ?? 0;
    const { body } = await maren.ask<ItemPage>('PUT', at, { pictures: [two, one], seen: [one, two] });
    expect(body.pictures).toEqual([two, one]);
    expect(body.changes[0]).toMatchObject({ what: 'Pictures, their order', who: 'Maren K.' });
    const shown = (await catalogue()).items.find(([, number]) => number === 'MET-C')?.[10]?.picture;
    expect(shown).toBe(two);
    const turned = (await add(png(5), two)).body.pictures;
    expect([turned.length, turned[1], turned[0] !== two]).toEqual([2, one, true]);
    // What nothing shows any more is not kept.
    expect((await maren.ask('GET', `/goods/pictures/${two}`)).status).toBe(404);
    expect((await maren.ask('GET', `/goods/pictures/${one}`)).headers.get('content-type')).toBe('image/png');
    const drawing = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>').toString('base64');
    const no = { content: 'This is no picture that can be kept: only JPEG and PNG can.' };
    expect(wrong(await add(drawing))).toEqual(no);
    expect(wrong(await add('aGVsbG8='))).toEqual(no);
    expect(wrong(await add('no base64!'))).toEqual({ content: 'This is no picture.' });
    expect(wrong(await add(png(1_601)))).toEqual({ content: 'At most 1600 dots wide and high.' });
    expect((await add(png(3), two)).status).toBe(409);
    expect((await maren.ask('PUT', at, { pictures: [one, one], seen: turned })).status).toBe(409);
    expect((await noor.ask('POST', at, { content: png(3) })).status).toBe(403);
    // One that another person adds meanwhile is not taken away with those that were looked at.
    const [theirs = 0] = (await add(png(6))).body.pictures.slice(-1);
    const order = { pictures: [one], seen: turned };
    expect((await maren.ask('PUT', at, order)).status).toBe(409);
    expect((await maren.ask('GET', `/goods/pictures/${theirs}`)).status).toBe(200);
    const again = { pictures: [one], seen: [...turned, theirs] };
    expect((await maren.ask<ItemPage>('PUT', at, again)).body.pictures).toEqual([one]);
  });

  it('has lower prices for groups', async () => {
    const id = await idOf('MET-C');
    const page = (await change(id, { groupPrices: [{ group: 'Teachers', price: 2000 }] })).body;
    expect(page.record.groupPrices).toEqual([{ group: 'Teachers', price: 2000 }]);
    expect((await change(id, { groupPrices: [] })).body.record.groupPrices).toEqual([]);
  });
});

describe(`prices from a day on, on ${ENGINE}`, () => {
  it('wait for their day, and count from then on, on every till', async () => {
    const { body } = await fresh({ number: 'COMES-1', name: 'Comes', price: 100 });
    const put = (from: string, price: number) =>
      maren.ask<Answered<ItemPage>>('POST', `/goods/items/${body.id}/prices`, { from, price });
    expect(wrong(await put('2026-03-02', 120))).toEqual({
      from: 'A price that is to come begins tomorrow or later.',
    });
    expect((await put('2026-03-05', 120)).body.toCome).toEqual([
      { from: '2026-03-05', price: 120, by: 'Maren K.' },
    ]);
    await put('2026-03-05', 130);
    await put('2026-04-01', 150);
    await put('2026-05-01', 170);
    const dropped = await maren.ask<ItemPage>('DELETE', `/goods/items/${body.id}/prices/2026-05-01`);
    expect(dropped.body.toCome.map(({ price }) => price)).toEqual([130, 150]);
    expect((await maren.ask('DELETE', `/goods/items/${body.id}/prices/2026-05-01`)).status).toBe(404);
    const { revision, origin } = await catalogue();
    const begin = (day: string) =>
      test.house.database.write((sql) => beginDay(sql, new Date(`${day}T05:30:00Z`)));
    expect(await begin('2026-03-05')).toBe(1);
    expect(await begin('2026-03-05')).toBe(0);
    expect((await catalogue(revision, origin)).items.map(([, , , , price]) => price)).toEqual([130]);
    const page = await look(body.id);
    expect([page.record.price, page.toCome.length, page.changes[0]]).toMatchObject([
      130,
      1,
      { what: 'Price', was: '1.00', became: '1.30', who: '' },
    ]);
    // The shop was closed on the day itself.
    expect(await begin('2026-04-07')).toBe(1);
    expect((await look(body.id)).record.price).toBe(150);
  });
});

describe(`many items on ${ENGINE}`, () => {
  const many = async (finds: readonly string[], what: object, path = '') => {
    const items = [];
    for (const find of finds) {
      const { id, version } = await look(await idOf(find));
      items.push({ id, version });
    }
    const none = {
      category: null,
      taxCategoryId: null,
      addTags: [],
      dropTags: [],
      active: null,
      price: null,
    };
    return maren.ask<Answered<ManyEffect[] & { changed: number }>>('POST', `/goods/changes${path}`, {
      items,
      change: { ...none, ...what },
    });
  };
  const dearer = { by: 'percent', amount: 0, rate: 100_000, ending: 90, from: '' };

  it('are changed as it was said before: prices by a part, to an ending; what cannot stays', async () => {
    const said = (
      await many(['MET-C', 'PIC-M', 'BAG-GU'], { price: dearer, addTags: ['sale'] }, '/rehearsal')
    ).body;
    expect(said.map(({ number, changes, refused }) => [number, changes.length, refused])).toEqual([
      ['MET-C', 2, ''],
      ['PIC-M', 2, ''],
      ['BAG-GU', 0, 'It has no price of its own.'],
    ]);
    const [metronome] = said;
    const before = (await look(await idOf('MET-C'))).record.price;
    expect(metronome?.changes.find(({ what }) => what === 'Price')?.became).toMatch(/\.90$/);
    // Nothing was done yet.
    expect((await look(await idOf('MET-C'))).record.price).toBe(before);
    expect(
      (await many(['MET-C', 'PIC-M', 'BAG-GU'], { price: dearer, addTags: ['sale'] })).body.changed,
    ).toBe(2);
    const after = (await look(await idOf('MET-C'))).record;
    expect([after.price && after.price % 100, after.tags]).toEqual([90, ['sale']]);
    expect(await numbers('tag=sale')).toEqual(['MET-C', 'PIC-M']);
  });

  it('get their prices from a day on, and are not sold any more, and are sold again', async () => {
    const later = { by: 'to', amount: 500, rate: 0, ending: null, from: '2026-06-01' };
    expect((await many(['MET-C', 'PIC-M'], { price: later })).body.changed).toBe(2);
    expect((await look(await idOf('PIC-M'))).toCome).toMatchObject([{ from: '2026-06-01', price: 500 }]);
    expect((await list('find=PIC-M')).rows[0]?.toCome).toEqual({ from: '2026-06-01', price: 500 });
    expect(wrong(await many(['MET-C'], { price: { ...later, from: '2026-03-02' } }))).toHaveProperty([
      'change.price.from',
    ]);
    expect((await many(['PIC-M'], { active: false, category: 'Old things' })).body.changed).toBe(1);
    expect(await numbers('find=PIC-M')).not.toContain('PIC-M');
    expect((await many(['PIC-M'], { active: true })).body.changed).toBe(1);
  });

  it('are not changed at all where one of them was changed meanwhile', async () => {
    const { id, version } = await look(await idOf('MET-C'));
    await change(id, { description: 'Clips onto the stand.' });
    const answer = await maren.ask<ProblemDetails>('POST', '/goods/changes', {
      items: [{ id, version }],
      change: { addTags: ['late'], dropTags: [] },
    });
    expect([answer.status, answer.body.type]).toEqual([409, 'changed-meanwhile']);
    expect((await look(id)).record.tags).toEqual(['sale']);
    expect((await maren.ask('POST', '/goods/changes', { items: [], change: {} })).status).toBe(422);
  });

  it('are picked and changed as many as can be at once; the same again is answered as before', async () => {
    await test.house.database.write((sql) =>
      sql.query(
        `insert into item (number, name, category_id, tax_category_id, price, words)
         select 'MANY-' || n, 'One of many', category_id, tax_category_id, 1000, ' many-' || n || ' one of many'
         from item, generate_series(1, ${MOST_AT_ONCE + 3}) as n where number = 'MET-C'`,
      ),
    );
    const { body: items } = await maren.ask<PickedItem[]>('GET', '/goods/list/versions?find=of+many');
    expect(new Set(items.map(({ id }) => id)).size).toBe(MOST_AT_ONCE);
    const asked = { items, change: { addTags: ['many'], dropTags: [], price: { ...dearer, ending: null } } };
    const key = { 'idempotency-key': newId() };
    const first = await maren.ask('POST', '/goods/changes', asked, key);
    expect([first.status, first.body]).toEqual([200, { changed: MOST_AT_ONCE }]);
    expect((await maren.ask('POST', '/goods/changes', asked, key)).body).toEqual(first.body);
    const stored = await test.house.database.ask((sql) =>
      sql.query(
        `select price, version, (select count(*)::integer from item_tag where item_id = item.id) as tags,
           (select count(*)::integer from item_change where item_id = item.id) as changes, count(*)::integer
         from item where number like 'MANY-%' group by 1, 2, 3, 4 order by price`,
      ),
    );
    expect(stored).toEqual([
      { price: 1000, version: 1, tags: 0, changes: 0, count: 3 },
      { price: 1100, version: 2, tags: 1, changes: 2, count: MOST_AT_ONCE },
    ]);
    expect(await numbers('find=many-17&tag=many')).toContain('MANY-17');
  });
});

describe(`stock by hand on ${ENGINE}`, () => {
  const move = (id: number, body: object, by = maren) =>
    by.ask<Answered<ItemPage>>('POST', `/goods/items/${id}/moves`, { words: '', serials: [], ...body });
  const hereOf = async (id: number) => (await look(id)).stock.find(({ here }) => here)?.onHand ?? 0;

  it('is put right with a reason, and the history says who', async () => {
    const id = await idOf('MET-C');
    const [placeId, had] = [(await look(id)).stock.find(({ here }) => here)?.placeId ?? 0, await hereOf(id)];
    const found = await move(id, { placeId, reason: 'found', quantity: 3000, words: 'behind the counter' });
    expect(found.body.moves[0]).toMatchObject({
      reason: 'found',
      quantity: 3000,
      words: 'behind the counter',
      by: 'Maren K.',
      sale: null,
    });
    expect(await hereOf(id)).toBe(had + 3000);
    await move(id, { placeId, reason: 'damaged', quantity: 1000 });
    expect(await hereOf(id)).toBe(had + 2000);
    expect(wrong(await move(id, { placeId, reason: 'missing', quantity: 500 }))).toEqual({
      quantity: 'A quantity of it has no decimals.',
    });
    expect(wrong(await move(id, { placeId: 999, reason: 'missing', quantity: 1000 }))).toEqual({
      placeId: 'There is no such place.',
    });
    expect((await move(id, { placeId, reason: 'sale', quantity: 1000 })).status).toBe(422);
    expect((await move(id, { placeId, reason: 'found', quantity: 1000 }, noor)).status).toBe(403);
    expect((await move(await idOf('LES-30'), { placeId, reason: 'found', quantity: 1000 })).status).toBe(422);
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('above the limit of a role needs an approval of just that, which is used once', async () => {
    const id = await idOf('MET-C');
    const placeId = (await look(id)).stock.find(({ here }) => here)?.placeId ?? 0;
    const limits = { cashier: 0, supervisor: 10_000, manager: null };
    expect((await maren.ask('PUT', '/setup/stock', { limits })).status).toBe(403);
    expect((await isolde.ask('PUT', '/setup/stock', { limits })).status).toBe(200);
    const found = { placeId, reason: 'found', unitCost: 5_000 };
    expect((await move(id, { ...found, quantity: 2 * ONE })).status).toBe(200);
    const had = await hereOf(id);
    const refused = await move(id, { ...found, quantity: 3 * ONE });
    expect([refused.status, refused.body.type, await hereOf(id)]).toEqual([403, 'countersign-needed', had]);
    const { needed } = (refused.body as ProblemDetails<'countersign-needed'>).data ?? {};
    expect(needed?.right).toBe('stock.large');
    expect(needed?.steps).toMatchObject([{ to: 3 * ONE, amount: 15_000 }]);
    const sign = (pin: string) =>
      maren.ask<{ id: string }>('POST', '/staff/countersigns', {
        pin,
        right: 'stock.large',
        basketId: needed?.about,
        reason: 'Found',
        covers: needed?.steps,
      });
    expect((await sign('3690')).status).toBe(403);
    const approval = { about: needed?.about, countersign: (await sign('8024')).body.id };
    expect((await move(id, { ...found, quantity: 4 * ONE, approval })).status).toBe(403);
    expect((await move(id, { ...found, quantity: 3 * ONE, approval })).status).toBe(200);
    expect(await hereOf(id)).toBe(had + 3 * ONE);
    // The same approval once more is used for its own move only, which is made.
    expect((await move(id, { placeId, reason: 'missing', quantity: 9 * ONE, approval })).status).toBe(403);
    expect((await move(id, { ...found, quantity: 90 * ONE }, isolde)).status).toBe(200);
    await isolde.ask('PUT', '/setup/stock', { limits: { ...limits, supervisor: null } });
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('of units with serial numbers goes by their numbers', async () => {
    const id = await idOf('CLA-0510');
    const placeId = (await look(id)).stock.find(({ here }) => here)?.placeId ?? 0;
    const had = await hereOf(id);
    expect(wrong(await move(id, { placeId, reason: 'found', quantity: 1000 }))).toHaveProperty(['serials']);
    expect(
      (await move(id, { placeId, reason: 'received', quantity: 1000, serials: ['NEW-77'] })).status,
    ).toBe(200);
    expect(await hereOf(id)).toBe(had + 1000);
    expect(wrong(await move(id, { placeId, reason: 'found', quantity: 1000, serials: ['NEW-77'] }))).toEqual({
      serials: 'NEW-77 is in stock already.',
    });
    expect(wrong(await move(id, { placeId, reason: 'missing', quantity: 1000, serials: ['NO-1'] }))).toEqual({
      serials: 'NO-1 is not in stock there.',
    });
    expect((await move(id, { placeId, reason: 'missing', quantity: 1000, serials: ['NEW-77'] })).status).toBe(
      200,
    );
    expect(await hereOf(id)).toBe(had);
    expect(await test.house.database.ask(verify)).toEqual([]);
  });
});
