import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { change, likelyAmounts } from './cash.ts';
import { CURRENCIES, currencyOf } from './currency.ts';

describe('likely amounts', () => {
  it('offers the exact amount, then what a person would hand over', () => {
    expect(likelyAmounts(30_192, currencyOf('USD'))).toEqual([
      30_192, 30_200, 30_500, 31_000, 32_000, 40_000,
    ]);
    expect(likelyAmounts(2000, currencyOf('USD'))).toEqual([2000, 5000, 10_000]);
    expect(likelyAmounts(1234, currencyOf('JPY'))).toEqual([1234, 1235, 1240, 1250, 1300, 1500]);
    expect(likelyAmounts(0, currencyOf('USD'))).toEqual([]);
  });

  it('covers what is due, ascending and distinct, in every currency', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5_000_000 }), fc.constantFrom(...CURRENCIES), (due, currency) => {
        const amounts = likelyAmounts(due, currency);
        expect(amounts[0]).toBe(due);
        amounts.forEach((amount, at) => {
          expect(change(amount, due)).toBeGreaterThanOrEqual(0);
          if (at > 0) expect(amount).toBeGreaterThan(amounts[at - 1] ?? 0);
        });
      }),
    );
  });

  it('knows no other currencies', () => {
    expect(() => currencyOf('XXX')).toThrow(RangeError);
  });
});
