import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { shallowRef } from 'vue';
import type { ImportLine, ImportOutcome, ImportView } from '../../contract/people.ts';
import { read, sendFile, write } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { lastAnswer } from '../net/lastAnswer.ts';

/** A list of customers on its way in. */
export const useImportStore = defineStore('import', () => {
  const view = shallowRef<ImportView | null>(null);
  const lines = shallowRef<ImportLine[]>([]);

  const last = lastAnswer();
  async function load(): Promise<void> {
    const found = await last(read<ImportView | null>('/people/imports'));
    if (found !== undefined) view.value = found;
  }

  async function start(name: string, content: string): Promise<void> {
    lines.value = [];
    const path = `/people/imports/${newId()}?name=${encodeURIComponent(name)}`;
    view.value = await sendFile<ImportView>(path, 'text/csv; charset=utf-8', content);
    await load();
  }

  const lastLines = lastAnswer();
  async function look(id: string, outcome: ImportOutcome | ''): Promise<void> {
    const asked = read<ImportLine[]>(`/people/imports/${id}/lines?outcome=${outcome}`);
    lines.value = (await lastLines(asked)) ?? lines.value;
  }

  async function choose(id: string, columns: ImportView['columns']): Promise<void> {
    view.value = await write<ImportView>('PUT', `/people/imports/${id}/columns`, { columns });
  }
  async function accept(id: string, doubles: boolean): Promise<void> {
    view.value = await write<ImportView>('POST', `/people/imports/${id}/accept`, { doubles });
  }
  async function drop(id: string): Promise<void> {
    view.value = await write<ImportView>('POST', `/people/imports/${id}/drop`);
    lines.value = [];
  }

  const follow = (): (() => void) =>
    hear(({ kind }) => {
      if (kind === 'import-changed' || kind === 'connected') void load().catch(() => {});
    });

  return { view, lines, load, start, look, choose, accept, drop, follow };
});
