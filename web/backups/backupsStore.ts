import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { BackupFacts, BackupFile } from '../../contract/backups.ts';
import { sizeInWords } from '../../core/backups/due.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { read, write } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';

/** Copies of the shop's data, and what is wrong with them, for who sets up the shop. */
export const useBackupsStore = defineStore('backups', () => {
  const session = useSessionStore();
  const till = useTillStore();
  const notices = useNoticeStore();
  const [facts, showFacts, putFacts] = shown<BackupFacts | null>(null);
  /** One is being made, here or elsewhere. */
  const making = ref(false);

  async function load(): Promise<void> {
    if (!session.may('shop.set-up')) {
      putFacts(null);
      return;
    }
    const known = troubles.value;
    const found = await showFacts(read<BackupFacts>('/backups'));
    if (!found) return;
    making.value = found.running;
    const fresh = troubles.value.filter((one) => !known.includes(one));
    if (fresh.length > 0) notices.failed(fresh.join(' '));
  }

  /** Without the list the shop goes on all the same. */
  const look = (): void => void load().catch(() => {});

  /** What somebody has to look after, in words. */
  const troubles = computed((): string[] => {
    if (!facts.value) return [];
    const { trouble, late, files, disk } = facts.value;
    const [last] = files;
    const since = last
      ? `The last good backup is of ${till.time(last.at, 'full')}.`
      : 'There is no backup yet.';
    return [
      ...(trouble ? [`The last try failed: ${trouble}`] : []),
      ...(late ? [since] : []),
      ...(disk.low
        ? [
            `The disk is nearly full: ${sizeInWords(disk.free)} are left. Make room before the shop stands still.`,
          ]
        : []),
    ];
  });

  async function make(): Promise<BackupFile> {
    making.value = true;
    try {
      return await write<BackupFile>('POST', '/backups', {});
    } finally {
      making.value = false;
      look();
    }
  }

  const follow = () => lookAgain(['backups-changed'], load);

  return { facts, making, troubles, load, look, make, follow };
});
