import { watchImmediate } from '@vueuse/core';
import { nextTick } from 'vue';

/**
 * Where the arrows are in a list beside the row that is looked at: what they went to may not be looked at yet, or may
 * be gone by now.
 * @param rows what is listed
 * @param open the row that is looked at
 * @param pass goes on to a row, or asks first about what is typed beside the list
 * @returns what an arrow does
 */
export function usePassedRow<Row extends { id: number | string }>(
  rows: () => readonly Row[],
  open: () => Row['id'] | null | undefined,
  pass: (row: Row) => unknown,
): (by: 1 | -1) => Promise<void> {
  let at: Row['id'] | null | undefined;
  watchImmediate(open, (now) => {
    if (now) at = now;
  });
  return async (by) => {
    const now = rows().findIndex(({ id }) => id === at);
    const next = rows()[Math.max(0, now + by)];
    if (!next || next.id === at) return;
    at = next.id;
    await pass(next);
    await nextTick();
    // It was not gone on to: the next arrow goes on from what is still looked at.
    if (at === next.id) at = open();
  };
}
