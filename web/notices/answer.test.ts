import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { useAnswer } from './answer.ts';
import { useNoticeStore } from './noticeStore.ts';

beforeEach(() => setActivePinia(createPinia()));

describe('an answer', () => {
  it('stands there once it is known, and is asked for again when it depends on something else', async () => {
    const scope = effectScope();
    const id = ref(1);
    const answer = scope.run(() => useAnswer(() => Promise.resolve(`of ${id.value}`), ''));
    expect(answer?.value).toBe('');
    await nextTick();
    expect(answer?.value).toBe('of 1');
    id.value = 2;
    await nextTick();
    await nextTick();
    expect(answer?.value).toBe('of 2');
    scope.stop();
  });

  it('that cannot be had is said, and the one before stays', async () => {
    const scope = effectScope();
    const away = ref(false);
    const question = () =>
      away.value ? Promise.reject(new Error('The server does not answer.')) : Promise.resolve('all is well');
    const answer = scope.run(() => useAnswer(question, 'nothing yet'));
    await nextTick();
    away.value = true;
    await nextTick();
    await nextTick();
    expect(answer?.value).toBe('all is well');
    expect(useNoticeStore().notice).toMatchObject({ tone: 'failed', text: 'The server does not answer.' });
    scope.stop();
  });
});
