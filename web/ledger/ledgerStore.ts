import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { DaySummary, LedgerPage, TrialBalance } from '../../contract/ledger.ts';
import { read } from '../net/api.ts';

/** The shop's books as they are looked at. */
export const useLedgerStore = defineStore('ledger', () => {
  const balance = shallowRef<TrialBalance | null>(null);
  const page = shallowRef<LedgerPage | null>(null);
  const day = shallowRef<DaySummary | null>(null);

  const loadBalance = async (query: string): Promise<void> => {
    balance.value = await read<TrialBalance>(`/ledger/balance?${query}`);
  };
  const loadEvents = async (query: string): Promise<void> => {
    page.value = await read<LedgerPage>(`/ledger/events?${query}`);
  };
  const loadDay = async (wanted: string): Promise<void> => {
    day.value = await read<DaySummary>(`/ledger/day?from=${wanted}`);
  };

  return { balance, page, day, loadBalance, loadEvents, loadDay };
});
