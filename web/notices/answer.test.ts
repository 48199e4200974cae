import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, ref } from 'vue';
import { eventually } from '../../contract/testing/eventually.ts';
import { Unreachable } from '../net/problem.ts';
import { useAnswer } from './answer.ts';
import { useNoticeStore } from './noticeStore.ts';

beforeEach(() => setActivePinia(createPinia()));

describe('an answer', () => {
  it('stands there once it is known, and is asked for again when it depends on something else', async () => {
    const scope = effectScope();
    const id = ref(1);
    const answer = scope.run(() => useAnswer(() => Promise.resolve(`of ${id.value}`), ''));
    expect(answer?.value).toBe('');
    await eventually(() => expect(answer?.value).toBe('of 1'));
    id.value = 2;
    await eventually(() => expect(answer?.value).toBe('of 2'));
    scope.stop();
  });

  it('that is refused is said, and the one before stays', async () => {
    const scope = effectScope();
    const refuses = ref(false);
    const question = () =>
      refuses.value ? Promise.reject(new Error('Not for you.')) : Promise.resolve('all is well');
    const answer = scope.run(() => useAnswer(question, 'nothing yet'));
    await eventually(() => expect(answer?.value).toBe('all is well'));
    refuses.value = true;
    await eventually(() =>
      expect(useNoticeStore().notice).toMatchObject({ tone: 'failed', text: 'Not for you.' }),
    );
    expect(answer?.value).toBe('all is well');
    scope.stop();
  });

  it('comes once the server is back', async () => {
    vi.useFakeTimers();
    const scope = effectScope();
    const question = vi.fn(() => Promise.resolve('all is well'));
    question.mockRejectedValueOnce(new Unreachable(false));
    const answer = scope.run(() => useAnswer(question, 'nothing yet'));
    await vi.advanceTimersByTimeAsync(0);
    expect(answer?.value).toBe('nothing yet');
    expect(useNoticeStore().notice).toMatchObject({ tone: 'failed', text: 'The server does not answer.' });
    await vi.advanceTimersByTimeAsync(1000);
    expect(answer?.value).toBe('all is well');
    scope.stop();
    vi.useRealTimers();
  });
});
