import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Catalogue, GoodsPage, ItemPage, WantedItem } from '../../contract/goods.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
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

let test: TestHouse;
let noor: Browser;
let maren: Browser;
let record: WantedItem;
beforeAll(async () => {
  test = await openHouse();
  [noor, maren] = [test.browser(), test.browser()];
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  await maren.signIn('3690', 2);
  const { taxCategoryId } = (await look(await idOf('MET-C'))).record;
  record = { ...NEW_ITEM, groupPrices: [], tags: [], codes: [], category: 'Accessories', taxCategoryId };
});
afterAll(() => test.stop());

type Answered<T> = T & ProblemDetails;
const look = async (id: number) => (await maren.ask<ItemPage>('GET', `/goods/items/${id}/page`)).body;
async function idOf(number: string): Promise<number> {
  const { rows } = (await maren.ask<GoodsPage>('GET', `/goods/list?state=&find=${number}`)).body;
  const row = rows.find((one) => one.number === number);
  if (!row) throw new Error(`no ${number}`);
  return row.id;
}
const wrong = ({ body }: { body: ProblemDetails }) =>
  Object.fromEntries((body.fields ?? []).map(({ field, message }) => [field, message]));
const sock = (size: string, fields: { number?: string; code?: string; price?: number | null } = {}) => ({
  variant: [size],
  number: `SOCK-${size}`,
  code: '',
  price: 900,
  ...fields,
});
const family = (fields: object) =>
  maren.ask<Answered<{ id: number }>>('POST', '/goods/families', {
    record: { ...record, number: 'sock', name: 'Sock', price: 900, cost: 300 },
    axes: ['Size'],
    variants: [sock('S'), sock('M', { price: 950 })],
    ...fields,
  });

describe(`families on ${ENGINE}`, () => {
  it('are made with their variants, which are sold at once', async () => {
    const { body } = await family({ ownCodes: true });
    const page = await look(body.id);
    expect([page.kind, page.record.number, page.axes]).toEqual(['family', 'SOCK', ['Size']]);
    expect(page.contains.map(({ number, variant, price }) => [number, variant, price])).toEqual([
      ['SOCK-S', ['S'], 900],
      ['SOCK-M', ['M'], 950],
    ]);
    const [small, medium] = await Promise.all(page.contains.map(({ id }) => look(id)));
    expect([small?.record.name, small?.record.cost, small?.record.stocked]).toEqual(['Sock, S', 300, true]);
    expect(small?.family).toEqual({ id: body.id, name: 'Sock', variant: ['S'] });
    // Each has a code of the shop's own.
    const codes = [small, medium].flatMap((one) => one?.record.codes ?? []);
    expect([codes.length, new Set(codes).size]).toEqual([2, 2]);
    const sale = await ringUp(test, ['SOCK-M']);
    expect((await pay(noor, sale)).status).toBe(200);
    expect((await look(medium?.id ?? 0)).moves.map(({ quantity }) => quantity)).toEqual([-ONE]);
    const { items } = (await noor.ask<Catalogue>('GET', '/goods/catalogue?since=0&origin=')).body;
    expect(items.find(([, number]) => number === 'SOCK')?.[10]).toEqual({ kind: 'family', axes: ['Size'] });
    expect(items.find(([, number]) => number === 'SOCK-S')?.[10]).toEqual({
      familyId: body.id,
      variant: ['S'],
    });
  });

  it('get more variants, as the last one was; one that is there is refused next to it, and nothing is made', async () => {
    const id = await idOf('SOCK');
    const more = (variants: object[]) =>
      maren.ask<Answered<ItemPage>>('POST', `/goods/families/${id}/variants`, { variants });
    expect(wrong(await more([sock('L'), sock('m', { number: 'SOCK-M2' })]))).toEqual({
      'variants[1].variant': 'This one is there already.',
    });
    expect((await look(id)).contains).toHaveLength(2);
    const { body } = await more([sock('L', { code: '4006381333931' })]);
    expect(body.contains.map(({ name }) => name)).toEqual(['Sock, S', 'Sock, M', 'Sock, L']);
    const large = await look(await idOf('SOCK-L'));
    expect([large.record.cost, large.record.codes]).toEqual([300, ['4006381333931']]);
    expect(body.changes[0]).toMatchObject({ what: 'Variants', became: 'L' });
    expect(
      (await maren.ask('POST', `/goods/families/${large.id}/variants`, { variants: [sock('X')] })).status,
    ).toBe(404);
  });

  it('are refused where a number or a code means something else, or two are alike', async () => {
    const other = { record: { ...record, number: 'CAP', name: 'Cap', price: 900 } };
    const cap = (size: string, fields: object) => ({ ...sock(size), number: `CAP-${size}`, ...fields });
    expect(wrong(await family({}))).toEqual({ 'record.number': 'SOCK means Sock already.' });
    expect(
      wrong(
        await family({
          ...other,
          variants: [cap('S', { number: 'sock-s' }), cap('M', { code: '4006381333931' })],
        }),
      ),
    ).toEqual({
      'variants[0].number': 'SOCK-S means Sock, S already.',
      'variants[1].code': '4006381333931 means Sock, L already.',
    });
    expect(wrong(await family({ ...other, axes: ['Size', 'Size'] }))['axes[1]']).toBe(
      'They differ in that already.',
    );
    expect(wrong(await family({ ...other, variants: [] }))).toEqual({
      variants: 'Which variants are there?',
    });
    expect(
      (await noor.ask('POST', '/goods/families', { ...other, axes: ['Size'], variants: [cap('S', {})] }))
        .status,
    ).toBe(403);
    expect((await maren.ask<GoodsPage>('GET', '/goods/list?find=CAP-S')).body.rows).toEqual([]);
  });
});

