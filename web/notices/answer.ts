import { computedAsync } from '@vueuse/core';
import type { Ref } from 'vue';
import { problemWords } from '../net/problem.ts';
import { untilAnswered } from '../net/untilAnswered.ts';
import { sayOnceAway } from './look.ts';
import { useNoticeStore } from './noticeStore.ts';

/**
 * The answer to a question, which is asked again whenever what it depends on before its first `await` changes. Where it
 * cannot be had, that is said, and the answer before stays; where the server is away, until it is back.
 * @param before what stands there until it is answered
 */
export function useAnswer<T>(question: () => T | Promise<T>, before: T): Readonly<Ref<T>> {
  const notices = useNoticeStore();
  return computedAsync(
    async (onCancel) => {
      let wanted = true;
      onCancel(() => (wanted = false));
      const answer = await untilAnswered(
        async () => ({ is: await question() }),
        sayOnceAway(),
        () => wanted,
      );
      return answer ? answer.is : before;
    },
    before,
    { onError: (error) => notices.failed(problemWords(error)) },
  );
}
