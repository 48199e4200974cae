import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import {
  balanced,
  closingEntries,
  openingEntries,
  saleEntries,
  UnbalancedError,
  type LedgerEntry,
} from './entries.ts';

const amount = fc.integer({ min: 0, max: 10_000_000 });
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
            saleEntries({ tillId: 1, total: total + tax, taxes }),
            openingEntries({ tillId: 1, counted: total, left: banked }),
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
      ...openingEntries({ tillId: 2, counted: 20_000, left: 15_000 }),
      ...saleEntries({
        tillId: 2,
        total: 10_750,
        taxes: [{ rateId: 1, name: 'Tax', rate: 75_000, base: 10_000, tax: 750 }],
      }),
      ...closingEntries({ tillId: 2, variance: -100, banked: 10_650 }),
    ];
    expect(15_000 + of(day, 'cash')).toBe(20_000);
    expect(of(day, 'sales')).toBe(-10_000);
    expect(of(day, 'tax-payable')).toBe(-750);
    expect(of(day, 'over-short')).toBe(100);
  });

  it('are refused when they do not add up', () => {
    expect(() => balanced([{ account: 'cash', subject: '', amount: 1 }])).toThrow(UnbalancedError);
  });
});
