import { describe, expect, it } from 'vitest';
import { readBarcode } from '../core/goods/barcode.ts';
import { demoGoods } from './goods.ts';
import { largeShop } from './largeShop.ts';

describe('goods of the made-up shop', () => {
  const goods = demoGoods();

  it('are the same every time, with numbers and codes of their own', () => {
    expect(demoGoods()).toEqual(goods);
    expect(goods.length).toBeGreaterThan(400);
    for (const key of ['number', 'name'] as const)
      expect(new Set(goods.map((item) => item[key])).size).toBe(goods.length);
    const codes = goods.flatMap(({ codes: all }) => all);
    expect(new Set(codes).size).toBe(codes.length);
  });

  it('carry codes with right check digits from ranges for use inside a company', () => {
    const codes = goods.flatMap(({ codes: all }) => all);
    // Beside barcodes there are the makers' own codes, with letters, and the items of price and weight labels.
    const barcodes = codes.filter((code) => /^\d+$/.test(code) && code.length !== 7);
    expect(barcodes.length).toBeGreaterThan(300);
    expect(
      barcodes.every(
        (code) => readBarcode(code.length === 13 && code.startsWith('0') ? code.slice(1) : code).length > 0,
      ),
    ).toBe(true);
    expect(barcodes.every((code) => /^(2[0-9]|04|2)/.test(code))).toBe(true);
  });

  it('hang together: variants lie on the axes of their family, bundles are made of goods', () => {
    const byNumber = new Map(goods.map((item) => [item.number, item]));
    const variants = goods.filter(({ family }) => family !== null);
    expect(variants.length).toBeGreaterThan(300);
    for (const { family, variant } of variants) {
      expect(variant.length).toBe(byNumber.get(family ?? '')?.axes.length);
    }
    const parts = goods.flatMap((item) => item.parts);
    expect(parts.length).toBeGreaterThan(6);
    expect(parts.every(({ number }) => byNumber.get(number)?.kind === 'goods')).toBe(true);
    for (const { serialsAt, stock, serials } of goods) {
      if (serials) expect(serialsAt.map(({ length }) => length * 1000)).toEqual(stock);
    }
  });

  it('come in any number for measurements, the same for a seed', () => {
    expect(largeShop(1000)).toEqual(largeShop(1000));
    expect(new Set(largeShop(1000).map(({ number }) => number)).size).toBe(1000);
  });
});
