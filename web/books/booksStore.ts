import { defineStore } from 'pinia';
import type { DaySummary, LedgerPage, TrialBalance } from '../../contract/books.ts';
import { read } from '../net/api.ts';
import { shown } from '../net/shown.ts';

/** The shop's books as they are looked at. */
export const useBooksStore = defineStore('books', () => {
  const [balance, showBalance] = shown<TrialBalance | null>(null);
  const [page, showPage] = shown<LedgerPage | null>(null);
  const [day, showDay] = shown<DaySummary | null>(null);

  const loadBalance = async (query: string): Promise<void> => {
    await showBalance(read<TrialBalance>(`/books/balance?${query}`));
  };
  const loadEvents = async (query: string): Promise<void> => {
    await showPage(read<LedgerPage>(`/books/events?${query}`));
  };
  const loadDay = async (wanted: string): Promise<void> => {
    await showDay(read<DaySummary>(`/books/day?from=${wanted}`));
  };

  return { balance, page, day, loadBalance, loadEvents, loadDay };
});
