import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkDigit, readBarcode } from './barcode.ts';
import { means, spellings } from './codes.ts';

const upcE = fc
  .tuple(fc.constantFrom('0', '1'), fc.stringMatching(/^\d{6}$/), fc.integer({ min: 0, max: 9 }))
  .map(([system, six, check]) => `${system}${six}${check}`)
  .filter((digits) => readBarcode(digits).some(({ symbology }) => symbology === 'UPC-E'));
const upcA = fc.stringMatching(/^\d{11}$/).map((digits) => `${digits}${checkDigit(digits)}`);

describe('what a code means', () => {
  it('is the same in capitals, in small letters and with blanks around it', () => {
    const thing = { number: 'MET-C', codes: ['Ks-90417725'] };
    for (const code of ['met-c', ' MET-C ', 'Met-C', 'KS-90417725', 'ks-90417725'])
      expect(means(code, thing)).toBe(true);
    for (const code of ['MET', '90417725', 'Ks-9041772', '']) expect(means(code, thing)).toBe(false);
  });

  it('is the same however a barcode is printed', () => {
    fc.assert(
      fc.property(fc.oneof(upcA, upcE), (printed) => {
        for (const { canonical } of readBarcode(printed)) {
          expect(means(printed, { number: 'X', codes: [canonical] })).toBe(true);
          expect(means(canonical, { number: 'X', codes: [canonical] })).toBe(true);
        }
      }),
    );
  });

  it('is looked for as it is before it is looked for as anything else', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 40 }), (code) => {
        const [first, ...others] = spellings(code);
        expect(first).toBe(code.trim());
        expect(new Set(others).has(first ?? '')).toBe(false);
      }),
    );
  });
});
