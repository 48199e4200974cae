import { defineStore } from 'pinia';
import { v4 as newKey } from 'uuid';
import { computed, ref } from 'vue';
import type { StoredBasket } from '../../contract/counter.ts';
import type { HeldBasket } from '../../contract/waiting.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read, writeSurely } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { problemWords } from '../net/problem.ts';
import { hear } from '../net/houseEvents.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** Baskets put aside, on all tills. */
export const useWaitingStore = defineStore('waiting', () => {
  const basket = useBasketStore();
  const ringUp = useRingUpStore();
  const till = useTillStore();
  const notices = useNoticeStore();
  const [listed, showHeld] = shown<HeldBasket[] | null>(null);
  const held = computed(() => listed.value ?? []);
  /** Whether it is known what is on hold. */
  const known = computed(() => listed.value !== null);
  const busy = ref(false);
  /** The basket that is looked at under Waiting; empty without one. */
  const lookedAt = ref('');

  const load = async (): Promise<void> => {
    await showHeld(read<HeldBasket[]>('/waiting/held'));
  };

  function follow(): () => void {
    const stop = lookAgain(['held-changed'], load);
    const stopHearing = hear((event) => {
      if (event.kind !== 'held-changed') return;
      const { taken } = event;
      if (taken && taken.id === lookedAt.value && taken.tillId !== till.facts?.till.id && !busy.value)
        notices.failed(taken.words);
      if (event.forTill === till.facts?.till.id) {
        notices.say('A basket was sent to this till. It is under Waiting.');
      }
    });
    return () => {
      stop();
      stopHearing();
    };
  }

  let holding: { key: string; of: string } | undefined;

  /** Puts the basket of this till aside. @returns its number */
  async function hold(name: string, note: string, forTill: number | null): Promise<string> {
    await ringUp.caughtUp();
    const body = { basket: basket.basket, name, note, total: basket.total, forTill };
    // One key for one basket: pressing twice holds once.
    if (holding?.of !== body.basket.id) holding = { key: newKey(), of: body.basket.id };
    const { number } = await writeSurely<{ number: string }>('POST', '/waiting/held', body, holding.key);
    holding = undefined;
    await basket.startAfresh();
    void load().catch(() => {});
    return number;
  }

  /** Takes a basket up here. @returns whether this till got it */
  async function takeUp(one: HeldBasket): Promise<boolean> {
    if (busy.value) return false;
    busy.value = true;
    try {
      const stored = await writeSurely<StoredBasket>('POST', `/waiting/held/${one.id}/taken`, {});
      await basket.continueWith(stored);
      notices.say(`${one.name || one.number} is on this till now.`);
      return true;
    } catch (error) {
      notices.failed(problemWords(error));
      return false;
    } finally {
      busy.value = false;
      await load();
    }
  }

  return { held, known, busy, lookedAt, load, follow, hold, takeUp };
});
