import { dayLater } from '../../core/day.ts';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import type { ShiftRow } from '../../contract/drawer.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useDrawerStore } from './drawerStore.ts';

/** So many days are looked back. */
const DAYS = 14;

/**
 * Shifts that were closed short and not explained since: who manages the shop sees them at once, whatever the amount.
 */
export const useShortagesStore = defineStore('shortages', () => {
  const drawer = useDrawerStore();
  const notices = useNoticeStore();
  const session = useSessionStore();
  const till = useTillStore();
  const rows = shallowRef<readonly ShiftRow[]>([]);
  const count = computed(() => rows.value.length);
  let newest: number | null = null;

  async function load(): Promise<void> {
    if (!session.may('shift.history') || !till.facts) {
      rows.value = [];
      newest = null;
      return;
    }
    const from = dayLater(till.today(), { days: -DAYS });
    const { rows: closed } = await drawer.history(new URLSearchParams({ from }).toString());
    const short = closed.filter(({ variance, explained }) => variance < explained);
    const since = newest;
    const [fresh] = since === null ? [] : short.filter(({ id }) => id > since);
    newest = Math.max(0, ...closed.map(({ id }) => id));
    rows.value = short;
    // Whoever closed it knows, and reads what came of that.
    if (fresh && fresh.closedBy !== session.person?.name)
      notices.say(
        `Till ${fresh.till}, closed by ${fresh.closedBy}, is ${till.money(0 - fresh.variance)} short.`,
      );
  }

  /** Without this list the shop goes on all the same. */
  const look = (): void => void load().catch(() => {});

  const follow = () => lookAgain(['drawer-changed'], load);

  return { rows, count, load, look, follow };
});