describe(`bundles on ${ENGINE}`, () => {
  it('are made of goods, rung up as those, and changed', async () => {
    const [clip, small] = [await idOf('MET-C'), await idOf('SOCK-S')];
    const bundle = { ...record, number: 'SET', name: 'Practice set', stocked: false };
    const make = (parts: object[], fields: Partial<WantedItem> = {}) =>
      maren.ask<Answered<{ id: number }>>('POST', '/goods/bundles', {
        record: { ...bundle, ...fields },
        parts,
      });
    expect(wrong(await make([]))).toEqual({ parts: 'What is in it?' });
    expect(
      wrong(
        await make([
          { itemId: await idOf('SOCK'), quantity: ONE },
          { itemId: small, quantity: 1500 },
        ]),
      ),
    ).toEqual({
      'parts[0].quantity': 'Sock is no single item.',
      'parts[1].quantity': 'A quantity of it has no decimals.',
    });
    expect(
      wrong(
        await make([
          { itemId: small, quantity: ONE },
          { itemId: small, quantity: ONE },
        ]),
      ),
    ).toEqual({
      'parts[1].quantity': 'It stands there twice.',
    });
    const ended = { itemId: 1_000_000, quantity: ONE };
    expect(wrong(await make([ended]))).toEqual({ 'parts[0].quantity': 'There is no such item.' });
    expect(wrong(await make([{ itemId: small, quantity: ONE }], { price: 100 }))).toEqual({
      'record.price': 'A bundle has no price of its own.',
    });
    const { body } = await make([
      { itemId: clip, quantity: ONE },
      { itemId: small, quantity: 2 * ONE },
    ]);
    const page = await look(body.id);
    expect(page.contains.map(({ number, quantity }) => [number, quantity])).toEqual([
      ['MET-C', ONE],
      ['SOCK-S', 2 * ONE],
    ]);
    const put = (version: number) =>
      maren.ask<Answered<ItemPage>>('PUT', `/goods/bundles/${body.id}/parts`, {
        parts: [{ itemId: small, quantity: 3 * ONE }],
        version,
      });
    const before = (await noor.ask<Catalogue>('GET', '/goods/catalogue?since=0&origin=')).body;
    expect((await put(page.version)).body.contains.map(({ quantity }) => quantity)).toEqual([3 * ONE]);
    expect((await put(page.version)).body.type).toBe('changed-meanwhile');
    const { items } = (
      await noor.ask<Catalogue>('GET', `/goods/catalogue?since=${before.revision}&origin=${before.origin}`)
    ).body;
    // The tills hear of it.
    expect(items.map(([, number, , , , , , , , , more]) => [number, more?.parts])).toEqual([
      ['SET', [{ itemId: small, quantity: 3 * ONE }]],
    ]);
    expect((await look(body.id)).changes[0]).toMatchObject({
      what: 'What is in it',
      was: '1 × Metronome, clip-on, 2 × Sock, S',
      became: '3 × Sock, S',
    });
    expect(await test.house.database.ask(verify)).toEqual([]);
  });
});
