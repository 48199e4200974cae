import { expect, it } from 'vitest';
import { shopTime } from './clock.ts';

it('date and time are written as the shop does, in the calendar in which days are typed', () => {
  const at = new Date('2026-03-02T10:00:00Z');
  const written = (locale: string, timezone: string) => shopTime(at, { locale, timezone });
  expect(written('en-US', 'America/New_York')).toBe('3/2/2026, 5:00 AM');
  expect(written('de-DE', 'Europe/Berlin')).toBe('2.3.2026, 11:00');
  expect(written('th-TH', 'Asia/Bangkok')).toContain('2/3/2026');
});
