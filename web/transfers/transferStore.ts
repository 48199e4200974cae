import { defineStore } from 'pinia';
import type { Asked } from '../../contract/goods.ts';
import type { SendableItem, TransferView, TransfersPage, WantedTransfer } from '../../contract/transfers.ts';
import { read, write } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';

/** Goods that go from a place to another. Each step throws ApiProblem. */
export const useTransferStore = defineStore('transfers', () => {
  const [page, showPage] = shown<TransfersPage | null>(null);

  async function load(): Promise<void> {
    await showPage(read<TransfersPage>('/transfers'));
  }
  const step = ({ id, version }: TransferView, what: 'sent' | 'cancelled') =>
    write<TransferView>('POST', `/transfers/${id}/${what}`, { version });
  const askFor = (wanted: WantedTransfer) => write<TransferView>('POST', '/transfers', wanted);
  const takeIn = ({ id, version }: TransferView, lines: readonly number[]) =>
    write<TransferView>('POST', `/transfers/${id}/arrived`, { version, lines });
  /** Goods that can be sent from a place. */
  const findItems = (place: number, asked: Asked) =>
    read<SendableItem[]>(
      `/transfers/items?${new URLSearchParams({ place: String(place), ...asked }).toString()}`,
    );

  const follow = (): (() => void) => lookAgain(['supply-changed'], load);

  return { page, load, step, askFor, takeIn, findItems, follow };
});
