import { defineStore } from 'pinia';
import { computed, reactive, ref, shallowRef } from 'vue';
import type { Asked } from '../../contract/goods.ts';
import type { SendableItem, TransferView, TransfersPage, WantedTransfer } from '../../contract/transfers.ts';
import { read, write } from '../net/api.ts';
import { lastAnswer } from '../net/lastAnswer.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';

/** Goods that go from a place to another. Each step throws ApiProblem. */
export const useTransferStore = defineStore('transfers', () => {
  const filter = reactive({ find: '' });
  const [page, showPage] = shown<TransfersPage | null>(null);
  const lookedAt = ref<number | null>(null);
  /** One that is looked at and not listed: it is older, or other words are looked for. */
  const beside = shallowRef<TransferView | null>(null);
  const looked = computed(() =>
    [...(page.value?.transfers ?? []), beside.value].find((transfer) => transfer?.id === lookedAt.value),
  );

  const pageAt = (at: number) =>
    read<TransfersPage>(`/transfers?${new URLSearchParams({ ...filter, page: String(at) }).toString()}`);

  let pages = 1;
  /** @param count of pages, read together: what comes and goes meanwhile moves rows from one to the next */
  async function load(count = 1): Promise<void> {
    pages = count;
    const found = Promise.all(Array.from({ length: count }, (_, at) => pageAt(at)));
    await showPage(
      found.then(([first, ...others]) => {
        if (!first) throw new Error('no page was asked for');
        const all = [first, ...others].flatMap(({ transfers }) => transfers);
        return { ...first, transfers: [...new Map(all.map((one) => [one.id, one])).values()] };
      }),
    );
    await look(lookedAt.value);
  }
  const loadAgain = () => load(pages);
  const more = () => load(pages + 1);

  const lastLook = lastAnswer();
  /** @throws ApiProblem where there is no such transfer */
  async function look(id: number | null): Promise<void> {
    lookedAt.value = id;
    if (id === null || page.value?.transfers.some((transfer) => transfer.id === id)) return;
    beside.value = (await lastLook(read<TransferView>(`/transfers/${id}`))) ?? beside.value;
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

  const follow = (): (() => void) => lookAgain(['supply-changed'], loadAgain);

  return { filter, page, looked, load, loadAgain, more, look, step, askFor, takeIn, findItems, follow };
});
