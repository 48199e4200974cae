import { describe, expect, it } from 'vitest';
import { bankColumns, guessAccount, type BankAccount } from './bankLines.ts';

const choir: BankAccount = {
  id: 2,
  number: 'A-0002',
  name: 'St Orrin Chapel Choir',
  owed: 8_900,
  open: [{ receipt: '1-0042', reference: '', remaining: 5_000 }],
};
const schools: BankAccount = {
  id: 1,
  number: 'A-0001',
  name: 'Ferrisport Schools',
  owed: 21_450,
  open: [{ receipt: '2-0007', reference: 'PO 4711', remaining: 21_450 }],
};
const ALL = [choir, schools];
const line = (amount: number, words: string, payer = '') => ({ day: '2026-03-01', amount, words, payer });

describe('a line of the bank', () => {
  it('is surely for the account that its words name, where the amount fits', () => {
    expect(guessAccount(line(8_900, 'house account a-0002'), ALL)).toMatchObject({
      accountId: 2,
      sure: true,
    });
    expect(guessAccount(line(5_000, 'receipt 1-0042'), ALL)).toMatchObject({ accountId: 2, sure: true });
    expect(guessAccount(line(21_450, 'our PO 4711'), ALL)).toMatchObject({ accountId: 1, sure: true });
    expect(guessAccount(line(21_450, '', 'FERRISPORT SCHOOLS'), ALL)).toMatchObject({
      accountId: 1,
      sure: true,
    });
  });

  it('is likely for the account that it names with another amount, or that its amount fits alone', () => {
    expect(guessAccount(line(100, 'A-0001'), ALL)).toMatchObject({
      accountId: 1,
      sure: false,
      why: 'names A-0001',
    });
    expect(guessAccount(line(8_900, 'thanks'), ALL)).toMatchObject({ accountId: 2, sure: false });
  });

  it('is for nobody known where nothing speaks, or too much', () => {
    expect(guessAccount(line(100, 'thanks'), ALL)).toBeNull();
    expect(guessAccount(line(100, 'A-0001 and A-0002'), ALL)).toBeNull();
    expect(guessAccount(line(8_900, ''), [choir, { ...schools, owed: 8_900 }])).toBeNull();
    // A number inside another one names nobody.
    expect(guessAccount(line(100, 'A-00021'), ALL)).toBeNull();
  });

  it('has its columns found by their headings', () => {
    expect(bankColumns(['Booking date', 'Payer', 'Reference', 'Amount'])).toEqual({
      day: 0,
      payer: 1,
      words: 2,
      amount: 3,
    });
    expect(bankColumns(['a', 'b'])).toEqual({});
  });
});
