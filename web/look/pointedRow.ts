import { ref, watch, type Ref } from 'vue';

/**
 * The row of a list that the arrows point at and Enter opens, also while what is in sight is not the answer yet.
 * @param rows what is in sight
 * @param busy whether those are not the answer to what is asked for
 * @param open opens a row
 */
export function usePointedRow<Row extends { id: number | string }>(
  rows: () => readonly Row[],
  busy: () => boolean,
  open: (row: Row) => void,
): { at: Ref<number>; move: (by: 1 | -1) => void; first: () => void; enter: () => boolean } {
  const at = ref(0);
  /** The row that was chosen with the arrows: it stays the chosen one when others come and go around it. */
  let pointed: Row['id'] | undefined;
  /** Enter came before the answer. */
  let entered = false;

  watch(rows, (now) => {
    const there = now.findIndex(({ id }) => id === pointed);
    at.value = there < 0 ? Math.min(at.value, Math.max(0, now.length - 1)) : there;
  });
  watch(
    busy,
    (waits) => {
      if (waits) {
        pointed = undefined;
        at.value = 0;
      } else if (entered) {
        // What was in sight before is not opened for that alone: the arrows must have chosen it, and it must be there.
        const only = rows().length === 1 ? rows()[0] : undefined;
        const meant = rows().find(({ id }) => id === pointed) ?? only;
        if (meant) open(meant);
      }
      entered = false;
    },
    { flush: 'post' },
  );

  return {
    at,
    move(by) {
      at.value = Math.min(rows().length - 1, Math.max(0, at.value + by));
      pointed = rows()[at.value]?.id;
    },
    first() {
      at.value = 0;
      pointed = undefined;
    },
    /** Opens the row, as soon as it is an answer. @returns whether there is anything to open */
    enter() {
      const row = rows()[at.value];
      if (busy()) entered = true;
      else if (row) open(row);
      return busy() || row !== undefined;
    },
  };
}
