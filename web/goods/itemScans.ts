import { useRouter } from 'vue-router';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { NothingHas, useScansInTurn } from '../sale/scannedGoods.ts';
import { soundRefusal } from '../sale/sound.ts';
import { useItemPageStore } from './itemPageStore.ts';

/** For as long as a page of goods is there, what is scanned opens its item; what nothing has may become a new one. */
export function useItemScans(when: () => boolean = () => true): void {
  const items = useItemPageStore();
  const notices = useNoticeStore();
  const router = useRouter();

  useScansInTurn(async (code) => {
    const id = await items.idOfCode(code);
    if (id !== null) return void (await router.push(`/goods/${id}`));
    soundRefusal();
    notices.failed(new NothingHas(code).message, {
      word: 'New item',
      do: () => void router.push({ path: '/goods/new', query: { code } }),
    });
  }, when);
}
