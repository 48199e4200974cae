import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatMoney, multiplyDivide, OutOfRangeError, parseMoney, sum } from './money.ts';

describe('multiplyDivide', () => {
  it('rounds half away from zero', () => {
    expect(multiplyDivide(5, 1, 2)).toBe(3);
    expect(multiplyDivide(-5, 1, 2)).toBe(-3);
    expect(multiplyDivide(7, 1, 3)).toBe(2);
    expect(multiplyDivide(-1, 1, 4)).toBe(0);
  });

  it('is exact where the product leaves the safe integers', () => {
    expect(multiplyDivide(9_007_199_254_740_991, 1_000_000, 1_000_000)).toBe(9_007_199_254_740_991);
  });

  it('agrees with exact arithmetic on large integers', () => {
    const operand = fc.integer({ min: -10_000_000_000, max: 10_000_000_000 });
    fc.assert(
      fc.property(
        operand,
        fc.integer({ min: -1_000_000, max: 1_000_000 }),
        fc.integer({ min: 1, max: 1_000_000 }),
        (a, b, by) => {
          const product = BigInt(a) * BigInt(b);
          const size = product < 0n ? -product : product;
          const rounded = size / BigInt(by) + (2n * (size % BigInt(by)) >= BigInt(by) ? 1n : 0n);
          fc.pre(rounded <= BigInt(Number.MAX_SAFE_INTEGER));
          expect(BigInt(multiplyDivide(a, b, by))).toBe(product < 0n ? -rounded : rounded);
        },
      ),
    );
  });

  it('refuses what is not an integer', () => {
    expect(() => multiplyDivide(0.5, 1, 1)).toThrow(OutOfRangeError);
    expect(() => sum([Number.MAX_SAFE_INTEGER, 1])).toThrow(OutOfRangeError);
  });
});

describe('amounts in figures', () => {
  it('groups thousands, shows all decimals and puts the sign first', () => {
    expect(formatMoney(184_620)).toBe('1,846.20');
    expect(formatMoney(-1800)).toBe('−18.00');
    expect(formatMoney(5)).toBe('0.05');
    expect(formatMoney(1500, 0)).toBe('1,500');
    expect(formatMoney(1_234_567, 3)).toBe('1,234.567');
  });

  it('reads what people type', () => {
    expect(parseMoney('12')).toBe(1200);
    expect(parseMoney('12.5')).toBe(1250);
    expect(parseMoney('12,50')).toBe(1250);
    expect(parseMoney('1,234.50')).toBe(123_450);
    expect(parseMoney(' .99 ')).toBe(99);
    expect(parseMoney('1500', 0)).toBe(1500);
  });

  it.each(['', '.', 'x', '1.234', '1.2.3', '--1', '12 50', '1e3'])('refuses %j', (text) => {
    expect(parseMoney(text)).toBeNull();
  });

  it('reads back what it wrote', () => {
    fc.assert(
      fc.property(fc.maxSafeInteger(), fc.constantFrom(0, 2, 3), (amount, digits) => {
        expect(parseMoney(formatMoney(amount, digits), digits)).toBe(amount);
      }),
    );
  });
});
