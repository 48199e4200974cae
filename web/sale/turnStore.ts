import { useSessionStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { computed, ref } from 'vue';
import { useTillStore } from '../shop/tillStore.ts';
import { useBasketStore } from './basketStore.ts';

/** Something that was scanned, typed or touched and is not in the basket yet. */
export interface Turn {
  id: string;
  /** The basket it was meant for; `null` is the one that comes when a payment is stored, or the till is ready. */
  basketId: string | null;
  /** As the entry field takes it. */
  typed: string;
  scanned: boolean;
  /** What it is called, as far as that is known. */
  name: string;
}

/** What waits for its turn behind a question, oldest first: it is in sight, and a reload does not lose it. */
export const useTurnStore = defineStore('turns', () => {
  const basket = useBasketStore();
  const till = useTillStore();
  /** Kept in this window: another one of the same till has its own. */
  const turns = useSessionStorage<Turn[]>('mondrel.turns', []);
  /** Those of this load of the page: they are in their queue. */
  const mine = new Set<string>();
  const current = ref('');
  const count = computed(() => turns.value.length);
  const behind = computed(() => turns.value.filter(({ id }) => id !== current.value));

  function add(typed: string, { scanned = false, name = typed }: Partial<Turn> = {}): Turn {
    const turn = {
      id: newId(),
      basketId: basket.busy || till.preparing ? null : basket.basket.id,
      typed,
      scanned,
      name,
    };
    mine.add(turn.id);
    turns.value = [...turns.value, turn];
    return turn;
  }

  /** It is known now what is meant. */
  function mean(id: string, meant: Pick<Turn, 'typed' | 'name'>): void {
    turns.value = turns.value.map((turn) => (turn.id === id ? { ...turn, ...meant } : turn));
  }

  /** Its turn has come. */
  function begin(id: string): void {
    current.value = id;
  }

  /** It is done, or about to be in the basket: from now on the basket keeps it. */
  function end(id = current.value): void {
    turns.value = turns.value.filter((turn) => turn.id !== id);
  }

  /** What a reload of the page left over for the basket; the rest is forgotten. */
  function takeLeft(): Turn[] {
    const left = turns.value.filter(({ id }) => !mine.has(id));
    turns.value = turns.value.filter(({ id }) => mine.has(id));
    return left.filter(({ basketId }) => basketId === null || basketId === basket.basket.id);
  }

  return { count, behind, add, mean, begin, end, takeLeft };
});
