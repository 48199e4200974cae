import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatQuantity, lineAmount, parseQuantity } from './quantity.ts';
import { formatRate, parseRate, rateOf } from './rate.ts';

describe('quantities', () => {
  it('reads and writes without superfluous zeros', () => {
    expect(parseQuantity('2.5')).toBe(2500);
    expect(parseQuantity('2,5')).toBe(2500);
    expect(formatQuantity(2500)).toBe('2.5');
    expect(formatQuantity(-1000)).toBe('−1');
  });

  it('refuses more decimals than the unit takes', () => {
    expect(parseQuantity('2.5', 0)).toBeNull();
    expect(parseQuantity('2.55', 1)).toBeNull();
    expect(parseQuantity('0.1234')).toBeNull();
  });

  it('reads back what it wrote', () => {
    fc.assert(
      fc.property(fc.integer({ min: -99_999_999, max: 99_999_999 }), (quantity) => {
        expect(parseQuantity(formatQuantity(quantity))).toBe(quantity);
      }),
    );
  });

  it('prices a length to the cent', () => {
    expect(lineAmount(420, 2500)).toBe(1050);
    expect(lineAmount(333, 1500)).toBe(500);
  });
});

describe('rates', () => {
  it('reads and writes per cent', () => {
    expect(formatRate(75_000)).toBe('7.5 %');
    expect(parseRate('7.5')).toBe(75_000);
    expect(parseRate('20 %')).toBe(200_000);
    expect(parseRate('101')).toBeNull();
    expect(parseRate('x')).toBeNull();
  });

  it('takes a part of an amount', () => {
    expect(rateOf(42_900, 75_000)).toBe(3218);
  });
});
