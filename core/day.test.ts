import fc from 'fast-check';
import { DateTime } from 'luxon';
import { describe, expect, it } from 'vitest';
import { dayLater, daysBetween, lastOfMonth, monthOf, weekdayOf } from './day.ts';

const day = fc
  .date({ min: new Date('1900-01-01'), max: new Date('2199-12-31'), noInvalidDate: true })
  .map((at) => at.toISOString().slice(0, 10));
const inCalendar = (text: string) => DateTime.fromISO(text, { zone: 'utc' });

describe('days of the calendar', () => {
  it('come so many days and months later as the calendar has it', () => {
    fc.assert(
      fc.property(day, fc.integer({ min: -800, max: 800 }), (from, many) => {
        expect(dayLater(from, { days: many })).toBe(inCalendar(from).plus({ days: many }).toISODate());
        expect(dayLater(from, { months: many })).toBe(inCalendar(from).plus({ months: many }).toISODate());
        expect(daysBetween(from, dayLater(from, { days: many }))).toBe(many);
      }),
    );
  });

  it('are days of a week and of a month', () => {
    fc.assert(
      fc.property(day, (one) => {
        expect(weekdayOf(one)).toBe(inCalendar(one).weekday - 1);
        expect(monthOf(one)).toBe(inCalendar(one).startOf('month').toISODate());
        expect(lastOfMonth(one)).toBe(inCalendar(one).endOf('month').toISODate());
      }),
    );
  });

  it('that are none are as far from any as nothing can say', () => {
    expect(daysBetween('2026-03-02', '')).toBeNaN();
  });
});
