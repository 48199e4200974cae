import { useRouter } from 'vue-router';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { hear } from '../net/houseEvents.ts';

/**
 * Says when a receipt or another message was refused for good, with the way to its sale. @returns a function that
 * stops it
 */
export function sayRefusals(): () => void {
  const notices = useNoticeStore();
  const router = useRouter();
  return hear((event) => {
    if (event.kind !== 'message-refused') return;
    const { recipient, saleId, words } = event;
    const open = { word: 'Open the sale', do: () => void router.push(`/journal/${saleId}`) };
    notices.failed(`Nothing goes to ${recipient}: ${words}.`, saleId === null ? undefined : open);
  });
}
