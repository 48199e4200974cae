import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { Unreachable } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useAskedList } from './askedList.ts';

beforeEach(() => {
  vi.useFakeTimers();
  setActivePinia(createPinia());
});
afterEach(() => vi.useRealTimers());

/** A list whose answers come when the test says so. */
function list() {
  const [find, page] = [ref(''), ref(0)];
  const reads: { what: string; answer(): Promise<void>; fail(problem?: Error): Promise<void> }[] = [];
  const read = () =>
    new Promise<void>((resolve, reject) => {
      const settle = async (end: () => void) => {
        end();
        await vi.advanceTimersByTimeAsync(0);
      };
      reads.push({
        what: `${find.value} ${page.value}`,
        answer: () => settle(resolve),
        fail: (problem = new Error('no answer')) => settle(() => reject(problem)),
      });
    });
  const scope = effectScope();
  const made = scope.run(() => useAskedList(() => find.value, page, read));
  if (!made) throw new Error('there is no list');
  return { find, page, reads, ...made };
}
const typed = () => vi.advanceTimersByTimeAsync(200);

describe('a list that is asked for', () => {
  it('counts no answer that comes after something else was asked for', async () => {
    const { find, reads, busy } = list();
    expect([reads.length, busy.value]).toEqual([1, true]);
    find.value = 'kazoo';
    await nextTick();
    // The first answer comes only now, before the next question went out.
    await reads[0]?.answer();
    expect(busy.value).toBe(true);
    await typed();
    expect(reads.map(({ what }) => what)).toEqual([' 0', 'kazoo 0']);
    await reads[1]?.answer();
    expect(busy.value).toBe(false);
    find.value = 'kazoos';
    expect(busy.value).toBe(true);
    find.value = 'kazoo';
    // It may have been asked for something else in between: it is asked again.
    expect(busy.value).toBe(true);
  });

  it('begins at its first page with every question, and reads each page', async () => {
    const { find, page, reads, busy } = list();
    await reads[0]?.answer();
    page.value = 2;
    await nextTick();
    expect([reads.at(-1)?.what, busy.value]).toEqual([' 2', true]);
    await reads[1]?.answer();
    find.value = 'drum';
    await typed();
    expect([page.value, reads.at(-1)?.what, reads.length]).toEqual([0, 'drum 0', 3]);
  });

  it('says what went wrong, and waits no longer', async () => {
    const { reads, busy } = list();
    await reads[0]?.fail();
    expect(busy.value).toBe(false);
    expect(useNoticeStore().notice?.text).toContain('no answer');
  });

  it('is not answered by a look that was given up for another one while the server is away', async () => {
    const { find, reads, busy, load } = list();
    await reads[0]?.answer();
    find.value = 'kazoo';
    await nextTick();
    void load();
    await typed();
    expect(reads.length).toBe(3);
    await reads[1]?.fail(new Unreachable(false));
    await reads[2]?.fail(new Unreachable(false));
    expect(busy.value).toBe(true);
    await vi.advanceTimersByTimeAsync(1000);
    await reads[3]?.answer();
    expect([busy.value, reads.length]).toEqual([false, 4]);
  });
});
