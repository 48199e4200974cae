import type { WantedApproval } from '../../contract/staff.ts';
import { defineStore } from 'pinia';
import { ref } from 'vue';
import type {
  CountDifferences,
  CountPage,
  CountsPage,
  EntryView,
  WantedCount,
  WantedEntry,
} from '../../contract/counts.ts';
import { read, write } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';

/** Goods that are counted while the shop sells. Each step throws ApiProblem. */
export const useCountStore = defineStore('counts', () => {
  const [list, showList] = shown<CountsPage | null>(null);
  const [page, showPage, putPage] = shown<CountPage | null>(null);
  const [found, showFound, putFound] = shown<CountDifferences | null>(null);

  /** Words by which counts are looked for, and the page of them. */
  const find = ref('');
  const listedPage = ref(0);
  async function loadList(): Promise<void> {
    const asked = new URLSearchParams({ find: find.value, page: String(listedPage.value) });
    await showList(read<CountsPage>(`/counts?${asked.toString()}`));
  }
  async function load(id: number): Promise<void> {
    if (page.value?.id !== id) {
      putPage(null);
      putFound(null);
    }
    await showPage(read<CountPage>(`/counts/${id}`));
  }
  async function look(id: number): Promise<void> {
    await showFound(read<CountDifferences>(`/counts/${id}/differences`));
  }

  const begin = async (wanted: WantedCount): Promise<number> =>
    (await write<{ id: number }>('POST', '/counts', wanted)).id;
  const add = (id: number, wanted: Partial<WantedEntry> & { quantity: number }): Promise<EntryView> =>
    write<EntryView>('POST', `/counts/${id}/entries`, wanted);
  const takeBack = (id: number, entry: number) => write('DELETE', `/counts/${id}/entries/${entry}`);
  const again = (id: number, items: readonly number[]) => write('POST', `/counts/${id}/again`, { items });
  const none = (id: number, items: readonly number[]) => write('POST', `/counts/${id}/none`, { items });
  const book = async (id: number, approval: WantedApproval | null): Promise<number> =>
    (await write<{ booked: number }>('POST', `/counts/${id}/booked`, { approval })).booked;
  const cancel = (id: number) => write('POST', `/counts/${id}/cancelled`);

  /** Calls back when a count has changed elsewhere. */
  const follow = (again: () => Promise<void>) => lookAgain(['counts-changed'], again);

  return {
    list,
    find,
    listedPage,
    page,
    found,
    loadList,
    load,
    look,
    begin,
    add,
    takeBack,
    again,
    none,
    book,
    cancel,
    follow,
  };
});
