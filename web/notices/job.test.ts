import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope } from 'vue';
import { ApiProblem, Unreachable } from '../net/problem.ts';
import { useJob } from './job.ts';
import { useNoticeStore } from './noticeStore.ts';

interface Work {
  done: number;
}
const look = vi.fn<(work: Work) => Promise<Work>>();
const LONG_MS = 5000;

beforeEach(() => {
  setActivePinia(createPinia());
  vi.useFakeTimers();
  look.mockReset();
});
afterEach(() => void vi.useRealTimers());

function followed() {
  const scope = effectScope();
  const one = scope.run(() => useJob(look, ({ done }) => done < 3));
  if (!one) throw new Error('the scope has ended');
  return { ...one, leave: () => scope.stop() };
}

describe('a job of the server', () => {
  it('is followed until it is over', async () => {
    look.mockImplementation(({ done }) => Promise.resolve({ done: done + 1 }));
    const { job, follow } = followed();
    const over = follow({ done: 0 });
    expect(job.value).toEqual({ done: 0 });
    await vi.advanceTimersByTimeAsync(LONG_MS);
    await over;
    expect(job.value).toEqual({ done: 3 });
    expect(look).toHaveBeenCalledTimes(3);
  });

  it('is followed on after the server was away, which is said', async () => {
    look.mockRejectedValueOnce(new Unreachable()).mockResolvedValue({ done: 3 });
    const { job, follow } = followed();
    const over = follow({ done: 1 });
    await vi.advanceTimersByTimeAsync(LONG_MS);
    await over;
    expect(job.value).toEqual({ done: 3 });
    expect(useNoticeStore().notice?.tone).toBe('failed');
  });

  it('that is gone is none any more, so that another one can be begun', async () => {
    look.mockRejectedValue(new ApiProblem({ type: 'not-found', title: 'Gone.', status: 404 }));
    const { job, follow } = followed();
    const gone = expect(follow({ done: 1 })).rejects.toThrow(ApiProblem);
    await vi.advanceTimersByTimeAsync(LONG_MS);
    await gone;
    expect(job.value).toBeNull();
  });

  it('is left alone by who has left, or has begun another one', async () => {
    look.mockImplementation(({ done }) => Promise.resolve({ done }));
    const { job, follow, leave } = followed();
    const first = follow({ done: 1 });
    const second = follow({ done: 2 });
    await vi.advanceTimersByTimeAsync(LONG_MS);
    await first;
    expect(job.value).toEqual({ done: 2 });
    leave();
    look.mockClear();
    await vi.advanceTimersByTimeAsync(LONG_MS);
    await second;
    expect(look).not.toHaveBeenCalled();
  });
});
