import {
  BinaryBitmap,
  GlobalHistogramBinarizer,
  MultiFormatReader,
  RGBLuminanceSource,
} from '@zxing/library';
import { PNG } from 'pngjs';
import { getDocumentProxy } from 'unpdf';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { GoodsPage, ItemPage, LabelsPage } from '../../contract/goods.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { ownEan13 } from '../../core/goods/barcode.ts';
import { labelPlaces, USUAL_LAYOUT } from '../../core/goods/labelSheet.ts';
import { ENGINE, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';
import { barcodePicture, labelsPdf } from './labels.ts';

let test: TestHouse;
let maren: Browser;
beforeAll(async () => {
  test = await openHouse();
  maren = test.browser();
  await maren.signIn('3690', 1);
});
afterAll(() => test.stop());

type Printed = { id: number; labels: number } & ProblemDetails;
const look = async () => (await maren.ask<LabelsPage>('GET', '/goods/labels')).body;
const print = (wanted: object) =>
  maren.ask<Printed>('POST', '/goods/labels', { items: [], layout: USUAL_LAYOUT, first: 1, ...wanted });
const idOf = async (number: string) =>
  (await maren.ask<GoodsPage>('GET', `/goods/list?find=${number}`)).body.rows[0]?.id ?? 0;
const pdfOf = (id: number) => test.house.database.ask((sql) => labelsPdf(sql, id));
const setPrice = async (number: string, price: number) => {
  const id = await idOf(number);
  const { record, version } = (await maren.ask<ItemPage>('GET', `/goods/items/${id}/page`)).body;
  await maren.ask('PUT', `/goods/items/${id}`, { record: { ...record, price }, version });
};

/** Texts of each page and where they stand, in tenths of a millimetre from the left and the top. */
async function textsOf(pdf: Buffer): Promise<{ text: string; x: number; top: number; end: number }[][]> {
  const document = await getDocumentProxy(new Uint8Array(pdf));
  const tenths = (points: number) => (points / 72) * 254;
  const pages = [];
  for (let number = 1; number <= document.numPages; number++) {
    const page = await document.getPage(number);
    const [, , , high = 0] = page.view;
    const { items } = await page.getTextContent();
    pages.push(
      items.flatMap((item) => {
        if (!('str' in item) || item.str.trim() === '') return [];
        const [, , , , x = 0, y = 0] = item.transform as number[];
        return [
          { text: item.str, x: tenths(x), top: tenths(high - y - item.height), end: tenths(x + item.width) },
        ];
      }),
    );
  }
  return pages;
}

/** What a reader that is not the shop's own sees in a barcode. */
async function decoded(code: string): Promise<string> {
  const { width, height, data } = PNG.sync.read(await barcodePicture(code));
  const grey = new Uint8ClampedArray(width * height);
  for (let at = 0; at < grey.length; at++) grey[at] = data[at * 4] ?? 255;
  const source = new RGBLuminanceSource(grey, width, height);
  return new MultiFormatReader().decode(new BinaryBitmap(new GlobalHistogramBinarizer(source))).getText();
}

describe(`labels on ${ENGINE}`, () => {
  it('are read by another reader as what they mean', async () => {
    for (const code of [ownEan13(21, 7), '20000646', 'KAZ-1', '4006381333931', 'A b+9'])
      expect(await decoded(code)).toBe(code);
    // A code of twelve digits is read with its leading nought, or without.
    expect('0400000000015').toContain(await decoded('0400000000015'));
  });

  it('lie on the places of the sheet, each with its name, price and number, and nothing beside it', async () => {
    const items = [
      { id: await idOf('MET-C'), copies: 2 },
      { id: await idOf('REE-BC-25'), copies: 1 },
      // A family has none.
      { id: await idOf('BAG-GU'), copies: 5 },
    ];
    const { status, body } = await print({ which: 'picked', items, first: 23 });
    expect([status, body.labels]).toEqual([200, 3]);
    const pages = await textsOf(await pdfOf(body.id));
    expect(pages).toHaveLength(2);
    for (const [nth, place] of labelPlaces(USUAL_LAYOUT, 3, 23).entries()) {
      const inside = (pages[place.page] ?? []).filter(
        ({ x, top, end }) =>
          x >= place.x &&
          end <= place.x + USUAL_LAYOUT.width + 1 &&
          top >= place.y &&
          top <= place.y + USUAL_LAYOUT.height,
      );
      const words = inside.map(({ text }) => text).join(' ');
      expect(words).toContain(nth < 2 ? 'Metronome, clip-on' : 'Marshgrass reed');
      expect(words).toContain(nth < 2 ? '45.00' : '3.50');
    }
    const all = pages.flat().length;
    const placed = labelPlaces(USUAL_LAYOUT, 3, 23).map(
      (place) =>
        (pages[place.page] ?? []).filter(
          ({ x, top }) =>
            x >= place.x &&
            x <= place.x + USUAL_LAYOUT.width &&
            top >= place.y &&
            top <= place.y + USUAL_LAYOUT.height,
        ).length,
    );
    expect(placed.reduce((sum, one) => sum + one, 0)).toBe(all);
  });

  it('are due when a price has changed since they were printed, and not before', async () => {
    expect((await look()).changed).toBe(0);
    expect((await print({ which: 'changed' })).body.fields?.[0]?.message).toBe('There is no label to print.');
    await setPrice('MET-C', 47_00);
    expect((await look()).changed).toBe(1);
    expect((await maren.ask<GoodsPage>('GET', '/goods/list')).body.labelsDue).toBe(1);
    // Back at the price that stands on the label, it is due no more.
    await setPrice('MET-C', 45_00);
    expect((await look()).changed).toBe(0);
    await setPrice('MET-C', 48_00);
    const before = await pdfOf((await look()).prints[0]?.id ?? 0);
    const { body } = await print({ which: 'changed' });
    expect(body.labels).toBe(1);
    const after = await look();
    expect([after.changed, after.prints[0]]).toMatchObject([0, { id: body.id, labels: 1, who: 'Maren K.' }]);
    // What was printed before is printed again as it was.
    expect((await textsOf(before)).flat().map(({ text }) => text)).toContain('45.00');
    await setPrice('MET-C', 45_00);
  });

  it('say what an offer makes of the price for everybody, and are due when it has ended', async () => {
    const isolde = test.browser();
    await isolde.signIn('8024', 2);
    const id = await idOf('PIC-M');
    const { record } = (await maren.ask<ItemPage>('GET', `/goods/items/${id}/page`)).body;
    const made = await isolde.ask<{ id: number }>('POST', '/offers', {
      name: 'Spring picks',
      rule: {
        kind: 'each',
        goods: { itemIds: [id], categories: [] },
        off: { kind: 'percent', rate: 500_000 },
      },
      combines: false,
      conditions: {
        from: null,
        to: '2030-12-31',
        weekdays: [],
        hours: null,
        placeIds: [],
        groups: [],
        minimum: 0,
      },
      limits: { perSale: null, perCustomer: null, total: null },
      needs: 'nothing',
      points: 0,
    });
    expect(made.status).toBe(200);
    const state = (to: string) =>
      isolde.ask('PUT', `/offers/${made.body.id}/state`, { state: to, version: 1 });
    expect((await state('live')).status).toBe(200);
    const items = [
      { id, copies: 1 },
      { id: await idOf('MET-C'), copies: 1 },
    ];
    const plain = await print({ which: 'picked', items });
    const offered = await print({ which: 'picked', items, offers: true });
    const words = async (one: number) =>
      (await textsOf(await pdfOf(one)))
        .flat()
        .map(({ text }) => text)
        .join(' ');
    const [full, half] = [record.price ?? 0, (record.price ?? 0) / 2].map((cents) =>
      (cents / 100).toFixed(2),
    );
    expect(await words(plain.body.id)).not.toContain(half);
    const shown = await words(offered.body.id);
    for (const said of [half, full, 'until Dec 31, 2030', '45.00']) expect(shown).toContain(said);
    const before = (await look()).changed;
    expect((await state('ended')).status).toBe(200);
    expect((await look()).changed).toBe(before + 1);
    await print({ which: 'changed' });
    expect((await look()).changed).toBe(0);
  });

  it('come from a roll one by one, in its size', async () => {
    const layout = { ...USUAL_LAYOUT, kind: 'roll', width: 500, height: 250 };
    const { body } = await print({
      which: 'picked',
      items: [{ id: await idOf('PIC-M'), copies: 3 }],
      layout,
    });
    const document = await getDocumentProxy(new Uint8Array(await pdfOf(body.id)));
    expect(document.numPages).toBe(3);
    const [, , wide = 0, high = 0] = (await document.getPage(2)).view;
    expect([Math.round((wide / 72) * 254), Math.round((high / 72) * 254)]).toEqual([500, 250]);
    // The next time the layout is there still.
    expect((await look()).layout).toEqual(layout);
  });

  it('are refused where the layout does not fit, and nothing is noted', async () => {
    const prints = (await look()).prints.length;
    const refused = await print({ which: 'never', layout: { ...USUAL_LAYOUT, columns: 5 } });
    expect(refused.body.fields?.[0]).toEqual({
      field: 'layout.columns',
      message: 'So many do not fit beside each other on the sheet.',
    });
    expect((await print({ which: 'never', first: 25 })).body.fields?.[0]?.field).toBe('first');
    expect((await look()).prints.length).toBe(prints);
    expect((await maren.ask('GET', '/goods/labels/9999.pdf')).status).toBe(404);
  });

  it('are set while tills go on', async () => {
    const { body } = await print({ which: 'picked', items: [{ id: await idOf('PIC-M'), copies: 150 }] });
    let setting = true;
    const pdf = maren.ask('GET', `/goods/labels/${body.id}.pdf`).finally(() => (setting = false));
    let answered = 0;
    while (setting) {
      expect((await maren.ask('GET', '/counter/basket')).status).toBe(200);
      answered += 1;
    }
    expect((await pdf).status).toBe(200);
    expect(answered).toBeGreaterThan(20);
  });
});
