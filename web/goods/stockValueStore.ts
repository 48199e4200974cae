import { defineStore } from 'pinia';
import type { StockValue } from '../../contract/stockValue.ts';
import { read } from '../net/api.ts';
import { shown } from '../net/shown.ts';

/** What stock is worth, or was at the end of a day. */
export const useStockValueStore = defineStore('stockValue', () => {
  const [value, showValue] = shown<StockValue | null>(null);
  /** @param day `YYYY-MM-DD`; empty for now @throws ApiProblem */
  async function load(day: string): Promise<void> {
    await showValue(read<StockValue>(`/goods/value?day=${day}`));
  }

  return { value, load };
});
