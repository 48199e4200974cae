import { ref, type Ref } from 'vue';
import { useNoticeStore } from './noticeStore.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';

/** Does what a form asks for and says that it is done, or what is wrong next to its field. */
export function useAttempt(): {
  /** What is wrong, by field. */
  wrong: Ref<Record<string, string>>;
  /** @returns whether it was done */
  attempt(work: Promise<unknown>, done: string): Promise<boolean>;
} {
  const notices = useNoticeStore();
  const wrong = ref<Record<string, string>>({});
  return {
    wrong,
    async attempt(work, done) {
      wrong.value = {};
      try {
        await work;
        if (done) notices.say(done);
        return true;
      } catch (error) {
        const fields = error instanceof ApiProblem ? (error.details.fields ?? []) : [];
        wrong.value = Object.fromEntries(fields.map(({ field, message }) => [field, message]));
        notices.failed(problemWords(error));
        return false;
      }
    },
  };
}
