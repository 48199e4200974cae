import { watchDebounced } from '@vueuse/core';
import { computed, ref, watch, type Ref } from 'vue';
import { useLook } from '../notices/look.ts';

/** Whoever types on is not asked after for so long. */
const DEBOUNCE_MS = 120;

/**
 * A list that is read anew whenever something else is asked for, from its first page on, or another page of it.
 * @param asked what is asked for, as one text
 * @param read reads what is asked for, at the page
 * @returns whether what is in sight is not the answer yet: then no row of it is opened by Enter
 */
export function useAskedList(
  asked: () => string,
  page: Ref<number>,
  read: () => Promise<void>,
): { busy: Readonly<Ref<boolean>>; load: () => Promise<void> } {
  const look = useLook(read);
  const now = computed(() => `${page.value} ${asked()}`);
  /** What the rows in sight answer. */
  const answered = ref<string | null>(null);
  const busy = computed(() => answered.value !== now.value);

  async function load(): Promise<void> {
    const wanted = now.value;
    if ((await look()) && wanted === now.value) answered.value = wanted;
  }
  // An answer that was on its way may be that of what was asked before: it counts as none.
  watch(now, () => (answered.value = null), { flush: 'sync' });
  watch(page, load);
  watchDebounced(
    asked,
    async () => {
      if (page.value === 0) await load();
      else page.value = 0;
    },
    { debounce: DEBOUNCE_MS },
  );
  void load();

  return { busy, load };
}
