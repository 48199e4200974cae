import { watchImmediate } from '@vueuse/core';
import { onScopeDispose, ref, type Ref } from 'vue';
import { useBackupsStore } from '../backups/backupsStore.ts';
import { useEntryKinds } from '../counter/entryKinds.ts';
import { useShelfStore } from '../counter/shelfStore.ts';
import { useDrawerStore } from '../drawer/drawerStore.ts';
import { useShortagesStore } from '../drawer/shortagesStore.ts';
import { problemWords } from '../net/problem.ts';
import { untilAnswered } from '../net/untilAnswered.ts';
import { usePaymentStore } from '../payment/paymentStore.ts';
import { usePrinterStore } from '../printer/printerStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useTurnStore } from '../sale/turnStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { usePromiseStore } from '../waiting/promiseStore.ts';
import { useRelayStore } from '../waiting/relayStore.ts';
import { useWaitingStore } from '../waiting/waitingStore.ts';

/** Makes ready what a till needs, whenever somebody signs in on one, and tries until it is there. */
export function useReady(): {
  /** Why it is not ready yet. */
  trouble: Readonly<Ref<string>>;
} {
  const session = useSessionStore();
  const till = useTillStore();
  const basket = useBasketStore();
  const drawer = useDrawerStore();
  const waiting = useWaitingStore();
  const promises = usePromiseStore();
  const shelves = useShelfStore();
  const payment = usePaymentStore();
  const turns = useTurnStore();
  const takeEntry = useEntryKinds();
  const relays = useRelayStore();
  const shortages = useShortagesStore();
  const printer = usePrinterStore();
  const backups = useBackupsStore();
  const trouble = ref('');
  let here = true;
  onScopeDispose(() => (here = false));

  async function makeReady(): Promise<void> {
    const facts = await till.load();
    await Promise.all([drawer.load(), basket.begin(facts), waiting.load(), promises.load()]);
    await Promise.all([shelves.load(), payment.begin()]);
  }

  watchImmediate(
    () => session.person?.tillId,
    async (tillId) => {
      if (tillId === undefined) return;
      till.preparing = true;
      trouble.value = '';
      const still = () => here && session.person?.tillId === tillId;
      await untilAnswered(makeReady, (error) => (trouble.value = problemWords(error)), still);
      if (!still()) return;
      till.preparing = false;
      // What waited behind a question when the page was left asks again.
      const left = turns.takeLeft();
      if (left.length > 0) basket.keepChange();
      for (const { typed, scanned } of left) void takeEntry(typed, { scanned });
      shortages.look();
      printer.look();
      void relays.look().catch(() => {});
      backups.look();
    },
  );
  return { trouble };
}
