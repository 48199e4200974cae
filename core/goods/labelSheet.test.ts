import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ownEan13 } from './barcode.ts';
import { LABEL_PAGES, labelBarcode, labelPlaces, layoutProblems, USUAL_LAYOUT } from './labelSheet.ts';

describe('labels on a sheet', () => {
  it('begin at the first free place, go row by row, and on to the next sheet', () => {
    const places = labelPlaces(USUAL_LAYOUT, 4, 23);
    expect(places.map(({ page }) => page)).toEqual([0, 0, 1, 1]);
    expect(places[0]).toEqual({ page: 0, x: 72 + 665, y: 133 + 7 * 338 });
    expect(places[2]).toEqual({ page: 1, x: 72, y: 133 });
  });

  it('lie each on a page of its own where they come from a roll', () => {
    const roll = { ...USUAL_LAYOUT, kind: 'roll' as const };
    expect(labelPlaces(roll, 3, 5)).toEqual([0, 1, 2].map((page) => ({ page, x: 0, y: 0 })));
  });

  it('never overlap, and lie wholly on the page, wherever a layout is let through', () => {
    const some = fc.record({
      kind: fc.constant('sheet' as const),
      page: fc.constantFrom('A4' as const, 'Letter' as const),
      columns: fc.integer({ min: 1, max: 6 }),
      rows: fc.integer({ min: 1, max: 20 }),
      width: fc.integer({ min: 150, max: 1200 }),
      height: fc.integer({ min: 100, max: 900 }),
      left: fc.integer({ min: 0, max: 200 }),
      top: fc.integer({ min: 0, max: 200 }),
      gapX: fc.integer({ min: 0, max: 50 }),
      gapY: fc.integer({ min: 0, max: 50 }),
    });
    fc.assert(
      fc.property(some, fc.integer({ min: 1, max: 30 }), (layout, first) => {
        fc.pre(Object.keys(layoutProblems(layout)).length === 0);
        fc.pre(first <= layout.columns * layout.rows);
        const places = labelPlaces(layout, 40, first);
        const [width, height] = LABEL_PAGES[layout.page];
        for (const { x, y } of places) {
          expect(x + layout.width).toBeLessThanOrEqual(width);
          expect(y + layout.height).toBeLessThanOrEqual(height);
        }
        places.forEach((one, at) => {
          for (const other of places.slice(at + 1)) {
            if (one.page !== other.page) continue;
            const apart =
              Math.abs(one.x - other.x) >= layout.width || Math.abs(one.y - other.y) >= layout.height;
            expect(apart).toBe(true);
          }
        });
      }),
    );
  });

  it('are refused where they do not fit', () => {
    expect(layoutProblems(USUAL_LAYOUT)).toEqual({});
    expect(Object.keys(layoutProblems({ ...USUAL_LAYOUT, columns: 4 }))).toEqual(['columns']);
    expect(Object.keys(layoutProblems({ ...USUAL_LAYOUT, rows: 9 }))).toEqual(['rows']);
    expect(Object.keys(layoutProblems({ ...USUAL_LAYOUT, width: 100 }))).toEqual(['width']);
  });

  it('carry a code in its own number system, or as Code 128', () => {
    const own = ownEan13(21, 5);
    expect(labelBarcode(own)).toEqual({ symbology: 'ean13', text: own });
    expect(labelBarcode('20000646')).toEqual({ symbology: 'ean8', text: '20000646' });
    expect(labelBarcode('KAZ-1')).toEqual({ symbology: 'code128', text: 'KAZ-1' });
  });
});
