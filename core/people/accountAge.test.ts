import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ageOf, byAge, daysOverdue, overdueOf, reminderDue } from './accountAge.ts';
import { sum } from '../money.ts';

const TODAY = '2026-03-02';
const AFTER = [7, 21, 42];

describe('what is owed', () => {
  it('is overdue from the day after it is due', () => {
    expect(daysOverdue('2026-03-02', TODAY)).toBe(0);
    expect(daysOverdue('2026-03-01', TODAY)).toBe(1);
    // Over the end of a month, and of a leap year's February.
    expect(daysOverdue('2024-02-28', '2024-03-01')).toBe(2);
  });

  it('is parted by thirty days', () => {
    expect([0, 1, 30, 31, 60, 61, 90, 91].map(ageOf)).toEqual([
      'notDue',
      'days30',
      'days30',
      'days60',
      'days60',
      'days90',
      'days90',
      'older',
    ]);
  });

  it('adds up to the balance by age, credit included', () => {
    const day = fc
      .integer({ min: 0, max: 400 })
      .map((back) => new Date(Date.parse(TODAY) - back * 86_400_000).toISOString().slice(0, 10));
    const item = fc.record({ dueOn: day, remaining: fc.integer({ min: -9_999, max: 99_999 }) });
    fc.assert(
      fc.property(fc.array(item), (items) => {
        const ages = byAge(items, TODAY);
        expect(sum(Object.values(ages))).toBe(sum(items.map(({ remaining }) => remaining)));
        expect(overdueOf(items, TODAY)).toBe(sum(Object.values(ages)) - ages.notDue);
      }),
    );
  });
});

describe('a reminder', () => {
  const owed = (dueOn: string) => [{ dueOn, remaining: 500 }];
  it('is due when its days have passed, as firm as it is time for', () => {
    expect(reminderDue(owed('2026-02-24'), [], AFTER, TODAY)).toBeNull();
    expect(reminderDue(owed('2026-02-23'), [], AFTER, TODAY)).toBe(1);
    expect(reminderDue(owed('2026-01-19'), [], AFTER, TODAY)).toBe(3);
    expect(reminderDue([{ dueOn: '2026-01-01', remaining: -500 }], [], AFTER, TODAY)).toBeNull();
  });

  it('goes out once for each step, and never twice on a day', () => {
    const items = owed('2026-02-01');
    expect(reminderDue(items, [{ step: 2, day: '2026-02-28' }], AFTER, TODAY)).toBeNull();
    expect(reminderDue(items, [{ step: 1, day: '2026-02-10' }], AFTER, TODAY)).toBe(2);
    expect(reminderDue(items, [{ step: 1, day: TODAY }], AFTER, TODAY)).toBeNull();
    // What was reminded of before this was due counts no more.
    expect(reminderDue(items, [{ step: 3, day: '2025-12-01' }], AFTER, TODAY)).toBe(2);
  });
});
