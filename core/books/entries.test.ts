import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { openingOf } from '../drawer/opening.ts';
import { sum } from '../money.ts';
import {
  balanced,
  closingEntries,
  explainedEntries,
  invoiceEntries,
  openingEntries,
  saleEntries,
  UnbalancedError,
  type LedgerEntry,
  type PostedSale,
} from './entries.ts';

const amount = fc.integer({ min: 0, max: 10_000_000 });
const cash = (total: number): PostedSale => ({
  tillId: 1,
  total,
  taxes: [],
  tenders: [{ kind: 'cash', amount: total, handed: total, tip: 0, subject: '' }],
  valueSold: [],
  onAccounts: [],
  deposits: [],
  donation: null,
  cashRounding: 0,
  returned: 0,
  reductions: [],
});
const of = (entries: LedgerEntry[], account: string) =>
  sum(entries.filter((one) => one.account === account).map((one) => one.amount));

describe('ledger entries', () => {
  it('balance for every event', () => {
    fc.assert(
      fc.property(
        amount,
        amount,
        amount,
        fc.integer({ min: -5000, max: 5000 }),
        (total, tax, banked, variance) => {
          const taxes = [{ rateId: 1, name: 'Tax', rate: 1, base: total, tax }];
          for (const entries of [
            saleEntries({ ...cash(total + tax), taxes }),
            openingEntries({ tillId: 1, ...openingOf(total, banked, variance) }),
            closingEntries({ tillId: 1, variance, banked }),
          ]) {
            expect(sum(entries.map((entry) => entry.amount))).toBe(0);
            expect(entries.every((entry) => entry.amount !== 0)).toBe(true);
          }
        },
      ),
    );
  });

  it('follow the cash of a drawer through a day', () => {
    const day = [
      ...openingEntries({ tillId: 2, ...openingOf(20_000, 15_000, 5000) }),
      ...saleEntries({
        ...cash(10_750),
        tillId: 2,
        taxes: [{ rateId: 1, name: 'Tax', rate: 75_000, base: 10_000, tax: 750 }],
      }),
      ...closingEntries({ tillId: 2, variance: -100, banked: 10_650 }),
    ];
    expect(15_000 + of(day, 'cash')).toBe(20_000);
    expect(of(day, 'sales')).toBe(-10_000);
    expect(of(day, 'tax-payable')).toBe(-750);
    expect(of(day, 'over-short')).toBe(100);
  });

  it('say what a difference was, and what a supplier is owed', () => {
    // What was short went out and nobody noted it: the books show no shortage any more.
    const shift = [
      ...closingEntries({ tillId: 2, variance: -500, banked: 0 }),
      ...explainedEntries({ tillId: 2, amount: -500 }),
    ];
    expect([of(shift, 'over-short'), of(shift, 'petty-cash'), of(shift, 'cash')]).toEqual([0, 500, -500]);
    const bill = invoiceEntries({ supplierId: 4, total: 12_000 });
    expect(bill.map(({ account, subject, amount: much }) => [account, subject, much])).toEqual([
      ['goods-received', 'supplier:4', 12_000],
      ['suppliers', 'supplier:4', -12_000],
    ]);
  });

  it('put every tender where its money is, and what is owed where it is owed', () => {
    const entries = saleEntries({
      ...cash(0),
      total: 100_00,
      taxes: [{ rateId: 1, name: 'Tax', rate: 75_000, base: 50_00, tax: 3_75 }],
      tenders: [
        { kind: 'stored-value', amount: 20_00, handed: 20_00, tip: 0, subject: 'gift-card' },
        { kind: 'card', amount: 60_08, handed: 60_08, tip: 5_00, subject: 'terminal:1' },
        { kind: 'foreign-cash', amount: 15_00, handed: 18_00, tip: 0, subject: '' },
        { kind: 'cash', amount: 5_02, handed: 10_00, tip: 0, subject: '' },
        { kind: 'stored-value', amount: 0, handed: 0, tip: 0, lapses: 3_00, subject: 'certificate' },
      ],
      valueSold: [{ kind: 'gift-card', amount: 25_00 }],
      donation: { fundId: 4, amount: 8 },
      cashRounding: 2,
    });
    expect(sum(entries.map((entry) => entry.amount))).toBe(0);
    expect(of(entries, 'sales')).toBe(-(100_00 - 3_75 - 25_00));
    expect(of(entries, 'stored-value')).toBe(20_00 - 25_00 + 3_00);
    expect(of(entries, 'lapsed-value')).toBe(-3_00);
    expect(of(entries, 'card-clearing')).toBe(65_08);
    expect(of(entries, 'tips-payable')).toBe(-5_00);
    expect(of(entries, 'foreign-cash')).toBe(18_00);
    expect(of(entries, 'cash')).toBe(5_02 - 3_00);
    expect(of(entries, 'donations-payable')).toBe(-8);
    expect(of(entries, 'cash-rounding')).toBe(-2);
  });

  it('are refused when they do not add up', () => {
    expect(() => balanced([{ account: 'cash', subject: '', amount: 1 }])).toThrow(UnbalancedError);
  });
});
