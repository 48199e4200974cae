import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { csv } from './csv.ts';

const place = (digits: number) => ({ digits, timezone: 'America/New_York' });

describe('comma-separated values', () => {
  it('have plain amounts, quotes and breaks that survive, and no formulas', () => {
    const text = csv(
      ['what', 'amount', 'count'],
      [
        ['Strap, "wide"\nblack', { amount: -12_345_67 }, 3],
        ['=HYPERLINK("x")', { amount: 5 }, -1],
        ['@name', null, 0],
      ],
      place(2),
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
    expect(csv(['a'], [[{ amount: -1234 }]], place(0))).toBe('a\r\n-1234\r\n');
    expect(csv(['a'], [[{ amount: 1234 }]], place(3))).toBe('a\r\n1.234\r\n');
  });

  it('have times as the shop has them, with their offset, summer and winter', () => {
    const rows = [[{ at: '2026-03-02T15:00:00.000Z' }], [{ at: '2026-07-02T15:00:00Z' }]];
    expect(csv(['at'], rows, place(2))).toBe(
      'at\r\n2026-03-02T10:00:00-05:00\r\n2026-07-02T11:00:00-04:00\r\n',
    );
  });
});
