import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { BEAT_MS, SILENT_MS, watchHeartbeat } from './heartbeat.ts';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

describe('the heartbeat of a database server', () => {
  it('is heard again and again, and says nothing', async () => {
    const ask = vi.fn(() => Promise.resolve());
    const silent = vi.fn();
    const stop = watchHeartbeat(ask, silent);
    await vi.advanceTimersByTimeAsync(20 * SILENT_MS);
    stop();
    expect(ask.mock.calls.length).toBe((20 * SILENT_MS) / BEAT_MS);
    expect(silent).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(SILENT_MS);
    expect(ask.mock.calls.length).toBe((20 * SILENT_MS) / BEAT_MS);
  });

  it('that is not heard any more is told once, after a while', async () => {
    const silent = vi.fn();
    watchHeartbeat(() => new Promise(() => {}), silent);
    await vi.advanceTimersByTimeAsync(SILENT_MS);
    expect(silent).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(10 * SILENT_MS);
    expect(silent.mock.calls).toEqual([['PostgreSQL has not answered for 30 seconds.']]);
  });

  it('may be late now and then', async () => {
    const silent = vi.fn();
    const late = () =>
      new Promise<void>((answered) => {
        setTimeout(answered, SILENT_MS - 1000);
      });
    const stop = watchHeartbeat(late, silent);
    await vi.advanceTimersByTimeAsync(20 * SILENT_MS);
    stop();
    expect(silent).not.toHaveBeenCalled();
  });
});
