import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { GoodsPage, ItemPage } from '../../contract/goods.ts';
import type { ItemSupply } from '../../contract/supply.ts';
import type { ImportLine, ImportView } from '../../contract/imports.ts';
import { verify } from '../books/verify.ts';
import { ENGINE, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let maren: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  [maren, isolde] = [test.browser(), test.browser()];
  await maren.signIn('3690', 1);
  await isolde.signIn('8024', 2);
});
afterAll(() => test.stop());

const lines = async (id: string, outcome = '') =>
  (await isolde.ask<ImportLine[]>('GET', `/goods/imports/${id}/lines?outcome=${outcome}`)).body;
const until = (id: string, state: ImportView['state']) =>
  eventually(async () => {
    const { body } = await isolde.ask<ImportView>('GET', `/goods/imports/${id}`);
    expect(body.state).toBe(state);
    return body;
  });
const send = (content: string, id = newKey(), by = isolde) =>
  by.raw('PUT', `/goods/imports/${id}?name=goods.csv`, { 'content-type': 'text/csv' }, content);
async function rehearse(content: string): Promise<ImportView> {
  const id = newKey();
  expect((await send(content, id)).status).toBe(200);
  return until(id, 'ready');
}
async function bring(content: string): Promise<ImportView> {
  const { id } = await rehearse(content);
  expect((await isolde.ask('POST', `/goods/imports/${id}/accept`, { doubles: false })).status).toBe(200);
  return until(id, 'done');
}
const exported = async (query = 'state=') =>
  (await isolde.ask<string>('GET', `/goods/list.csv?${query}`)).body;
const find = async (number: string) =>
  (await isolde.ask<GoodsPage>('GET', `/goods/list?state=&find=${number}`)).body.rows.find(
    (row) => row.number === number,
  );

const LIST = [
  'SKU;Title;Department;Retail price;Barcode;VAT;On hand;Shoe size',
  'KAZ-1;Kazoo, tin;Small winds;2,50;2300000000017;General;12;38',
  'MET-C;;;47.00;;;;',
  'KAZ-2;Kazoo, brass;small winds;dear;;;;',
  'DEPOSIT;Mine;Small winds;1;;;;',
  'KAZ-1;Kazoo once more;Small winds;3;;;;',
].join('\r\n');

