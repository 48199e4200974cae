import { defineStore } from 'pinia';
import type { CardOnFile, CardPage, SettlementRow, TerminalRow } from '../../contract/payment.ts';
import { read, write } from '../net/api.ts';

/** Card payments as they are listed, settled, and left on file by customers. */
export const useCardPaymentsStore = defineStore('cardPayments', () => ({
  page: (query: string) => read<CardPage>(`/payment/cards?${query}`),
  terminals: () => read<TerminalRow[]>('/payment/terminals'),
  settlements: () => read<SettlementRow[]>('/payment/settlements'),
  settle: (terminalId: number) =>
    write<{ count: number; gross: number; fees: number }>('POST', `/payment/terminals/${terminalId}/settle`),
  onFile: (customerId: number) => read<CardOnFile[]>(`/payment/cards-on-file/${customerId}`),
  /** The customer takes the agreement back. */
  forget: (cardId: number) => write('DELETE', `/payment/cards-on-file/${cardId}`, {}),
}));
