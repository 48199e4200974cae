import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { StockMovesPage } from '../../contract/stockMoves.ts';
import { read } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { lastAnswer } from '../net/lastAnswer.ts';

/** How stock moved, as it is asked for. */
export const useStockMovesStore = defineStore('stockMoves', () => {
  const listed = shallowRef<StockMovesPage | null>(null);
  const last = lastAnswer();
  /** @param query what is asked for, as an address says it @throws ApiProblem */
  async function load(query: string, page: number): Promise<void> {
    listed.value = (await last(read<StockMovesPage>(`/goods/moves?${query}&page=${page}`))) ?? listed.value;
  }
  /** Calls back when stock has moved. */
  const follow = (again: () => Promise<void>): (() => void) =>
    hear(({ kind }) => {
      if (kind === 'stock-changed' || kind === 'connected') void again();
    });

  return { listed, load, follow };
});
