import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { StockValue } from '../../contract/stockValue.ts';
import { read } from '../net/api.ts';
import { lastAnswer } from '../net/lastAnswer.ts';

/** What stock is worth, or was at the end of a day. */
export const useStockValueStore = defineStore('stockValue', () => {
  const value = shallowRef<StockValue | null>(null);
  const last = lastAnswer();
  /** @param day `YYYY-MM-DD`; empty for now @throws ApiProblem */
  async function load(day: string): Promise<void> {
    value.value = (await last(read<StockValue>(`/goods/value?day=${day}`))) ?? value.value;
  }

  return { value, load };
});
