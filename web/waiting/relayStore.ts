import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';

import type { StoredBasket } from '../../contract/counter.ts';
import type { PromiseView } from '../../contract/promises.ts';
import type { PartnerAtTill, RelayAgain, RelayAlert, RelayWanted } from '../../contract/relay.ts';
import { read, writeSurely } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { usePromiseStore } from './promiseStore.ts';

/** Orders that are passed on: the partners, and what they have said that nobody has looked at. */
export const useRelayStore = defineStore('relay', () => {
  const basket = useBasketStore();
  const promises = usePromiseStore();
  const [partners, showPartners] = shown<PartnerAtTill[]>([]);
  const [alerts, showAlerts, putAlerts] = shown<RelayAlert[]>([]);

  async function load(): Promise<void> {
    await showPartners(read<PartnerAtTill[]>('/waiting/relays/partners'));
  }
  async function look(): Promise<void> {
    await showAlerts(read<RelayAlert[]>('/waiting/relays/alerts'));
  }

  const follow = (): (() => void) => lookAgain(['relays-changed'], look);

  let placing: { key: string; of: string } | undefined;
  /** Takes an order that is passed on. @returns its number; what it comes to is on the till */
  async function place(customerId: number, terms: RelayWanted): Promise<string> {
    const asked = { customerId, terms };
    // One key for what was typed: pressing twice takes one order.
    const of = JSON.stringify(asked);
    if (placing?.of !== of) placing = { key: newId(), of };
    const made = await writeSurely<{ number: string; stored: StoredBasket | null }>(
      'POST',
      '/waiting/relays',
      asked,
      placing.key,
    );
    placing = undefined;
    if (made.stored) await basket.continueWith(made.stored);
    return made.number;
  }

  const sendAgain = async (id: string, wanted: RelayAgain) =>
    promises.changed(await writeSurely<PromiseView>('POST', `/waiting/relays/${id}/sent`, wanted));
  const reply = async (id: string, words: string) =>
    promises.changed(await writeSurely<PromiseView>('POST', `/waiting/relays/${id}/replies`, { words }));

  /** Accepts what a partner asks for. */
  const accept = async (id: string, words: string) =>
    promises.changed(
      await writeSurely<PromiseView>('POST', `/waiting/relays/orders/${id}/accepted`, { words }),
    );
  const answer = async (id: string, words: string) =>
    promises.changed(
      await writeSurely<PromiseView>('POST', `/waiting/relays/orders/${id}/replies`, { words }),
    );

  /** An alert is gone from every till: somebody looks at it, or has put it away. */
  async function close({ id }: RelayAlert, opened: boolean): Promise<void> {
    putAlerts(alerts.value.filter((one) => one.id !== id));
    await writeSurely('POST', `/waiting/relays/alerts/${id}/closed`, { opened });
  }

  return { partners, alerts, load, look, follow, place, sendAgain, reply, accept, answer, close };
});
