import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import type { StoredBasket } from '../../contract/counter.ts';
import type { HandoverChange, OrderFacts, OrderStep, OrderWanted } from '../../contract/orders.ts';
import type { PromiseView } from '../../contract/promises.ts';
import { read, writeSurely } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { usePromiseStore } from './promiseStore.ts';

/** Orders: what a till needs to place one, and what comes to pass with them at a place. */
export const useOrderStore = defineStore('order', () => {
  const basket = useBasketStore();
  const ringUp = useRingUpStore();
  const promises = usePromiseStore();
  const notices = useNoticeStore();
  /** What places have of the goods in the basket, and how the shop takes orders. */
  const [facts, showFacts, putFacts] = shown<OrderFacts | null>(null);

  const factsOf = (itemIds: readonly number[]): Promise<OrderFacts> =>
    read(`/waiting/orders/facts?items=${[...new Set(itemIds)].join(',')}`);
  const load = (itemIds: readonly number[]) => showFacts(factsOf(itemIds));
  const forget = (): void => putFacts(null);

  let placing: { key: string; of: string } | undefined;
  /** Places an order of the basket. @returns its number; what is paid for it is on the till */
  async function place(terms: OrderWanted): Promise<string> {
    await ringUp.caughtUp();
    const asked = { basket: basket.basket, expectedTotal: basket.total, terms };
    // One key for one basket and one set of terms: pressing twice places one order.
    const of = JSON.stringify(asked);
    if (placing?.of !== of) placing = { key: newId(), of };
    const { number, stored } = await writeSurely<{ number: string; stored: StoredBasket | null }>(
      'POST',
      '/waiting/orders',
      asked,
      placing.key,
    );
    placing = undefined;
    if (stored) await basket.continueWith(stored);
    else await basket.startAfresh();
    return number;
  }

  /** Notes what came to pass with an order at a place. */
  const takeStep = async (id: string, step: OrderStep) =>
    promises.changed(await writeSurely<PromiseView>('POST', `/waiting/orders/${id}/steps`, step));
  const changeHandover = async (id: string, change: HandoverChange) =>
    promises.changed(await writeSurely<PromiseView>('PUT', `/waiting/orders/${id}/handover`, change));
  const askForLabel = async (id: string) =>
    promises.changed(await writeSurely<PromiseView>('POST', `/waiting/orders/${id}/parcels`, {}));

  async function print({ id, number }: PromiseView, paper: 'pick-list' | 'packing-slip'): Promise<void> {
    await writeSurely('POST', `/waiting/orders/${id}/printed`, { paper });
    notices.say(`The ${paper === 'pick-list' ? 'pick list' : 'packing slip'} of ${number} is printed.`);
  }

  return { facts, factsOf, load, forget, place, takeStep, changeHandover, askForLabel, print };
});
