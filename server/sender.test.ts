import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { clockOf, instant, momentOf, nextDay } from './clock.ts';
import { startSender } from './sender.ts';

beforeEach(() => void vi.useFakeTimers({ now: new Date('2026-03-28T21:00:00Z') }));
afterEach(() => void vi.useRealTimers());

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;

/** A sender that looks for what is due; it counts how often. */
function looking(nextDue: () => Promise<Date | null>) {
  const sendDue = vi.fn(() => Promise.resolve());
  const parts = { clock: clockOf(undefined), log: pino({ level: 'silent' }) };
  const sender = startSender(parts, { what: 'looking', soonestMs: MINUTE, sendDue, nextDue });
  return { sender, sendDue };
}

describe('a sender', () => {
  it('rests until the next one is due', async () => {
    const midnight = () => Promise.resolve(nextDay(new Date(), 'Europe/Berlin'));
    const { sender, sendDue } = looking(midnight);
    sender.wake();
    await vi.advanceTimersByTimeAsync(2 * 60 * MINUTE - 1);
    expect(sendDue).toHaveBeenCalledTimes(1);
    await vi.advanceTimersByTimeAsync(1);
    expect(sendDue).toHaveBeenCalledTimes(2);
    // The next day has 23 hours there.
    await vi.advanceTimersByTimeAsync(23 * 60 * MINUTE - 1);
    expect(sendDue).toHaveBeenCalledTimes(2);
    await vi.advanceTimersByTimeAsync(1);
    expect(sendDue).toHaveBeenCalledTimes(3);
    await sender.stop();
    await vi.advanceTimersByTimeAsync(7 * DAY);
    expect(sendDue).toHaveBeenCalledTimes(3);
  });

  it('does not look again at once for what is overdue, or due in many weeks', async () => {
    const overdue = looking(() => Promise.resolve(new Date('2026-01-01T00:00:00Z')));
    const far = looking(() => Promise.resolve(new Date('2026-12-31T00:00:00Z')));
    overdue.sender.wake();
    far.sender.wake();
    await vi.advanceTimersByTimeAsync(10 * MINUTE);
    expect(overdue.sendDue).toHaveBeenCalledTimes(11);
    expect(far.sendDue).toHaveBeenCalledTimes(1);
    await vi.advanceTimersByTimeAsync(DAY);
    expect(far.sendDue).toHaveBeenCalledTimes(2);
    await Promise.all([overdue.sender.stop(), far.sender.stop()]);
  });
});

describe('a point in time', () => {
  it('is read as SQL writes it, by itself and in JSON; what is none is refused', () => {
    for (const text of ['2026-03-28 21:00:00+00', '2026-03-28T21:00:00+00:00', '2026-03-28T21:00:00.000Z'])
      expect(momentOf(text)).toEqual(new Date('2026-03-28T21:00:00Z'));
    expect(momentOf(null)).toBeNull();
    expect(() => instant('soon')).toThrow(RangeError);
  });
});
