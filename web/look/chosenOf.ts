import { computed, ref, watch, type ComputedRef, type Ref } from 'vue';

/**
 * The one of a list that is chosen: the first one until another is, and where nothing is any more. It stays the same
 * one when others come before it: what is done with it is not done with those. Where it is gone, none is chosen.
 * @returns its id, which chooses, and the row
 */
export function useChosenOf<Row extends { id: number | string }>(
  rows: () => readonly Row[],
): { chosenId: Ref<Row['id'] | null>; chosen: ComputedRef<Row | null> } {
  const chosenId: Ref<Row['id'] | null> = ref(null);
  watch(
    [rows, chosenId],
    ([now, id]) => {
      if (id === null) chosenId.value = now[0]?.id ?? null;
    },
    { immediate: true, flush: 'sync' },
  );
  const chosen = computed(() => rows().find((row) => row.id === chosenId.value) ?? null);
  return { chosenId, chosen };
}
