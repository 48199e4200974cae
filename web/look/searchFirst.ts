import { onMounted, type Ref } from 'vue';

/**
 * Whoever comes to a list looks for something: the field of it that is marked `data-search` has the focus at once,
 * unless a hand types elsewhere by then. What was looked for last is there still; typing takes its place.
 */
export function useSearchFirst(list: Readonly<Ref<HTMLElement | null>>, when = (): boolean => true): void {
  onMounted(() => {
    const hand = document.activeElement;
    const types = hand instanceof HTMLInputElement && hand.value !== '';
    if (when() && !types) list.value?.querySelector<HTMLInputElement>('[data-search] input')?.select();
  });
}
