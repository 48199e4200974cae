import { ref } from 'vue';
import type { Router } from 'vue-router';
import { read } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';

/** Whether a page was asked for that has not come yet. */
export const opening = ref(false);

/** Whether the server was updated since this window was loaded, and has other pages than it shows. */
export const updated = ref(false);

const editionHere = (): string | undefined =>
  document.querySelector<HTMLMetaElement>('meta[name="edition"]')?.content;

/**
 * Loads a page from the server, with all of its program: what is rung up and kept on the way is there again. Without
 * a server the browser would put a page of its own in its place.
 * @returns whether the server is there
 */
export async function loadAnew(address: string): Promise<boolean> {
  try {
    await read('/health');
  } catch {
    return false;
  }
  location.assign(address);
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
