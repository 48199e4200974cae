import { describe, expect, it } from 'vitest';
import { writeFiguresAs } from './locale.ts';
import { formatFactor, formatRate, parseFactor, parseRate, rateOf } from './rate.ts';

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

  it('and what one of a currency is worth are read with a comma or a point, and written as the shop does', () => {
    expect(['0.72', '0,72', '1', '1650,5'].map(parseFactor)).toEqual([
      720_000, 720_000, 1_000_000, 1_650_500_000,
    ]);
    expect(['', '-1', '1.2345678', '0.7.2', 'a'].map(parseFactor)).toEqual([null, null, null, null, null]);
    writeFiguresAs('de-DE');
    expect([720_000, 1_000_000, 1_650_500_000].map(formatFactor)).toEqual(['0,72', '1', '1650,5']);
    writeFiguresAs('en-US');
    expect(formatFactor(1)).toBe('0.000001');
  });
});
