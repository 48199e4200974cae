import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { computed, ref } from 'vue';
import type { ImportLine, ImportOutcome, ImportSubject, ImportView } from '../../contract/imports.ts';
import { read, sendFile, write } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { lookAgain } from '../net/lookAgain.ts';

/** Where lists of a subject are brought in. */
const ADDRESSES: Readonly<Record<ImportSubject, string>> = {
  customers: '/people/imports',
  goods: '/goods/imports',
};

/** A list on its way in. */
export const useImportStore = defineStore('import', () => {
  const subject = ref<ImportSubject>('customers');
  const address = computed(() => ADDRESSES[subject.value]);
  const [view, showView, putView] = shown<ImportView | null>(null);
  const [lines, showLines, putLines] = shown<ImportLine[]>([]);

  async function load(): Promise<void> {
    await showView(read<ImportView | null>(address.value));
  }

  /** Another subject has another list. */
  function begin(of: ImportSubject): Promise<void> {
    if (subject.value !== of) {
      putView(null);
      putLines([]);
    }
    subject.value = of;
    return load();
  }

  async function start(name: string, content: string): Promise<void> {
    putLines([]);
    const path = `${address.value}/${newId()}?name=${encodeURIComponent(name)}`;
    await showView(sendFile<ImportView>(path, 'text/csv; charset=utf-8', content));
    await load();
  }

  async function look(id: string, outcome: ImportOutcome | ''): Promise<void> {
    const asked = read<ImportLine[]>(`${address.value}/${id}/lines?outcome=${outcome}`);
    await showLines(asked);
  }

  async function choose(id: string, columns: ImportView['columns']): Promise<void> {
    await showView(write<ImportView>('PUT', `${address.value}/${id}/columns`, { columns }));
  }
  async function accept(id: string, doubles: boolean): Promise<void> {
    await showView(write<ImportView>('POST', `${address.value}/${id}/accept`, { doubles }));
  }
  async function drop(id: string): Promise<void> {
    await showView(write<ImportView>('POST', `${address.value}/${id}/drop`));
    putLines([]);
  }

  const follow = (): (() => void) => lookAgain(['import-changed'], load);

  return { view, lines, begin, load, start, look, choose, accept, drop, follow };
});
