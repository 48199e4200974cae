import { defineStore } from 'pinia';
import type { CardPage, SettlementRow, TerminalRow } from '../../contract/cardPayments.ts';
import type { CardOnFile } from '../../contract/payment.ts';
import { read, write } from '../net/api.ts';

/** Card payments as they are listed, settled, and left on file by customers. */
export const useCardPaymentsStore = defineStore('cardPayments', () => ({
  page: (query: string) => read<CardPage>(`/card-payments/payments?${query}`),
  terminals: () => read<TerminalRow[]>('/card-payments/terminals'),
  settlements: () => read<SettlementRow[]>('/card-payments/settlements'),
  settle: (terminalId: number) =>
    write<{ count: number; gross: number; fees: number }>(
      'POST',
      `/card-payments/terminals/${terminalId}/settle`,
    ),
  onFile: (customerId: number) => read<CardOnFile[]>(`/payment/cards-on-file/${customerId}`),
  /** The customer takes the agreement back. */
  forget: (cardId: number) => write('DELETE', `/payment/cards-on-file/${cardId}`, {}),
}));
