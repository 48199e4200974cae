import { describe, expect, it } from 'vitest';
import { sendAgainAt } from './sendAgain.ts';

const asked = new Date('2026-03-02T15:00:00Z');

describe('a message that could not be sent', () => {
  it('waits twice as long each time, at most an hour, and is given up after four days', () => {
    let now = asked;
    const waits: number[] = [];
    for (let tries = 1; ; tries += 1) {
      const next = sendAgainAt(asked, now, tries);
      if (!next) break;
      waits.push((next.getTime() - now.getTime()) / 1000);
      now = next;
    }
    expect(waits.slice(0, 9)).toEqual([30, 60, 120, 240, 480, 960, 1920, 3600, 3600]);
    const days = (now.getTime() - asked.getTime()) / 86_400_000;
    expect(days).toBeGreaterThanOrEqual(4);
    expect(days).toBeLessThan(4.1);
    expect(waits.length).toBeLessThan(110);
  });
});
