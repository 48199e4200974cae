import { watch, type Ref } from 'vue';

/**
 * Enter in the field that a list is narrowed by opens the first row that fits, as soon as that is known: none that was
 * found for other words.
 * @param typed what is in the field
 * @param asked the list, as `useAskedList` has it
 * @param open opens the first row, if there is one
 * @returns what Enter does
 */
export function useFirstFound(
  typed: () => string,
  { busy, load }: { busy: Readonly<Ref<boolean>>; load: () => Promise<void> },
  open: () => void,
): () => void {
  /** Enter came before the answer. */
  let entered = false;
  watch(typed, () => (entered = false));
  watch(
    busy,
    (waits) => {
      if (!waits && entered) open();
      entered &&= waits;
    },
    { flush: 'post' },
  );
  return () => {
    entered = busy.value;
    if (entered) void load();
    else open();
  };
}
