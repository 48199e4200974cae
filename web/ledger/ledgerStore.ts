import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { DaySummary, LedgerPage, TrialBalance } from '../../contract/ledger.ts';
import { read } from '../net/api.ts';
import { lastAnswer } from '../net/lastAnswer.ts';

/** The shop's books as they are looked at. */
export const useLedgerStore = defineStore('ledger', () => {
  const balance = shallowRef<TrialBalance | null>(null);
  const page = shallowRef<LedgerPage | null>(null);
  const day = shallowRef<DaySummary | null>(null);

  const [lastBalance, lastPage, lastDay] = [lastAnswer(), lastAnswer(), lastAnswer()];

  const loadBalance = async (query: string): Promise<void> => {
    balance.value = (await lastBalance(read<TrialBalance>(`/ledger/balance?${query}`))) ?? balance.value;
  };
  const loadEvents = async (query: string): Promise<void> => {
    page.value = (await lastPage(read<LedgerPage>(`/ledger/events?${query}`))) ?? page.value;
  };
  const loadDay = async (wanted: string): Promise<void> => {
    day.value = (await lastDay(read<DaySummary>(`/ledger/day?from=${wanted}`))) ?? day.value;
  };

  return { balance, page, day, loadBalance, loadEvents, loadDay };
});
