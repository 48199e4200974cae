import { expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import type { JournalPage } from '../../contract/journal.ts';
import type { WithoutReceipt } from '../../contract/returns.ts';
import { eventually } from '../../contract/testing/eventually.ts';
import { late } from '../../contract/testing/late.ts';
import { useReturnsOf } from './returnsOf.ts';

it('nothing is said of what a customer bought before it is known, or where it cannot be asked for', async () => {
  const customer = ref<number | null>(null);
  const answer = late<JournalPage['rows']>();
  const boughtBy = vi.fn((_id: number) => answer.promise);
  const earlier: WithoutReceipt = { count: 2, amount: 900, days: 30, warning: 3 };
  const asked = effectScope().run(() =>
    useReturnsOf(() => customer.value, { boughtBy, withoutReceipt: () => Promise.resolve(earlier) }),
  );
  if (!asked) throw new Error('there is nothing to look at');
  expect([asked.bought.value, boughtBy.mock.calls.length]).toEqual([null, 0]);
  customer.value = 7;
  await nextTick();
  expect(asked.bought.value).toBeNull();
  answer.come([]);
  await eventually(() => expect([asked.bought.value, asked.earlier.value]).toEqual([[], earlier]));
  // Of somebody else it cannot be asked.
  boughtBy.mockRejectedValueOnce(new Error('The server does not answer.'));
  customer.value = 8;
  expect(asked.bought.value).toBeNull();
  await eventually(() => expect(asked.trouble.value).toBe('The server does not answer.'));
  expect(asked.bought.value).toBeNull();
  customer.value = null;
  await eventually(() => expect([asked.bought.value, asked.trouble.value]).toEqual([null, '']));
});
