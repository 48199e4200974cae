import { describe, expect, it } from 'vitest';
import { formatRate, parseRate, rateOf } from './rate.ts';

describe('rates', () => {
  it('are read and written in per cent, thirds as fractions', () => {
    expect([parseRate('7.5'), parseRate('12 %'), parseRate('1/3'), parseRate('2 / 3')]).toEqual([
      75_000, 120_000, 333_333, 666_667,
    ]);
    expect([parseRate('101'), parseRate('1/4'), parseRate('')]).toEqual([null, null, null]);
    expect([75_000, 333_333, 666_667, 1_000_000].map(formatRate)).toEqual(['7.5 %', '1/3', '2/3', '100 %']);
  });

  it('take exactly a third, of large amounts, too', () => {
    expect(rateOf(3000, 333_333)).toBe(1000);
    expect(rateOf(6_000_000, 333_333)).toBe(2_000_000);
    expect(rateOf(6_000_000, 333_333) + rateOf(6_000_000, 666_667)).toBe(6_000_000);
    expect(rateOf(1000, 75_000)).toBe(75);
  });
});
