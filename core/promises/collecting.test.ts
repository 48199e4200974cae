import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { collectProblem, collectTimes, firstCollectTime, type CollectFacts } from './collecting.ts';

describe('times of collection', () => {
  const week = [...Array.from({ length: 6 }, () => ({ from: '09:00', to: '17:00' })), null];
  // A Saturday.
  const facts: CollectFacts = { hours: week, leadMinutes: 120, now: { day: '2026-03-07', time: '15:40' } };

  it('lie within opening hours, and not before the goods can be there', () => {
    expect(collectProblem({ day: '2026-03-07', time: '17:00' }, facts)).toContain(
      'cannot be ready before 5:40 PM',
    );
    expect(collectProblem({ day: '2026-03-08', time: '10:00' }, facts)).toBe(
      'The place is closed on Sundays.',
    );
    expect(collectProblem({ day: '2026-03-09', time: '08:30' }, facts)).toBe(
      'It is open from 9:00 AM to 5:00 PM.',
    );
    expect(collectProblem({ day: '2026-03-09', time: '09:00' }, facts)).toBeNull();
    expect(collectProblem({ day: '2026-09-09', time: '09:00' }, facts)).toBe('At most 90 days ahead.');
    expect(collectProblem({ day: '', time: '09:00' }, facts)).toBe('When are the goods collected?');
    expect(collectProblem({ day: '2026-03-08', time: '03:00' }, { ...facts, hours: [] })).toBeNull();
  });

  it('begin with the first that can be; where it is always closed there is none', () => {
    expect(firstCollectTime(facts)).toEqual({ day: '2026-03-09', time: '09:00' });
    expect(firstCollectTime({ ...facts, leadMinutes: 20 })).toEqual({ day: '2026-03-07', time: '16:00' });
    expect(firstCollectTime({ ...facts, hours: Array.from({ length: 7 }, () => null) })).toBeNull();
    expect(collectTimes('2026-03-09', facts)).toHaveLength(17);
    expect(collectTimes('2026-03-08', facts)).toEqual([]);
  });

  it('that are offered are never refused', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 0, max: 3000 }),
        (ahead, leadMinutes) => {
          const day = new Date(Date.UTC(2026, 2, 7 + ahead)).toISOString().slice(0, 10);
          for (const time of collectTimes(day, { ...facts, leadMinutes }))
            expect(collectProblem({ day, time }, { ...facts, leadMinutes })).toBeNull();
        },
      ),
    );
  });
});
