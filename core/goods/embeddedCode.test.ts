import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkDigit } from './barcode.ts';
import { isCodeLayout, labelAmount, labelQuantity, readEmbeddedCode } from './embeddedCode.ts';

const WEIGHT = '27IIIIIWWWWWC';
const PRICE = '28IIIIVPPPPPC';
const LAYOUTS = [WEIGHT, PRICE];
const coded = (digits: string) => digits + checkDigit(digits);
const figures = (length: number) =>
  fc.integer({ min: 0, max: 10 ** length - 1 }).map((value) => String(value).padStart(length, '0'));

describe('codes with a price or weight inside', () => {
  it('give back what was put into them', () => {
    fc.assert(
      fc.property(figures(5), figures(5), (item, value) => {
        expect(readEmbeddedCode(coded(`27${item}${value}`), LAYOUTS)).toEqual({
          itemCode: `27${item}`,
          weight: Number(value),
        });
        expect(readEmbeddedCode(coded(`28${item.slice(1)}9${value}`), LAYOUTS)).toEqual({
          itemCode: `28${item.slice(1)}`,
          price: Number(value),
        });
      }),
    );
  });

  it('say nothing when misread, or of a range that the shop does not use', () => {
    const right = coded('270041701250');
    const misread = right.slice(0, -1) + String((Number(right.at(-1)) + 1) % 10);
    expect(readEmbeddedCode(misread, LAYOUTS)).toBeNull();
    expect(readEmbeddedCode(coded('260041701250'), LAYOUTS)).toBeNull();
    expect(readEmbeddedCode(right.slice(1), LAYOUTS)).toBeNull();
  });

  it('have layouts of 13 places with one item and one value', () => {
    expect([WEIGHT, PRICE, '20IIIIIIPPPPC'].every(isCodeLayout)).toBe(true);
    for (const wrong of [
      '19IIIIIPPPPPC',
      '28IIIIIPPPPP',
      '28IIIIIPPWWWC',
      '28IIIIIIIIIIC',
      '28PPPPPIIIIIC',
    ]) {
      expect(isCodeLayout(wrong)).toBe(false);
    }
  });

  it('mean the price on them, or their weight at the price of the item', () => {
    const felt = { price: 1800, decimals: 3 };
    expect(labelAmount(coded('270041701250'), felt, LAYOUTS)).toBe(2250);
    expect(labelAmount(coded('280052900640'), { price: null }, LAYOUTS)).toBe(640);
    expect(labelAmount(coded('270041701250'), { price: null }, LAYOUTS)).toBeNull();
    expect(labelQuantity({ itemCode: '', weight: 1250 }, felt)).toBe(1250);
    expect(labelQuantity({ itemCode: '', price: 900 }, felt)).toBe(500);
    expect(labelQuantity({ itemCode: '', price: 640 }, { price: null, decimals: 0 })).toBe(1000);
    expect(labelQuantity({ itemCode: '', price: 1 }, { price: 100_000, decimals: 2 })).toBe(10);
  });
});
