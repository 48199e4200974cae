import { defineStore } from 'pinia';
import type { NewTenderType, PaymentSettings, PaymentSetup } from '../../contract/payment.ts';
import { changeSetup, read } from '../net/api.ts';
import { inTurn } from '../net/inTurn.ts';
import { shown } from '../net/shown.ts';
import { lookFirst } from '../notices/follow.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** How the shop takes money, as its manager sets it up. */
export const usePaymentSetupStore = defineStore('paymentSetup', () => {
  const till = useTillStore();
  const [facts, showFacts] = shown<PaymentSetup | null>(null);

  async function load(): Promise<void> {
    await showFacts(read<PaymentSetup>('/payment/settings'));
  }

  /** @param seen the last change of Setup that whoever asks has seen */
  async function keep(seen: number, method: 'POST' | 'PUT', path: string, body: unknown): Promise<void> {
    await changeSetup(seen, method, path, body).catch(lookFirst(load));
    await Promise.all([load(), till.load()]);
  }
  const turn = inTurn();
  /** Changes something that stands as the page shows it. */
  const change = (method: 'POST' | 'PUT', path: string, body: unknown) =>
    turn(() => keep(facts.value?.seen ?? 0, method, path, body));

  /** Moves a means of payment in its list. @param by how many places down; above zero, or below for up */
  function move(id: number, by: number): Promise<void> {
    return turn(async () => {
      const ids = (facts.value?.types ?? []).map((one) => one.id);
      const at = ids.indexOf(id);
      const to = at + by;
      if (at < 0 || to < 0 || to >= ids.length) return;
      ids.splice(to, 0, ...ids.splice(at, 1));
      await keep(facts.value?.seen ?? 0, 'PUT', '/payment/order', { ids: ids.join(',') });
    });
  }

  return {
    facts,
    load,
    saveSettings: (settings: PaymentSettings, seen: number) =>
      keep(seen, 'PUT', '/payment/settings', settings),
    addType: (type: NewTenderType) => change('POST', '/payment/types', type),
    changeType: (id: number, type: NewTenderType, seen: number) =>
      keep(seen, 'PUT', `/payment/types/${id}`, type),
    move,
    pair: (terminal: { name: string; code: string; tillId: number }) =>
      change('POST', '/payment/terminals', terminal),
    offer: (tillId: number, terminalId: number, offered: boolean) =>
      change('PUT', '/payment/terminals/till', { tillId, terminalId, offered }),
  };
});
