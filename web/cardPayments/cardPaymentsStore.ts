import { defineStore } from 'pinia';
import type { CardPage, SettlementRow, TerminalRow } from '../../contract/cardPayments.ts';
import type { CardOnFile } from '../../contract/payment.ts';
import { read, write } from '../net/api.ts';

/** Card payments as they are listed, settled, and left on file by customers. */
export const useCardPaymentsStore = defineStore('cardPayments', () => ({
  page: (query: string) => read<CardPage>(`/card-payments/payments?${query}`),
  terminals: () => read<TerminalRow[]>('/card-payments/terminals'),
  /** @param before the last one that is listed; 0 for the newest */
  settlements: (before: number) => read<SettlementRow[]>(`/card-payments/settlements?before=${before}`),
  settle: (terminalId: number) =>
    write<{ count: number; gross: number; fees: number }>(
      'POST',
      `/card-payments/terminals/${terminalId}/settle`,
    ),
  onFile: (customerId: number) => read<CardOnFile[]>(`/payment/cards-on-file/${customerId}`),
  /** The customer takes the agreement back. */
  forget: (cardId: number) => write('DELETE', `/payment/cards-on-file/${cardId}`, {}),
}));
