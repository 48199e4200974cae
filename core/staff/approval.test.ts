import { describe, expect, it } from 'vitest';
import {
  APPROVAL_LASTS_MS,
  approvalProblem,
  coversOf,
  stepWords,
  type Approval,
  type Step,
} from './approval.ts';

const step = (more: Partial<Step> = {}): Step => ({
  subject: 'line:a',
  from: 4500,
  to: 4000,
  unit: 'money',
  amount: 500,
  ...more,
});
const approval = (covers: Step[], more: Partial<Approval> = {}): Approval => ({
  id: 'k',
  right: 'price.change',
  covers: coversOf(covers),
  sessionId: 7,
  at: 1_000,
  usedFor: null,
  ...more,
});
const taker = { sessionId: 7, at: 2_000, usedFor: 'basket' };
const judged = (given: Approval | undefined, steps: Step[], by = taker) =>
  approvalProblem(given, 'price.change', steps, by)?.kind ?? 'allowed';

describe('an approval', () => {
  it('allows just the step that it names, up to its amount', () => {
    const given = approval([step()]);
    expect(judged(given, [step()])).toBe('allowed');
    expect(judged(given, [step({ amount: 499 })])).toBe('allowed');
    for (const other of [{ to: 1 }, { amount: 501 }, { from: 9000 }, { subject: 'line:b' }])
      expect(judged(given, [step(other)]), JSON.stringify(other)).toBe('differs');
    expect(approvalProblem(given, 'tax.exempt', [step()], taker)?.kind).toBe('none');
    expect(judged(undefined, [step()])).toBe('none');
  });

  it('is given once: steps that rest on it are added up', () => {
    expect(judged(approval([step()]), [step({ amount: 300 }), step({ amount: 300 })])).toBe('differs');
    const both = approval([step({ amount: 300 }), step({ amount: 300 })]);
    expect(judged(both, [step({ amount: 300 }), step({ amount: 300 })])).toBe('allowed');
    const two = approval([step(), step({ subject: 'line:b' })]);
    expect(judged(two, [step({ subject: 'line:b' })])).toBe('allowed');
  });

  it('is for the session that asked, within two minutes, and for one thing', () => {
    const given = approval([step()]);
    expect(judged(given, [step()], { ...taker, sessionId: 8 })).toBe('other-session');
    expect(judged(given, [step()], { ...taker, at: 1_000 + APPROVAL_LASTS_MS })).toBe('allowed');
    expect(judged(given, [step()], { ...taker, at: 1_001 + APPROVAL_LASTS_MS })).toBe('expired');
    const used = approval([step()], { usedFor: 'basket' });
    // Once used, it stays with its basket, whoever goes on with it and however late.
    expect(judged(used, [step()], { sessionId: 8, at: 9e12, usedFor: 'basket' })).toBe('allowed');
    expect(judged(used, [step()], { ...taker, usedFor: 'other' })).toBe('used');
  });

  it('reads in figures', () => {
    expect(stepWords(step(), 2)).toBe('45.00 to 40.00, 5.00');
    expect(stepWords(step({ from: null, to: 200_000, unit: 'rate', amount: 900 }), 2)).toBe('20 %, 9.00');
    expect(stepWords(step({ from: null, to: 500 }), 2)).toBe('5.00');
    expect(stepWords(step({ from: 2000, to: 0, unit: 'quantity', amount: null }), 2)).toBe('2 to 0');
    expect(stepWords(step({ from: null, to: null, amount: null }), 2)).toBe('');
  });
});
