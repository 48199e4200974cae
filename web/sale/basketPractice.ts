import { v4 as newId } from 'uuid';
import type { Basket } from '../../core/counter/basket.ts';
import type { Offer } from '../../core/offers/offer.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import type { BasketPrices } from './basketPrices.ts';
import type { BasketState } from './basketState.ts';
import type { BasketSync } from './basketSync.ts';
import { catalogue } from './catalogue/thread.ts';

/** Trying an offer with a copy of the basket; the basket itself waits as it is. */
export function basketPractice(state: BasketState, prices: BasketPrices, sync: BasketSync) {
  const { basket, chosenId, phase, busy, practised } = state;
  const notices = useNoticeStore();
  let aside: Basket | undefined;

  async function practise(offer: Offer): Promise<void> {
    if (busy.value) return;
    aside ??= basket.value;
    practised.value = offer;
    phase.value = 'basket';
    await catalogue.practise(offer);
    basket.value = { ...aside, id: newId(), paymentBegan: undefined };
    chosenId.value = null;
    await prices.price();
  }

  async function endPractice(): Promise<void> {
    const back = aside;
    await forget();
    if (back) await prices.show(back);
    await sync.goOn();
  }

  /** Ends it without the basket that waits: another one comes. */
  async function forget(): Promise<void> {
    if (!practised.value) return;
    aside = undefined;
    practised.value = null;
    await catalogue.practise(null);
  }

  /** What would keep or sell a basket that is for practice is refused. @returns whether it was */
  function refusedInPractice(): boolean {
    if (!practised.value) return false;
    notices.failed(
      'This basket is for practice: it is neither kept nor paid. Leave practice to go on selling.',
    );
    return true;
  }

  return { practise, endPractice, forget, refusedInPractice };
}
export type BasketPractice = ReturnType<typeof basketPractice>;
