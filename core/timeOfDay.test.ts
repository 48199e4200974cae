import { describe, expect, it } from 'vitest';
import { LOCALES } from './locale.ts';
import { formatTimeOfDay, parseTimeOfDay } from './timeOfDay.ts';

const TIMES = Array.from({ length: 24 * 60 }, (_, minute) =>
  [Math.floor(minute / 60), minute % 60].map((one) => String(one).padStart(2, '0')).join(':'),
);

describe('times of day', () => {
  it('are written as the shop does', () => {
    const written = (time: string) => ['en-US', 'de-DE', 'en-GB'].map((one) => formatTimeOfDay(time, one));
    expect(written('14:05')).toEqual(['2:05 PM', '14:05', '14:05']);
    expect(formatTimeOfDay('00:00', 'en-US')).toBe('12:00 AM');
    expect(formatTimeOfDay('24:00')).toBe('24:00');
    expect(formatTimeOfDay('soon')).toBe('soon');
  });

  it('are read as they are written, wherever the shop is', () => {
    for (const locale of LOCALES)
      expect(TIMES.filter((time) => parseTimeOfDay(formatTimeOfDay(time, locale), locale) !== time)).toEqual(
        [],
      );
  });

  it('are read as people type them, and nothing else is', () => {
    const typed = [
      '9',
      '930',
      '0930',
      '9:30',
      '9.30',
      '21:30',
      '9:30 pm',
      '9 PM',
      '12am',
      '12:15 p.m.',
      '24:00',
    ];
    expect(typed.map((text) => parseTimeOfDay(text, 'en-US'))).toEqual([
      ...['09:00', '09:30', '09:30', '09:30', '09:30', '21:30', '21:30', '21:00', '00:00', '12:15', '24:00'],
    ]);
    for (const text of ['', 'noon', '25', '9:75', '9:5', '24:30', '13 pm', '0 am', '9:30 xm', '9:30:15'])
      expect(parseTimeOfDay(text, 'en-US')).toBeNull();
  });
});
