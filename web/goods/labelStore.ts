import { defineStore } from 'pinia';
import type { LabelsPage, WantedLabels } from '../../contract/goods.ts';
import type { DeliveryPage } from '../../contract/supply.ts';
import { ONE } from '../../core/quantity.ts';
import { read, write } from '../net/api.ts';
import { shown } from '../net/shown.ts';

/** Of one item so many labels are printed at once. */
const MOST_COPIES = 200;

/** Labels for shelves and goods: what is due, and what was printed. */
export const useLabelStore = defineStore('labels', () => {
  const [page, showPage] = shown<LabelsPage | null>(null);

  async function load(): Promise<void> {
    await showPage(read<LabelsPage>('/goods/labels'));
  }
  /** @returns the print, whose sheet can be opened @throws ApiProblem */
  async function print(wanted: WantedLabels): Promise<{ id: number; labels: number }> {
    const printed = await write<{ id: number; labels: number }>('POST', '/goods/labels', wanted);
    await load();
    return printed;
  }
  /** A label for each whole piece that a delivery brought. @throws ApiProblem */
  async function ofDelivery(id: number): Promise<{ id: number; copies: number }[]> {
    const { lines } = await read<DeliveryPage>(`/supply/deliveries/${id}`);
    return lines
      .map(({ itemId, quantity, damaged }) => ({
        id: itemId,
        copies: Math.min(MOST_COPIES, Math.ceil((quantity - damaged) / ONE)),
      }))
      .filter(({ copies }) => copies > 0);
  }
  const sheetOf = (id: number) => `/api/goods/labels/${id}.pdf`;

  return { page, load, print, ofDelivery, sheetOf };
});
