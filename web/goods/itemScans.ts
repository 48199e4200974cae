import { useRouter } from 'vue-router';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScans } from '../sale/scanner.ts';
import { useItemPageStore } from './itemPageStore.ts';

/** For as long as a page of goods is there, what is scanned opens its item; what nothing has may become a new one. */
export function useItemScans(when: () => boolean = () => true): void {
  const items = useItemPageStore();
  const notices = useNoticeStore();
  const router = useRouter();

  async function open(code: string): Promise<void> {
    try {
      const id = await items.idOfCode(code);
      if (id !== null) await router.push(`/goods/${id}`);
      else
        notices.failed(`Nothing has the code ${code}.`, {
          word: 'New item',
          do: () => void router.push({ path: '/goods/new', query: { code } }),
        });
    } catch (error) {
      notices.failed(problemWords(error));
    }
  }
  useScans((code) => void open(code), when);
}
