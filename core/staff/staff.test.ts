import { describe, expect, it } from 'vitest';
import { PIN_PATTERN, pinDelay, stillCounted } from './pinDelay.ts';
import { nightPassed } from './sessionEnd.ts';
import { RIGHTS, ROLE_RIGHTS, ROLES } from './rights.ts';

describe('staff', () => {
  it('waits longer with every wrong PIN, up to five minutes', () => {
    expect([0, 1, 2, 3, 4, 5, 6].map((wrong) => pinDelay(wrong))).toEqual([0, 0, 0, 2, 4, 8, 16]);
    expect(pinDelay(100)).toBe(300);
    // Several tills may stand behind one address.
    expect([0, 8, 9, 10].map((wrong) => pinDelay(wrong, 'pin source'))).toEqual([0, 0, 2, 4]);
  });

  it('forgets wrong PINs with time only', () => {
    expect(stillCounted(3, 0)).toBe(3);
    expect(stillCounted(3, -1)).toBe(3);
    expect(stillCounted(3, 300_000)).toBe(2);
    expect(stillCounted(3, 3_600_000)).toBe(0);
  });

  it('ends sessions with the night', () => {
    const dayOf = (at: Date) => at.toISOString().slice(0, 10);
    const passed = (from: string, to: string) => nightPassed(new Date(from), new Date(to), dayOf);
    expect(passed('2026-03-02T09:00:00Z', '2026-03-02T23:59:00Z')).toBe(false);
    // Who sells past midnight goes on.
    expect(passed('2026-03-02T22:00:00Z', '2026-03-03T03:59:00Z')).toBe(false);
    expect(passed('2026-03-02T22:00:00Z', '2026-03-03T04:00:00Z')).toBe(true);
  });

  it('takes PINs of 4 to 8 digits', () => {
    expect(['1234', '12345678'].every((pin) => PIN_PATTERN.test(pin))).toBe(true);
    expect(['123', '123456789', '12a4', ''].some((pin) => PIN_PATTERN.test(pin))).toBe(false);
  });

  it('gives a manager every right, and others never more than those above them', () => {
    expect(new Set(ROLE_RIGHTS.manager)).toEqual(new Set(Object.keys(RIGHTS)));
    ROLES.slice(1).forEach((role, at) => {
      const below = ROLES[at] ?? 'cashier';
      expect(ROLE_RIGHTS[below].every((right) => ROLE_RIGHTS[role].includes(right))).toBe(true);
    });
  });
});
