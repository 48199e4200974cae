import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  accountNumber,
  chargeProblem,
  freeOn,
  limitWords,
  mostCharge,
  overLimit,
  overLimitStep,
  type AccountFacts,
} from './account.ts';

const account = (over: Partial<AccountFacts> = {}): AccountFacts => ({
  id: 7,
  customerId: 3,
  name: 'Ferrisport Schools',
  limit: 10_000,
  owed: 4_000,
  held: 1_000,
  blocked: false,
  asksFor: '',
  most: null,
  overdue: 0,
  ...over,
});

describe('a house account', () => {
  it('has a number that whoever pays by bank writes', () => {
    expect(accountNumber(7)).toBe('A-0007');
  });

  it('takes what is left of its limit, less what other tills hold', () => {
    expect(freeOn(account())).toBe(5_000);
    expect(freeOn(account({ owed: 12_000 }))).toBe(0);
    expect(freeOn(account({ owed: -2_000 }))).toBe(11_000);
  });

  it('is filled in with what may go on it: never more than is to be paid, than is free, or than the buyer may', () => {
    expect(mostCharge(account(), 3_000)).toBe(3_000);
    expect(mostCharge(account(), 8_000)).toBe(5_000);
    expect(mostCharge(account({ most: 2_000 }), 8_000)).toBe(2_000);
  });

  it('says what it needs before it is charged', () => {
    expect(chargeProblem(account(), { reference: '' })).toBeNull();
    expect(chargeProblem(account({ asksFor: 'Order number' }), { reference: '' })).toEqual({
      field: 'reference',
      words: 'Order number is missing.',
    });
    expect(chargeProblem(account({ blocked: true }), { reference: '' })?.field).toBe('accountId');
  });

  it('is over its limit by what does not fit, or by what the buyer may not', () => {
    expect(overLimit(account(), { amount: 5_000, before: 0 })).toBe(0);
    expect(overLimit(account(), { amount: 5_001, before: 0 })).toBe(1);
    expect(overLimit(account({ most: 2_000 }), { amount: 1_500, before: 1_000 })).toBe(500);
    expect(limitWords(account(), 1, 2)).toBe(
      '0.01 over: 50.00 may still go on the account of Ferrisport Schools.',
    );
    expect(limitWords(account({ most: 2_000 }), 500, 2)).toContain('20.00 that they may charge');
    expect(overLimitStep(7, 500)).toMatchObject({ subject: 'account:7', amount: 500 });
  });

  it('needs no approval for what it is filled in with', () => {
    const money = fc.integer({ min: -50_000, max: 50_000 });
    fc.assert(
      fc.property(
        money,
        money,
        fc.nat(50_000),
        fc.nat(50_000),
        fc.option(fc.integer({ min: 1, max: 9_000 })),
        (owed, _, limit, left, most) => {
          const facts = account({ owed, limit, held: 0, most });
          const amount = mostCharge(facts, left);
          expect(amount).toBeLessThanOrEqual(left);
          expect(overLimit(facts, { amount, before: 0 })).toBe(0);
        },
      ),
    );
  });
});