describe(`a list of goods on ${ENGINE}`, () => {
  it('is rehearsed line by line, and nothing is written of it', async () => {
    const before = await exported();
    const view = await rehearse(LIST);
    expect(view).toMatchObject({
      subject: 'goods',
      columns: ['number', 'name', 'category', 'price', 'codes', 'tax', 'stock', null],
      counts: { new: 1, changed: 1, same: 0, refused: 3 },
    });
    expect((await lines(view.id)).map(({ line, outcome, words }) => [line, outcome, words])).toEqual([
      [2, 'new', ''],
      [3, 'changed', 'Price: 45.00 → 47.00; Codes: 2000000003085 → –'],
      [4, 'refused', '“dear” is no price.'],
      [5, 'refused', 'DEPOSIT is kept for money.'],
      [6, 'refused', 'Line 2 has KAZ-1 as well.'],
    ]);
    expect(await exported()).toBe(before);
    expect((await isolde.ask('POST', `/goods/imports/${view.id}/drop`)).status).toBe(200);
  });

  it('goes in when it is accepted: sold at once, with its stock where it was chosen, and who it was', async () => {
    const view = await bring(LIST.replace('MET-C;;;47.00;;;;', 'MET-C;;;47.00;2000000003085;;;'));
    expect(view.written).toBe(5);
    const kazoo = await find('KAZ-1');
    expect(kazoo).toMatchObject({ name: 'Kazoo, tin', price: 250, category: 'Small winds', here: 12_000 });
    const page = (await isolde.ask<ItemPage>('GET', `/goods/items/${kazoo?.id ?? 0}/page`)).body;
    expect(page.record.codes).toEqual(['2300000000017']);
    expect(page.changes).toMatchObject([
      { what: 'Added', became: 'Kazoo, tin, from goods.csv', who: 'Isolde R.' },
    ]);
    expect((await find('MET-C'))?.price).toBe(4700);
    expect(await find('KAZ-2')).toBeUndefined();
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('that was exported changes nothing (law)', async () => {
    const before = await exported();
    const view = await rehearse(before);
    expect(view.counts).toMatchObject({ new: 0, changed: 0, refused: 0 });
    expect(view.counts.same).toBe(view.rows);
    expect(view.rows).toBeGreaterThan(400);
    await isolde.ask('POST', `/goods/imports/${view.id}/drop`);
    const template = (await isolde.ask<string>('GET', '/goods/template.csv')).body;
    expect(before.startsWith(template.trim())).toBe(true);
  });

  it('makes families with their variants and says from whom goods come; brought again it changes nothing', async () => {
    const list = [
      'Number,Name,Category,Price,Differs in,Family,Variant,Supplier,Number there,Cost there,Pack,Least order,On hand,Cost',
      'CAP,Cap,Hats,,Size; Colour,,,,,,,,,',
      'CAP-SR,"Cap, S, Red",Hats,12.00,,CAP,S; Red,New Hats Ltd,H-1,5.50,6,12,4,5.50',
      'CAP-MR,"Cap, M, Red",Hats,12.00,,CAP,M; Red,new hats ltd,H-2,5.50,6,12,2,5.50',
      'CAP-XX,"Cap, M, Red",Hats,12.00,,CAP,M; Red,,,,,,,',
    ].join('\n');
    const view = await bring(list);
    expect(view.counts).toMatchObject({ new: 3, refused: 1 });
    const page = async (number: string) =>
      (await isolde.ask<ItemPage>('GET', `/goods/items/${(await find(number))?.id ?? 0}/page`)).body;
    expect((await page('CAP')).contains.map(({ number, variant }) => [number, variant])).toEqual([
      ['CAP-SR', ['S', 'Red']],
      ['CAP-MR', ['M', 'Red']],
    ]);
    const supply = await isolde.ask<ItemSupply>('GET', `/supply/items/${(await find('CAP-MR'))?.id ?? 0}`);
    expect(supply.body.suppliers).toMatchObject([
      { supplier: 'New Hats Ltd', theirNumber: 'H-2', cost: 550, pack: 6_000, least: 12_000, first: true },
    ]);
    expect(supply.body.worth).toBe(1_100);
    const again = await rehearse(list.replace(/,4,5.50|,2,5.50/g, ',,5.50'));
    expect(again.counts).toMatchObject({ new: 0, changed: 0, same: 3, refused: 1 });
    await isolde.ask('POST', `/goods/imports/${again.id}/drop`);
    await bring('Number,Supplier,Number there\nCAP-MR,Other Hats,77');
    expect((await page('CAP-MR')).changes.map(({ what, became }) => [what, became])).toContainEqual([
      'Supplier',
      'Other Hats',
    ]);
    const changed = await rehearse(await exported());
    expect(changed.counts).toMatchObject({ new: 0, changed: 0, refused: 0 });
    await isolde.ask('POST', `/goods/imports/${changed.id}/drop`);
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('leaves out what somebody changed after it was accepted to be written', async () => {
    const view = await rehearse('Number,Price\nPIC-M,0.75\nMET-P,20.00');
    const id = (await find('PIC-M'))?.id ?? 0;
    const { record, version } = (await isolde.ask<ItemPage>('GET', `/goods/items/${id}/page`)).body;
    // The price that the list has is there by now.
    await maren.ask('PUT', `/goods/items/${id}`, { record: { ...record, price: 75 }, version });
    await isolde.ask('POST', `/goods/imports/${view.id}/accept`, { doubles: false });
    await until(view.id, 'done');
    expect((await find('MET-P'))?.price).toBe(2000);
    expect(await lines(view.id, 'refused')).toMatchObject([
      { line: 2, words: 'It was changed here since the list was accepted.' },
    ]);
  });

  it('is for managers, and of one subject', async () => {
    expect((await send(LIST, newKey(), maren)).status).toBe(403);
    expect((await maren.ask('GET', '/goods/list.csv')).status).toBe(403);
    const { id } = await rehearse('Number,Price\nPIC-M,0.80');
    expect((await isolde.ask('GET', `/people/imports/${id}`)).status).toBe(404);
    expect((await isolde.ask('POST', `/people/imports/${id}/accept`, { doubles: false })).status).toBe(404);
    expect((await isolde.ask<ImportView>('GET', '/goods/imports')).body.id).toBe(id);
    await isolde.ask('POST', `/goods/imports/${id}/drop`);
  });
});
