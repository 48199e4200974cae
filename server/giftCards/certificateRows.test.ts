import { describe, expect, it } from 'vitest';
import { certificateRows } from './certificateRows.ts';

const plain = (text: string) =>
  certificateRows(text).map(({ number, amount, expires, once }) => [number, amount, expires, once]);

describe('a list of certificates', () => {
  it('may have commas, semicolons or tabs, a byte order mark and headings by name in any order', () => {
    const wanted = [['X-1', '20.00', '2027-12-31', 'once']];
    expect(plain('X-1,20.00,2027-12-31,once')).toEqual(wanted);
    expect(plain('\uFEFFnumber;amount;until;once\nX-1;20.00;2027-12-31;once')).toEqual(wanted);
    expect(
      plain('once\tvalue\tcustomer\tcertificate\tlast day\nonce\t20.00\tSomebody\tX-1\t2027-12-31'),
    ).toEqual(wanted);
    expect(plain('"number","state","balance"\n"X-1","active","1,250.00"')).toEqual([
      ['X-1', '1,250.00', '', ''],
    ]);
  });

  it('never loses a line by a guess', () => {
    expect(certificateRows('nummer,betrag\nX-1,5')[0]).toMatchObject({ line: 'Line 1', number: 'nummer' });
    expect(certificateRows('number,amount\nX-1,5')).toMatchObject([{ line: 'Line 2', number: 'X-1' }]);
    expect(() => certificateRows('"X-1,5')).toThrow();
  });
});
