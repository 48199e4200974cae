import { defineStore } from 'pinia';
import type { DaySummary, LedgerPage, TrialBalance } from '../../contract/ledger.ts';
import { read } from '../net/api.ts';
import { shown } from '../net/shown.ts';

/** The shop's books as they are looked at. */
export const useLedgerStore = defineStore('ledger', () => {
  const [balance, showBalance] = shown<TrialBalance | null>(null);
  const [page, showPage] = shown<LedgerPage | null>(null);
  const [day, showDay] = shown<DaySummary | null>(null);

  const loadBalance = async (query: string): Promise<void> => {
    await showBalance(read<TrialBalance>(`/ledger/balance?${query}`));
  };
  const loadEvents = async (query: string): Promise<void> => {
    await showPage(read<LedgerPage>(`/ledger/events?${query}`));
  };
  const loadDay = async (wanted: string): Promise<void> => {
    await showDay(read<DaySummary>(`/ledger/day?from=${wanted}`));
  };

  return { balance, page, day, loadBalance, loadEvents, loadDay };
});
