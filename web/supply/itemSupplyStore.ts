import { defineStore } from 'pinia';
import type { ItemSupply, LayerView, WantedReorder } from '../../contract/supply.ts';
import { read, write } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';

/** How an item is come by, when it is ordered again, and what it cost. Each step throws ApiProblem. */
export const useItemSupplyStore = defineStore('itemSupply', () => {
  const [supply, showSupply, putSupply] = shown<ItemSupply | null>(null);
  let of = 0;

  async function load(itemId: number): Promise<void> {
    if (of !== itemId) putSupply(null);
    of = itemId;
    await showSupply(read<ItemSupply>(`/supply/items/${itemId}`));
  }
  async function putSource(
    itemId: number,
    source: Omit<ItemSupply['suppliers'][number], 'supplier'>,
  ): Promise<void> {
    await showSupply(write<ItemSupply>('POST', `/supply/items/${itemId}/suppliers`, source));
  }
  async function dropSource(itemId: number, supplierId: number): Promise<void> {
    await showSupply(write<ItemSupply>('DELETE', `/supply/items/${itemId}/suppliers/${supplierId}`));
  }
  async function putReorder(itemId: number, wanted: WantedReorder): Promise<void> {
    await showSupply(write<ItemSupply>('PUT', `/supply/items/${itemId}/reorder`, wanted));
  }
  async function correctCost({ id, cost: was }: LayerView, cost: number, why: string): Promise<void> {
    await showSupply(write<ItemSupply>('POST', `/supply/layers/${id}/cost`, { cost, was, why }));
  }

  const follow = (): (() => void) =>
    lookAgain(['supply-changed', 'stock-changed'], async () => {
      if (of) await load(of);
    });

  return { supply, load, putSource, dropSource, putReorder, correctCost, follow };
});
