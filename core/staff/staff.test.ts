import { describe, expect, it } from 'vitest';
import { PIN_PATTERN, pinDelay } from './pinDelay.ts';
import { RIGHTS, ROLE_RIGHTS, ROLES } from './rights.ts';

describe('staff', () => {
  it('waits longer with every wrong PIN, up to five minutes', () => {
    expect([0, 1, 2, 3, 4, 5, 6].map(pinDelay)).toEqual([0, 0, 0, 2, 4, 8, 16]);
    expect(pinDelay(100)).toBe(300);
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
