import { defineStore } from 'pinia';
import { computed } from 'vue';
import { pointsWords, type PointsOfSale } from '../../core/people/loyalty.ts';
import { write } from '../net/api.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** Points of customers: what they are called here, and giving them. */
export const usePointsStore = defineStore('points', () => {
  const till = useTillStore();
  const programme = computed(() => till.facts?.points);
  /** What points are called: `beats`, or `Beats` where it begins a line. */
  const word = computed(() => programme.value?.word ?? 'points');
  const Word = computed(() => word.value.charAt(0).toLocaleUpperCase() + word.value.slice(1));
  const words = (points: number) => pointsWords(points, { word: word.value });

  /** Gives the points of a sale to somebody who joins afterwards. @param sale its id, or its number */
  const join = (customerId: number, sale: string) =>
    write<PointsOfSale | null>('POST', `/people/customers/${customerId}/points/sales`, { sale });

  const correct = (customerId: number, amount: number, why: string) =>
    write('POST', `/people/customers/${customerId}/points`, { amount, words: why });

  return { programme, word, Word, words, join, correct };
});
