import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { ItemSupply, LayerView } from '../../contract/supply.ts';
import { read, write } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { lastAnswer } from '../net/lastAnswer.ts';

/** How an item is come by, when it is ordered again, and what it cost. Each step throws ApiProblem. */
export const useItemSupplyStore = defineStore('itemSupply', () => {
  const supply = shallowRef<ItemSupply | null>(null);
  let of = 0;

  const last = lastAnswer();
  async function load(itemId: number): Promise<void> {
    if (of !== itemId) supply.value = null;
    of = itemId;
    supply.value = (await last(read<ItemSupply>(`/supply/items/${itemId}`))) ?? supply.value;
  }
  async function putSource(
    itemId: number,
    source: Omit<ItemSupply['suppliers'][number], 'supplier'>,
  ): Promise<void> {
    supply.value = await write<ItemSupply>('POST', `/supply/items/${itemId}/suppliers`, source);
  }
  async function dropSource(itemId: number, supplierId: number): Promise<void> {
    supply.value = await write<ItemSupply>('DELETE', `/supply/items/${itemId}/suppliers/${supplierId}`);
  }
  async function putReorder(
    itemId: number,
    wanted: { placeId: number; point: number | null; target: number | null },
  ): Promise<void> {
    supply.value = await write<ItemSupply>('PUT', `/supply/items/${itemId}/reorder`, wanted);
  }
  async function correctCost({ id, cost: was }: LayerView, cost: number, why: string): Promise<void> {
    supply.value = await write<ItemSupply>('POST', `/supply/layers/${id}/cost`, { cost, was, why });
  }

  const follow = (): (() => void) =>
    hear(({ kind }) => {
      if (of && (kind === 'supply-changed' || kind === 'stock-changed' || kind === 'connected'))
        void load(of).catch(() => {});
    });

  return { supply, load, putSource, dropSource, putReorder, correctCost, follow };
});
