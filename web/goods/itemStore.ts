import { defineStore } from 'pinia';
import type { ItemFacts, NewItemAtTill, StockedSerial } from '../../contract/goods.ts';
import { read, write } from '../net/api.ts';

/** What the server knows of single items beyond the till's copy of the catalogue. */
export const useItemStore = defineStore('item', () => ({
  /** @throws ApiProblem, Unreachable */
  facts: (itemId: number) => read<ItemFacts>(`/goods/items/${itemId}`),
  /** Places other than this one that have the item; nothing is said where they cannot be asked. */
  async elsewhere(itemId: number): Promise<ItemFacts['stock']> {
    const facts = await read<ItemFacts>(`/goods/items/${itemId}`).catch(() => null);
    return (facts?.stock ?? []).filter(({ here, quantity }) => !here && quantity > 0);
  },
  /** Those in stock, here and elsewhere. @throws ApiProblem, Unreachable */
  serialsOf: (itemId: number) => read<StockedSerial[]>(`/goods/items/${itemId}/serials`),
  /** Ties a code to an item. @throws ApiProblem */
  tieCode: (itemId: number, code: string) => write('POST', `/goods/items/${itemId}/codes`, { code }),
  /** Adds a new item with a code. @throws ApiProblem */
  addItem: (item: NewItemAtTill) => write<{ id: number }>('POST', '/goods/items', item),
}));
