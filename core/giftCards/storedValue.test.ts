import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  isMistyped,
  luhnDigit,
  lapsesOf,
  mostOf,
  newStoredValueNumber,
  storedValueProblem,
  type StoredValueFacts,
} from './storedValue.ts';

const amount = fc.integer({ min: 0, max: 10_000_000 });

describe('stored value', () => {
  it('that is used once loses what is left of it', () => {
    expect(lapsesOf({ singleUse: true, balance: 20_00 }, 2_00)).toBe(18_00);
    expect(lapsesOf({ singleUse: true, balance: 20_00 }, 20_00)).toBe(0);
    expect(lapsesOf({ singleUse: false, balance: 20_00 }, 2_00)).toBe(0);
  });

  const card: StoredValueFacts = {
    number: '79927398713',
    kind: 'gift-card',
    state: 'active',
    balance: 50_00,
    held: 0,
    singleUse: false,
    expiresOn: null,
  };

  it('has a number that shows a slip of the finger', () => {
    // The example of the standard's algorithm that is usually given.
    expect(luhnDigit('7992739871')).toBe(3);
    fc.assert(
      fc.property(fc.infiniteStream(fc.integer({ min: 0, max: 9 })), fc.nat(10), (digits, at) => {
        const number = newStoredValueNumber(() => digits.next().value as number);
        expect(isMistyped(number)).toBe(false);
        const wrong = `${number.slice(0, at)}${(Number(number[at]) + 1) % 10}${number.slice(at + 1)}`;
        expect(isMistyped(wrong)).toBe(true);
      }),
    );
  });

  it('gives at most what is left and not held elsewhere', () => {
    fc.assert(
      fc.property(amount, amount, amount, (balance, held, left) => {
        const most = mostOf({ ...card, balance, held }, left);
        expect(most).toBeGreaterThanOrEqual(0);
        expect(most).toBeLessThanOrEqual(left);
        expect(most + held <= balance || most === 0).toBe(true);
      }),
    );
  });

  it('says why it cannot be used', () => {
    const today = '2026-03-02';
    expect(storedValueProblem(card, today)).toBeNull();
    expect(storedValueProblem({ ...card, state: 'frozen' }, today)).toContain('frozen');
    expect(storedValueProblem({ ...card, balance: 0 }, today)).toContain('Nothing is left');
    expect(storedValueProblem({ ...card, balance: 0, usedOn: '2026-02-27' }, today)).toMatch(
      /last used on Feb 27, 2026\.$/,
    );
    expect(storedValueProblem({ ...card, held: 50_00 }, today)).toContain('another till');
    expect(storedValueProblem({ ...card, expiresOn: '2026-03-01' }, today)).toContain('expired');
    expect(storedValueProblem({ ...card, expiresOn: today }, today)).toBeNull();
  });
});
