import { describe, expect, it } from 'vitest';
import { cancelThereProblem, channelPrefixProblem, isOrderReference, payThereProblem } from './channel.ts';
import { goesBack } from './promised.ts';

const ORDER = {
  state: 'placed' as const,
  handed: 0,
  held: 40_00,
  heldThere: 40_00,
  beingPaid: false,
  lines: [],
};

describe('an order that was placed elsewhere', () => {
  it('has letters, a dash and a number there', () => {
    for (const text of ['WEB-1001', ' web-7 ', 'MARKT-2A', 'CORRAN-12'])
      expect(isOrderReference(text)).toBe(true);
    for (const text of [
      'W-1001',
      'O-0001',
      '1-0001',
      'WEB',
      'WEB-',
      'LONGER-AND-1',
      'Sorrento-Haye',
      '4006381333931',
    ])
      expect(isOrderReference(text)).toBe(false);
  });

  it('is cancelled there while nothing has left, and nothing was paid here', () => {
    expect(cancelThereProblem(ORDER)).toBeNull();
    expect(cancelThereProblem({ ...ORDER, held: 0, heldThere: 0 })).toBeNull();
    expect(cancelThereProblem({ ...ORDER, state: 'handed' })).toContain('handed over');
    expect(cancelThereProblem({ ...ORDER, handed: 1000 })).toContain('Some of it');
    expect(cancelThereProblem({ ...ORDER, beingPaid: true })).toContain('just now');
    expect(cancelThereProblem({ ...ORDER, held: 50_00 })).toContain('at the shop');
  });

  it('gives back at a till only what was not paid there', () => {
    expect(goesBack({ held: 50_00, heldThere: 40_00 })).toBe(10_00);
    expect(goesBack({ held: 30_00, heldThere: 40_00 })).toBe(0);
  });

  it('is paid there no more than is left, and not while it is paid here', () => {
    const order = { ...ORDER, rest: 50_00 };
    expect(payThereProblem(order, 10_00)).toBeNull();
    expect(payThereProblem(order, 10_01)).toContain('More was paid');
    expect(payThereProblem({ ...order, beingPaid: true }, 1)).toContain('just now');
    expect(payThereProblem({ ...order, state: 'cancelled' }, 1)).toContain('Nothing waits');
  });

  it('keeps the beginning of its number', () => {
    expect(channelPrefixProblem('WEB', 'WEB', true)).toBeNull();
    expect(channelPrefixProblem('WEB', 'NET', false)).toBeNull();
    expect(channelPrefixProblem('WEB', 'NET', true)).toContain('WEB');
  });
});
