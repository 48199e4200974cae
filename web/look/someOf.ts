import { computed, ref, type ComputedRef } from 'vue';

/** So many rows are laid out at once. */
const ROWS = 200;

/**
 * The first rows of a long list, and more of them on a press: thousands take seconds to lay out.
 * @param rows all of them
 */
export function useSomeOf<Row>(rows: () => readonly Row[]): {
  some: ComputedRef<readonly Row[]>;
  /** How many there are beyond those. */
  left: ComputedRef<number>;
  more(): void;
} {
  const most = ref(ROWS);
  return {
    some: computed(() => rows().slice(0, most.value)),
    left: computed(() => Math.max(0, rows().length - most.value)),
    more: () => (most.value += ROWS),
  };
}
