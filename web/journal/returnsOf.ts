import { computedAsync } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import type { WithoutReceipt } from '../../contract/returns.ts';
import type { JournalPage } from '../../contract/journal.ts';
import { problemWords } from '../net/problem.ts';

/** So many of the last sales are listed. */
const LISTED = 6;

/**
 * What a customer bought last, and brought back without a receipt. Until it is known, and where it cannot be asked for,
 * it is nothing that could be said: `null`, with what is wrong.
 * @param customerId whose; nobody's where there is no customer
 */
export function useReturnsOf(
  customerId: () => number | null,
  ask: {
    boughtBy: (id: number) => Promise<JournalPage['rows']>;
    withoutReceipt: (id: number) => Promise<WithoutReceipt>;
  },
) {
  const trouble = ref('');
  const of = <T>(question: (id: number) => Promise<T>) => {
    const found = computedAsync<{ id: number; answer: T } | null>(
      async () => {
        const id = customerId();
        return id === null ? null : { id, answer: await question(id) };
      },
      null,
      { onError: (error) => (trouble.value = problemWords(error)) },
    );
    // What is known of the one before is not said of the next one.
    return computed(() => (found.value?.id === customerId() ? found.value.answer : null));
  };
  watch(customerId, () => (trouble.value = ''), { flush: 'sync' });
  return {
    bought: of(async (id) => (await ask.boughtBy(id)).slice(0, LISTED)),
    earlier: of(ask.withoutReceipt),
    trouble,
  };
}
