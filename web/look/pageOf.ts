import { watchImmediate } from '@vueuse/core';
import { useRoute, useRouter } from 'vue-router';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';

/**
 * A page is about what its address names by a number. Whenever that is another one, it is loaded; what is not there, or
 * cannot be had, sends back to the list that it would stand in.
 * @param list the list's address
 */
export function usePageOf(list: string, load: (id: number) => Promise<void>): void {
  const route = useRoute();
  const router = useRouter();
  const notices = useNoticeStore();
  watchImmediate(
    () => Number(route.params.id),
    async (id) => {
      if (!Number.isInteger(id)) return;
      try {
        await load(id);
      } catch (error) {
        notices.failed(problemWords(error));
        await router.replace(list);
      }
    },
  );
}
