import { defineStore } from 'pinia';
import type { StockMovesPage } from '../../contract/stockMoves.ts';
import { read } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';

/** How stock moved, as it is asked for. */
export const useStockMovesStore = defineStore('stockMoves', () => {
  const [listed, showListed] = shown<StockMovesPage | null>(null);
  /** @param query what is asked for, as an address says it @throws ApiProblem */
  async function load(query: string, page: number): Promise<void> {
    await showListed(read<StockMovesPage>(`/goods/moves?${query}&page=${page}`));
  }
  /** Calls back when stock has moved. */
  const follow = (again: () => Promise<void>) => lookAgain(['stock-changed'], again);

  return { listed, load, follow };
});
