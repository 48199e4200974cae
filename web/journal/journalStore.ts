import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { JournalPage, JournalSale } from '../../contract/journal.ts';
import { read, write } from '../net/api.ts';

/** The journal as it is looked at. */
export const useJournalStore = defineStore('journal', () => {
  const page = shallowRef<JournalPage | null>(null);
  const sale = shallowRef<JournalSale | null>(null);
  const find = ref('');
  const date = ref('');
  const number = ref(0);

  async function load(): Promise<void> {
    const query = new URLSearchParams({ find: find.value.trim(), page: String(number.value) });
    if (date.value) query.set('date', date.value);
    page.value = await read<JournalPage>(`/journal/sales?${query}`);
    date.value ||= page.value.date;
  }

  async function open(id: string | undefined): Promise<void> {
    sale.value = id ? await read<JournalSale>(`/journal/sales/${id}`) : null;
  }

  const reprint = (id: string) => write('POST', `/journal/sales/${id}/reprints`);

  return { page, sale, find, date, number, load, open, reprint };
});
