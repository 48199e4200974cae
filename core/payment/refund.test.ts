import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { paidTo, refundProblem, type RefundFacts, type WantedRefund } from './refund.ts';

const facts = (more: Partial<RefundFacts> = {}): RefundFacts => ({
  amount: 100,
  creditOnly: 0,
  mostCash: 40,
  payments: [
    { key: 'a', name: 'Card', left: 60, open: true },
    { key: 'b', name: 'Cheque', left: 40, open: false },
  ],
  hasAccount: false,
  hasCustomer: false,
  ...more,
});
const part = (
  id: string,
  to: WantedRefund['to'],
  amount: number,
  along: string | null = null,
): WantedRefund => ({
  id,
  to,
  along,
  amount,
});
const kindOf = (parts: WantedRefund[], more: Partial<RefundFacts> = {}) =>
  refundProblem(facts(more), parts)?.kind ?? 'allowed';

describe('the parts of a refund', () => {
  it('are judged together', () => {
    expect(kindOf([part('1', 'tender', 60, 'a'), part('2', 'cash', 40)])).toBe('allowed');
    expect(kindOf([part('1', 'tender', 30, 'a'), part('2', 'tender', 31, 'a')])).toBe('too-much-along');
    expect(kindOf([part('1', 'tender', 60, 'a'), part('2', 'cash', 41)])).toBe('too-much');
    expect(kindOf([part('1', 'tender', 1, 'a'), part('1', 'cash', 1)])).toBe('same-id');
  });

  it('go along what takes money back, to somebody who is known, and as credit without a receipt', () => {
    expect(kindOf([part('1', 'tender', 1, 'b')])).toBe('not-along');
    expect(kindOf([part('1', 'tender', 1, 'c')])).toBe('not-along');
    expect(kindOf([part('1', 'store-credit', 1)])).toBe('no-customer');
    expect(kindOf([part('1', 'store-credit', 1)], { hasCustomer: true })).toBe('allowed');
    expect(kindOf([part('1', 'cash', 71)], { creditOnly: 30 })).toBe('credit-only');
    expect(
      kindOf([part('1', 'cash', 70), part('2', 'store-credit', 30)], { creditOnly: 30, hasCustomer: true }),
    ).toBe('allowed');
  });

  it('that are allowed never give more back along a payment than is left on it (law)', () => {
    const payments = fc.array(fc.record({ left: fc.integer({ min: 0, max: 500 }), open: fc.boolean() }), {
      maxLength: 4,
    });
    const parts = fc.array(
      fc.record({
        to: fc.constantFrom('tender', 'cash', 'store-credit'),
        at: fc.nat(4),
        amount: fc.integer({ min: 1, max: 300 }),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(payments, parts, fc.integer({ min: 0, max: 900 }), (known, wanted, amount) => {
        const given = facts({
          amount,
          hasCustomer: true,
          payments: known.map((one, at) => ({ ...one, key: `p${at}`, name: 'x' })),
        });
        const list = wanted.map((one, at) =>
          part(`${at}`, one.to as WantedRefund['to'], one.amount, `p${one.at}`),
        );
        if (refundProblem(given, list)) return;
        expect(sum(list.map((one) => one.amount))).toBeLessThanOrEqual(amount);
        for (const { key, left } of given.payments) {
          const back = list.filter((one) => one.to === 'tender' && one.along === key);
          expect(paidTo(back, 'tender')).toBeLessThanOrEqual(left);
        }
      }),
    );
  });
});
