import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import type { PrintedPaper, PrinterFacts, SettleJob } from '../../contract/printer.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read, write } from '../net/api.ts';
import { lastAnswer } from '../net/lastAnswer.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** The printer of this till: what keeps it from printing, and what has not come out for certain. */
export const usePrinterStore = defineStore('printer', () => {
  const till = useTillStore();
  const notices = useNoticeStore();
  const facts = shallowRef<PrinterFacts | null>(null);
  const trouble = computed(() => facts.value?.trouble ?? null);
  const doubtful = computed(() => facts.value?.open.filter(({ state }) => state === 'doubtful') ?? []);
  const waiting = computed(() => facts.value?.open.filter(({ state }) => state !== 'doubtful') ?? []);
  /** What somebody should look after: nothing while all goes well. */
  const count = computed(() => doubtful.value.length + (trouble.value === null ? 0 : waiting.value.length));

  const lastFacts = lastAnswer();
  async function load(): Promise<void> {
    const before = { trouble: trouble.value, doubtful: doubtful.value.length };
    const found = await lastFacts(read<PrinterFacts>('/printer/state'));
    if (!found) return;
    facts.value = found;
    if (doubtful.value.length > before.doubtful) {
      const [newest] = doubtful.value.slice(-1);
      notices.failed(
        `${newest?.words ?? 'A paper'} may not have come out whole. Look, and say so at Printer.`,
      );
    } else if (trouble.value !== null && trouble.value !== before.trouble) {
      notices.failed(`${trouble.value} Nothing is lost: it prints when that is mended.`);
    }
  }

  /** Without this list the till goes on all the same. */
  const look = (): void => void load().catch(() => {});

  /** The newest papers of the stand-in. */
  const papers = () => read<PrintedPaper[]>('/printer/papers');

  async function settle(id: number, as: SettleJob['as']): Promise<void> {
    await write('POST', `/printer/jobs/${id}`, { as });
    await load();
  }

  const follow = (): (() => void) =>
    lookAgain((event) => {
      if (event.kind === 'printer-changed') return event.tillId === till.facts?.till.id;
      return event.kind === 'printed' && event.tillId === till.facts?.till.id && count.value > 0;
    }, load);

  return { facts, trouble, doubtful, waiting, count, look, papers, settle, follow };
});
