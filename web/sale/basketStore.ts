import { defineStore } from 'pinia';
import type { StoredBasket } from '../../contract/counter.ts';
import type { TillFacts } from '../../contract/setup.ts';
import { read, write, writeSurely } from '../net/api.ts';
import { basketChanges } from './basketChanges.ts';
import { basketPractice } from './basketPractice.ts';
import { basketPrices } from './basketPrices.ts';
import { basketState, emptyBasket } from './basketState.ts';
import { basketSync } from './basketSync.ts';
import { checkout } from './checkout.ts';

/** The basket of this till, and the way from it to a finished sale. */
export const useBasketStore = defineStore('basket', () => {
  const state = basketState();
  const prices = basketPrices(state);
  const sync = basketSync(state, prices, { read, write }, (lines) =>
    changes.change({ ...state.basket.value, lines: [...state.basket.value.lines, ...lines] }),
  );
  const changes = basketChanges(state, prices, sync);
  const practice = basketPractice(state, prices, sync);
  const payment = checkout(state, { prices, sync, changes, practice }, { read, writeSurely });
  const { behind, remember: _remember, ...shown } = state;
  const { settle, ...pays } = payment;
  const { forget, ...practises } = practice;

  /** Takes up the till's basket, and a payment of it that was not answered. */
  async function begin(facts: TillFacts): Promise<void> {
    await forget();
    await sync.takeUp(facts);
    if (behind.paying) await settle(behind.paying);
  }

  /** The basket went elsewhere: a new one begins, and the server has none for this till. */
  async function startAfresh(): Promise<void> {
    sync.restart();
    state.phase.value = 'basket';
    await prices.show(emptyBasket());
  }

  /** A basket that the server has put on this till. */
  async function continueWith(stored: StoredBasket): Promise<void> {
    await forget();
    sync.restart(stored.revision);
    state.finished.value = null;
    state.phase.value = 'basket';
    await prices.show(stored.basket);
  }

  return {
    ...shown,
    ...changes,
    ...practises,
    ...pays,
    standBy: prices.standBy,
    follow: sync.follow,
    begin,
    startAfresh,
    continueWith,
  };
});
