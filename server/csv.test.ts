import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { csv } from './csv.ts';

describe('comma-separated values', () => {
  it('have plain amounts, quotes and breaks that survive, and no formulas', () => {
    const text = csv(
      ['what', 'amount', 'count'],
      [
        ['Strap, "wide"\nblack', { amount: -12_345_67 }, 3],
        ['=HYPERLINK("x")', { amount: 5 }, -1],
        ['@name', null, 0],
      ],
      2,
    );
    expect(text.split('\r\n')[0]).toBe('what,amount,count');
    expect(parse(text)).toEqual([
      ['what', 'amount', 'count'],
      ['Strap, "wide"\nblack', '-12345.67', '3'],
      ['\'=HYPERLINK("x")', '0.05', '-1'],
      ["'@name", '', '0'],
    ]);
  });

  it('follow the currency', () => {
    expect(csv(['a'], [[{ amount: -1234 }]], 0)).toBe('a\r\n-1234\r\n');
    expect(csv(['a'], [[{ amount: 1234 }]], 3)).toBe('a\r\n1.234\r\n');
  });
});
