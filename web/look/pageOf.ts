import { watchImmediate } from '@vueuse/core';
import { useRoute, useRouter } from 'vue-router';
import { problemWords } from '../net/problem.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';

/**
 * A page is about what its address names by a number. Whenever that is another one, it is loaded; what is not there
 * sends back to the list that it would stand in.
 * @param list the list's address
 */
export function usePageOf(list: string, load: (id: number) => Promise<void>): void {
  const route = useRoute();
  const router = useRouter();
  const notices = useNoticeStore();
  const look = useLook(load, (error) => {
    notices.failed(problemWords(error));
    return router.replace(list);
  });
  watchImmediate(
    () => Number(route.params.id),
    (id) => {
      if (Number.isInteger(id)) void look(id);
    },
  );
}
