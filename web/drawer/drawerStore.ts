import { defineStore } from 'pinia';
import { v4 as newKey } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import type { CashMove, CloseShift, ClosedShift, DrawerState, OpenShift } from '../../contract/drawer.ts';
import { worth, type Pieces } from '../../core/drawer/countSheet.ts';
import { useNoticeStore } from '../frame/noticeStore.ts';
import { ApiProblem, problemWords, read, Unreachable, write, writeSurely } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { useTillStore } from '../setup/tillStore.ts';

const SEND_AFTER_MS = 300;
const SEND_AGAIN_MS = 2000;

interface KeptCount {
  /** The shift the sheet belongs to; none for a float that is being counted to open the drawer. */
  shiftId: number | null;
  pieces: Pieces;
}

/** The drawer of this till and the count sheet that is being filled in. */
export const useDrawerStore = defineStore('drawer', () => {
  const notices = useNoticeStore();
  const till = useTillStore();
  const state = shallowRef<DrawerState | null>(null);
  const pieces = ref<Pieces>({});
  const counted = computed(() => worth(pieces.value));
  let revision = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;

  const keyOf = () => `mondrel.count.${till.facts?.till.id ?? 0}`;

  function kept(): KeptCount | null {
    const stored = localStorage.getItem(keyOf());
    return stored ? (JSON.parse(stored) as KeptCount) : null;
  }

  async function load(): Promise<void> {
    state.value = await read<DrawerState>('/drawer');
    const { shift } = state.value;
    revision = shift?.countRevision ?? 0;
    const mine = kept();
    pieces.value = mine?.shiftId === (shift?.id ?? null) ? mine.pieces : (shift?.countSheet ?? {});
  }

  /** Reads the figures afresh, leaving the sheet as it is. */
  async function look(): Promise<void> {
    const next = await read<DrawerState>('/drawer');
    if (next.shift?.id !== state.value?.shift?.id) return load();
    state.value = next;
  }

  /** Sets how many pieces of a kind there are: kept in the browser at once, on the server a moment later. */
  function count(value: number, pieceCount: number): void {
    const others = Object.entries(pieces.value).filter(([kind]) => kind !== String(value));
    pieces.value = Object.fromEntries(pieceCount === 0 ? others : [...others, [String(value), pieceCount]]);
    const shiftId = state.value?.shift?.id ?? null;
    localStorage.setItem(keyOf(), JSON.stringify({ shiftId, pieces: pieces.value } satisfies KeptCount));
    if (shiftId !== null) sendSoon(SEND_AFTER_MS);
  }

  function clearCount(): void {
    pieces.value = {};
    localStorage.removeItem(keyOf());
    if (state.value?.shift) sendSoon(SEND_AFTER_MS);
  }

  function sendSoon(after: number): void {
    clearTimeout(timer);
    timer = setTimeout(() => void sendCount(), after);
  }

  async function sendCount(): Promise<void> {
    try {
      const saved = await write<{ revision: number }>('PUT', '/drawer/count-sheet', {
        pieces: pieces.value,
        revision,
      });
      revision = saved.revision;
    } catch (error) {
      if (error instanceof Unreachable) return sendSoon(SEND_AGAIN_MS);
      if (error instanceof ApiProblem && error.details.type === 'count-changed') {
        // The newest hand wins: the sheet that is being typed here replaces the other one.
        revision = (error.details.data as OpenShift | null)?.countRevision ?? 0;
        return sendSoon(0);
      }
      notices.failed(problemWords(error));
    }
  }

  async function open(): Promise<void> {
    await writeSurely('POST', '/drawer/shifts', { pieces: pieces.value }, openingKey());
    localStorage.removeItem(keyOf());
    opening = undefined;
    await load();
  }

  let opening: { key: string; of: string } | undefined;
  /** One key for one count: pressing twice opens once, and a corrected count is asked for anew. */
  function openingKey(): string {
    const of = JSON.stringify(pieces.value);
    if (opening?.of !== of) opening = { key: newKey(), of };
    return opening.key;
  }

  async function close(wanted: Omit<CloseShift, 'pieces'>): Promise<ClosedShift> {
    clearTimeout(timer);
    const closed = await writeSurely<ClosedShift>('POST', '/drawer/closings', {
      ...wanted,
      pieces: pieces.value,
    });
    localStorage.removeItem(keyOf());
    await load();
    return closed;
  }

  /** Moves cash without a sale. @param id one move, however often it is asked for. @throws ApiProblem */
  const moveCash = (id: string, move: CashMove) => writeSurely('POST', '/drawer/cash-moves', move, id);

  /** Opens the drawer without a sale. @param id one opening, however often it is asked for. @throws ApiProblem */
  const openWithoutSale = (id: string, reason: string, countersign: string | undefined) =>
    writeSurely('POST', '/drawer/openings', { reason, countersign }, id);

  function follow(): () => void {
    return hear((event) => {
      const here = state.value && till.facts;
      if (!here) return;
      if (event.kind === 'connected') void look();
      if (
        (event.kind === 'sale-finished' || event.kind === 'drawer-changed') &&
        event.tillId === here.till.id
      )
        void look();
    });
  }

  return {
    state,
    pieces,
    counted,
    load,
    look,
    count,
    clearCount,
    open,
    openWithoutSale,
    moveCash,
    close,
    follow,
  };
});
