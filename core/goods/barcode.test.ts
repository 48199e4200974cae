import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkDigit, expandUpcE, hasRightCheckDigit, looksMisread, readBarcode } from './barcode.ts';

const digits = (length: number) =>
  fc
    .array(fc.integer({ min: 0, max: 9 }), { minLength: length, maxLength: length })
    .map((list) => list.join(''));

describe('barcodes', () => {
  it('computes check digits', () => {
    expect(checkDigit('200000000001')).toBe(5);
    expect(hasRightCheckDigit('2000000000015')).toBe(true);
    expect(hasRightCheckDigit('2000000000016')).toBe(false);
  });

  it('reads the four kinds into one spelling', () => {
    expect(readBarcode('2000000000015')).toEqual([{ symbology: 'EAN-13', canonical: '2000000000015' }]);
    expect(readBarcode('400000000008')).toEqual([{ symbology: 'UPC-A', canonical: '0400000000008' }]);
    expect(readBarcode('20000012').map(({ symbology }) => symbology)).toEqual([]);
    const short = `2000001${checkDigit('2000001')}`;
    expect(readBarcode(short)).toEqual([{ symbology: 'EAN-8', canonical: short }]);
  });

  it.each([
    ['01234505', '012000003455'],
    ['01234514', '012100003454'],
    ['01234523', '012200003453'],
    ['01234531', '012300000451'],
    ['01234543', '012340000053'],
    ['01234558', '012345000058'],
    ['01234593', '012345000096'],
  ])('expands UPC-E %s', (short, long) => {
    const expanded = expandUpcE(short);
    expect(expanded?.slice(0, 11)).toBe(long.slice(0, 11));
  });

  it('reads UPC-E as the UPC-A it stands for', () => {
    const long = `01210000345${checkDigit('01210000345')}`;
    const short = `0123451${long.at(-1)}`;
    expect(readBarcode(short)).toContainEqual({ symbology: 'UPC-E', canonical: `0${long}` });
    expect(expandUpcE('91234505')).toBeNull();
  });

  it('notices every single wrong digit and says that it looks misread', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(11, 12).chain(digits),
        fc.nat(),
        fc.integer({ min: 1, max: 9 }),
        (body, where, by) => {
          const code = `${body}${checkDigit(body)}`;
          expect(readBarcode(code)).toHaveLength(1);
          expect(looksMisread(code)).toBe(false);
          const at = where % code.length;
          const wrong = code.slice(0, at) + ((Number(code[at]) + by) % 10) + code.slice(at + 1);
          expect(readBarcode(wrong)).toEqual([]);
          expect(looksMisread(wrong)).toBe(true);
        },
      ),
    );
  });
});
