import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope } from 'vue';
import { Unreachable } from '../net/problem.ts';
import { useLook } from './look.ts';
import { useNoticeStore } from './noticeStore.ts';

beforeEach(() => {
  setActivePinia(createPinia());
  vi.useFakeTimers();
});
afterEach(() => void vi.useRealTimers());

const away = () => Promise.reject(new Unreachable(false));

describe('a look', () => {
  it('goes on until the server is there, which is said once that it is not', async () => {
    const scope = effectScope();
    const ask = vi.fn((id: number) => Promise.resolve(id));
    ask.mockImplementationOnce(away).mockImplementationOnce(away);
    const look = scope.run(() => useLook(ask));
    const done = look?.(7);
    await vi.advanceTimersByTimeAsync(0);
    const notices = useNoticeStore();
    expect(notices.notice?.text).toBe('The server does not answer.');
    notices.clear();
    await vi.advanceTimersByTimeAsync(2000);
    await done;
    expect(ask.mock.calls).toEqual([[7], [7], [7]]);
    expect(notices.notice).toBeNull();
    scope.stop();
  });

  it('is given up for another one, and when its page is left', async () => {
    const scope = effectScope();
    const ask = vi.fn<(id: number) => Promise<unknown>>(away);
    const look = scope.run(() => useLook(ask));
    const [first, second] = [look?.(1), look?.(2)];
    await vi.advanceTimersByTimeAsync(1000);
    scope.stop();
    await vi.advanceTimersByTimeAsync(5000);
    await Promise.all([first, second]);
    expect(ask.mock.calls).toEqual([[1], [2], [2]]);
  });

  it('that is refused is said and not tried again, or what the page does then is done', async () => {
    const scope = effectScope();
    const refusal = new Error('No such item.');
    const ask = vi.fn(() => Promise.reject(refusal));
    const then = vi.fn();
    await scope.run(() => useLook(ask))?.();
    expect(useNoticeStore().notice).toMatchObject({ tone: 'failed', text: 'No such item.' });
    await scope.run(() => useLook(ask, then))?.();
    expect(then.mock.calls).toEqual([[refusal]]);
    expect(ask).toHaveBeenCalledTimes(2);
    scope.stop();
  });
});
