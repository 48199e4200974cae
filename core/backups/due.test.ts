import { describe, expect, it } from 'vitest';
import { backupDue, backupLate, diskLow, sizeInWords } from './due.ts';

const at = (hours: number) => new Date(Date.UTC(2026, 9, 2) + hours * 3_600_000);
const moment = { now: at(20), last: at(0), sold: null, drawerOpen: true, failed: null };

describe('a backup by itself', () => {
  it('is due when there is none, and a day after the last one, also while drawers are open', () => {
    expect(backupDue({ ...moment, last: null })).toBe(true);
    expect(backupDue({ ...moment, now: at(23.9) })).toBe(false);
    expect(backupDue({ ...moment, now: at(24) })).toBe(true);
  });

  it('is due when the last drawer is closed and something was sold since', () => {
    expect(backupDue({ ...moment, sold: at(19) })).toBe(false);
    expect(backupDue({ ...moment, drawerOpen: false })).toBe(false);
    expect(backupDue({ ...moment, drawerOpen: false, sold: at(19) })).toBe(true);
    expect(backupDue({ ...moment, drawerOpen: false, sold: at(19), last: at(19.5) })).toBe(false);
  });

  it('that failed is tried again after an hour', () => {
    expect(backupDue({ ...moment, last: null, failed: at(19.5) })).toBe(false);
    expect(backupDue({ ...moment, last: null, failed: at(19) })).toBe(true);
  });

  it('is late after two days, counted from the first start where there is none', () => {
    expect(backupLate(at(47), at(0), at(-100))).toBe(false);
    expect(backupLate(at(48), at(0), at(-100))).toBe(true);
    expect(backupLate(at(47), null, at(0))).toBe(false);
    expect(backupLate(at(49), null, at(0))).toBe(true);
  });
});

it('says that a disk is nearly full while three more backups still fit', () => {
  expect(diskLow(600e6, 100e6)).toBe(false);
  expect(diskLow(400e6, 1e6)).toBe(true);
  expect(diskLow(2.9e9, 1e9)).toBe(true);
});

it('says sizes in words', () => {
  expect([1, 339_600_000, 1_240_000_000].map(sizeInWords)).toEqual(['1 MB', '340 MB', '1.2 GB']);
});
