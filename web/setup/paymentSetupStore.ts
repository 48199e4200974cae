import { defineStore } from 'pinia';
import type { TerminalRow } from '../../contract/cardPayments.ts';
import type { NewTenderType, PaymentSettings } from '../../contract/payment.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { read, write } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { useTillStore } from '../shop/tillStore.ts';

interface PaymentFacts {
  settings: PaymentSettings;
  types: TenderType[];
  terminals: TerminalRow[];
}

/** How the shop takes money, as its manager sets it up. */
export const usePaymentSetupStore = defineStore('paymentSetup', () => {
  const till = useTillStore();
  const [facts, showFacts] = shown<PaymentFacts | null>(null);

  async function load(): Promise<void> {
    await showFacts(read<PaymentFacts>('/payment/settings'));
  }

  async function then(work: Promise<unknown>): Promise<void> {
    await work;
    await Promise.all([load(), till.load()]);
  }

  return {
    facts,
    load,
    saveSettings: (settings: PaymentSettings) => then(write('PUT', '/payment/settings', settings)),
    addType: (type: NewTenderType) => then(write('POST', '/payment/types', type)),
    changeType: (id: number, type: NewTenderType) => then(write('PUT', `/payment/types/${id}`, type)),
    order: (ids: readonly number[]) => then(write('PUT', '/payment/order', { ids: ids.join(',') })),
    pair: (terminal: { name: string; code: string; tillId: number }) =>
      then(write('POST', '/payment/terminals', terminal)),
    offer: (tillId: number, terminalId: number, offered: boolean) =>
      then(write('PUT', '/payment/terminals/till', { tillId, terminalId, offered })),
  };
});
