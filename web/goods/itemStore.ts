import { defineStore } from 'pinia';
import type { ItemFacts, NewItemAtTill, StockedSerial } from '../../contract/goods.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read, write } from '../net/api.ts';
import { problemWords } from '../net/problem.ts';

/** What the server knows of single items beyond the till's copy of the catalogue. */
export const useItemStore = defineStore('item', () => {
  const notices = useNoticeStore();

  /** @returns `null` when it cannot be read, which is said */
  async function said<T>(path: string): Promise<T | null> {
    try {
      return await read<T>(path);
    } catch (error) {
      notices.failed(problemWords(error));
      return null;
    }
  }

  return {
    facts: (itemId: number) => said<ItemFacts>(`/goods/items/${itemId}`),
    /** Places other than this one that have the item; nothing is said where they cannot be asked. */
    async elsewhere(itemId: number): Promise<ItemFacts['stock']> {
      const facts = await read<ItemFacts>(`/goods/items/${itemId}`).catch(() => null);
      return (facts?.stock ?? []).filter(({ here, quantity }) => !here && quantity > 0);
    },
    serialsOf: async (itemId: number) =>
      (await said<StockedSerial[]>(`/goods/items/${itemId}/serials`)) ?? [],
    /** Ties a code to an item. @throws ApiProblem */
    tieCode: (itemId: number, code: string) => write('POST', `/goods/items/${itemId}/codes`, { code }),
    /** Adds a new item with a code. @throws ApiProblem */
    addItem: (item: NewItemAtTill) => write<{ id: number }>('POST', '/goods/items', item),
  };
});
