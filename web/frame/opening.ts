import { ref } from 'vue';
import type { Router } from 'vue-router';
import { editionHere, loadAnew } from '../net/edition.ts';
import { hear } from '../net/houseEvents.ts';
import { nothingUnsaved, unsavedForm } from '../net/unsaved.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';

/** Whether a page was asked for that has not come yet. */
export const opening = ref(false);

/** Whether the server was updated since this window was loaded, and has other pages than it shows. */
export const updated = ref(false);

/**
 * Asks before a page goes on which something is not kept yet.
 * @param leave what takes it away, done when somebody is sure
 * @returns whether it is asked
 */
export function askFirst(leave: () => unknown): boolean {
  const form = unsavedForm();
  if (form === undefined) return false;
  const sure = (): void => {
    nothingUnsaved();
    void leave();
  };
  useNoticeStore().say(`${form} is not kept yet.`, { word: 'Leave it', do: sure });
  return true;
}

/**
 * Pages come from the server when they are opened for the first time. One that cannot come is said; once the server
 * was updated, the next page that is opened is one of its own, for the old ones may not be there any more.
 */
export function watchOpening(router: Router): void {
  const notLoaded = new WeakSet<object>();
  window.addEventListener('vite:preloadError', ({ payload }) => notLoaded.add(payload));
  hear((event) => {
    if (event.kind === 'connected' && event.edition !== undefined)
      updated.value = event.edition !== editionHere();
  });
  router.beforeEach(async (to, from) => {
    const leaves = from.matched.length > 0 && to.path !== from.path;
    // At the Counter what is asked about goods ends with them; who is gone is not asked.
    const asks = leaves && from.path !== '/counter' && useSessionStore().person !== null;
    if (asks && askFirst(() => router.push(to.fullPath))) return false;
    opening.value = leaves;
    return !(leaves && updated.value && (await loadAnew(to.fullPath)));
  });
  router.afterEach(() => (opening.value = false));
  router.onError(async (error: unknown, to, from) => {
    opening.value = false;
    if (typeof error !== 'object' || error === null || !notLoaded.has(error)) return;
    if (from.matched.length > 0 && (await loadAnew(to.fullPath))) return;
    useNoticeStore().failed(
      `${to.meta.title ?? 'The page'} cannot be opened now: it was not open on this device yet, and the server does not answer.`,
    );
  });
}
