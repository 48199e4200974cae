import { describe, expect, it } from 'vitest';
import { CURRENCIES, currencyOf } from './currency.ts';

describe('the currencies a shop can choose', () => {
  it('are all that are paid with, of 0, 2 and 3 decimals (ISO 4217)', () => {
    const digits = (code: string) => currencyOf(code).digits;
    expect(['USD', 'EUR', 'PLN', 'INR', 'XOF', 'XCD'].map(digits)).toEqual([2, 2, 2, 2, 0, 2]);
    expect(['JPY', 'KRW', 'ISK', 'CLP', 'VND'].map(digits)).toEqual([0, 0, 0, 0, 0]);
    expect(['KWD', 'BHD', 'OMR', 'TND', 'JOD', 'IQD', 'LYD'].map(digits)).toEqual([3, 3, 3, 3, 3, 3, 3]);
    expect(CURRENCIES.length).toBeGreaterThan(145);
    expect(new Set(CURRENCIES.map(({ code }) => code)).size).toBe(CURRENCIES.length);
  });

  it.each(['XXX', 'XTS', 'XAU', 'CLF', 'UYW', 'CHE', 'ABC'])('know no %s', (code) => {
    expect(() => currencyOf(code)).toThrow(RangeError);
  });

  it('have pieces from the largest to the smallest, down to one minor unit or the smallest coin', () => {
    for (const { pieces } of CURRENCIES) {
      const values = pieces.map(({ value }) => value);
      expect(values).toEqual(values.toSorted((a, b) => b - a));
      expect(new Set(values).size).toBe(values.length);
      expect(values.every((value) => Number.isSafeInteger(value) && value > 0)).toBe(true);
    }
  });
});
