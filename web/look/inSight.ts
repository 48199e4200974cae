import { nextTick, watch, type Ref } from 'vue';

/**
 * What is chosen in a list stays in sight: it is scrolled to when something else is chosen.
 * @param chosen selects the row
 * @param of what says that it is another one
 */
export function useInSight(list: Readonly<Ref<HTMLElement | null>>, chosen: string, of: () => unknown): void {
  watch(of, async () => {
    await nextTick();
    list.value?.querySelector(chosen)?.scrollIntoView({ block: 'nearest' });
  });
}
