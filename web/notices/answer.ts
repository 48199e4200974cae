import { computedAsync } from '@vueuse/core';
import type { Ref } from 'vue';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from './noticeStore.ts';

/**
 * The answer to a question, which is asked again whenever what it depends on before its first `await` changes. Where it
 * cannot be had, that is said, and the answer before stays.
 * @param before what stands there until it is answered
 */
export function useAnswer<T>(question: () => T | Promise<T>, before: T): Readonly<Ref<T>> {
  const notices = useNoticeStore();
  return computedAsync(question, before, { onError: (error) => notices.failed(problemWords(error)) });
}
