import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { LabelsPage, WantedLabels } from '../../contract/goods.ts';
import { read, write } from '../net/api.ts';

/** Labels for shelves and goods: what is due, and what was printed. */
export const useLabelStore = defineStore('labels', () => {
  const page = shallowRef<LabelsPage | null>(null);

  async function load(): Promise<void> {
    page.value = await read<LabelsPage>('/goods/labels');
  }
  /** @returns the print, whose sheet can be opened @throws ApiProblem */
  async function print(wanted: WantedLabels): Promise<{ id: number; labels: number }> {
    const printed = await write<{ id: number; labels: number }>('POST', '/goods/labels', wanted);
    await load();
    return printed;
  }
  const sheetOf = (id: number) => `/api/goods/labels/${id}.pdf`;

  return { page, load, print, sheetOf };
});
