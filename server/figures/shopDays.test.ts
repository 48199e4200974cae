import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { saleDay } from '../clock.ts';
import { businessDays } from './shopDays.ts';

describe("the shop's day", () => {
  it.each([
    // The night before the clocks go back in New York, and before they go on in Berlin.
    ['2026-11-01T03:59:00Z', 'America/New_York', 0, '2026-10-31'],
    ['2026-11-01T04:00:00Z', 'America/New_York', 0, '2026-11-01'],
    ['2026-03-29T22:30:00Z', 'Europe/Berlin', 0, '2026-03-30'],
    ['2026-03-29T22:30:00Z', 'Europe/Berlin', 4, '2026-03-29'],
    // A bar that closes at three: what is sold at half past one is of the evening before.
    ['2026-07-04T05:30:00Z', 'America/New_York', 3, '2026-07-03'],
    ['2026-07-04T07:00:00Z', 'America/New_York', 3, '2026-07-04'],
  ])('of %s in %s that ends %i hours after midnight is %s', (at, timezone, dayEnds, day) => {
    expect(saleDay(new Date(at), { timezone, dayEnds })).toBe(day);
  });

  it('has 23, 24 or 25 hours, or half an hour less', () => {
    const hours = (day: string, timezone: string) => {
      const { since, until } = businessDays({ from: day, to: day }, { timezone, dayEnds: 0 });
      return (Date.parse(until) - Date.parse(since)) / 3_600_000;
    };
    expect(hours('2026-03-08', 'America/New_York')).toBe(23);
    expect(hours('2026-11-01', 'America/New_York')).toBe(25);
    expect(hours('2026-11-02', 'America/New_York')).toBe(24);
    expect(hours('2026-04-05', 'Australia/Lord_Howe')).toBe(24.5);
  });

  it('holds each of its moments, and no other one', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2020-01-01'), max: new Date('2035-01-01'), noInvalidDate: true }),
        fc.constantFrom('America/New_York', 'Europe/Berlin', 'Asia/Kolkata', 'Pacific/Auckland', 'UTC'),
        fc.integer({ min: 0, max: 8 }),
        (at, timezone, dayEnds) => {
          const clock = { timezone, dayEnds };
          const day = saleDay(at, clock);
          const { since, until } = businessDays({ from: day, to: day }, clock);
          expect(at.getTime()).toBeGreaterThanOrEqual(Date.parse(since));
          expect(at.getTime()).toBeLessThan(Date.parse(until));
        },
      ),
    );
  });
});
