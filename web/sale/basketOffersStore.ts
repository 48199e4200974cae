import { defineStore } from 'pinia';
import type { FoundCode } from '../../contract/offers.ts';
import { addCode, setReward, withoutCode } from '../../core/counter/basketCodes.ts';
import type { Nudge } from '../../core/nudges/nudge.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read } from '../net/api.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useBasketStore } from './basketStore.ts';
import { useBasketWorkStore } from './basketWorkStore.ts';
import { catalogue } from './catalogue/thread.ts';
import { useRingUpStore } from './ringUpStore.ts';
import { soundRefusal } from './sound.ts';

/** Codes and rewards on the basket, and following what is suggested. */
export const useBasketOffersStore = defineStore('basketOffers', () => {
  const basket = useBasketStore();
  const ringUp = useRingUpStore();
  const work = useBasketWorkStore();
  const notices = useNoticeStore();

  /** Puts a code on the basket. @returns whether it is one */
  async function takeCode(text: string): Promise<boolean> {
    try {
      const { offer, ...found } = await read<FoundCode>(`/offers/codes/${encodeURIComponent(text.trim())}`);
      if (!basket.readyForGoods(found.code)) return true;
      await basket.change(addCode(basket.basket, found));
      notices.say(`${found.code}: ${offer}.`);
      return true;
    } catch (error) {
      if (error instanceof ApiProblem && error.details.status === 404) return false;
      soundRefusal();
      notices.failed(problemWords(error));
      return true;
    }
  }

  const dropCode = (code: string) => basket.change(withoutCode(basket.basket, code));
  const dropReward = (offerId: number) => basket.change(setReward(basket.basket, offerId, false));

  /** Does what a suggestion is about. */
  async function follow({ act }: Nudge): Promise<void> {
    if (act?.kind === 'reward') await basket.change(setReward(basket.basket, act.offerId, true));
    else if (act?.kind === 'customer') work.begin('customer');
    else if (act?.kind === 'add') {
      const [item] = await catalogue.find([act.itemId]);
      if (item) await ringUp.add(item, act.count * 1000);
    }
  }

  return { takeCode, dropCode, dropReward, follow };
});
