import { defineStore } from 'pinia';
import { v4 as newKey } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import type {
  CashMove,
  CloseShift,
  ClosedShift,
  ClosedShiftView,
  Comparison,
  CorrectTender,
  DeskTill,
  DrawerState,
  Explain,
  OpenDrawer,
  ShiftHistory,
  TerminalTotal,
  VarianceFound,
  PastShift,
} from '../../contract/drawer.ts';
import { parseMoney } from '../../core/money.ts';
import { countedOf, type Pieces } from '../../core/drawer/countSheet.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read, write, writeSurely } from '../net/api.ts';
import { lastAnswer } from '../net/lastAnswer.ts';
import { ApiProblem, problemWords, Unreachable } from '../net/problem.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { useTillStore } from '../shop/tillStore.ts';

const SEND_AFTER_MS = 300;
const SEND_AGAIN_MS = 2000;

interface KeptCount {
  /** The shift the sheet belongs to; none for a float that is being counted to open the drawer. */
  shiftId: number | null;
  pieces: Pieces;
  typedTotal?: string;
}

/** The drawer of this till and the count sheet that is being filled in. */
export const useDrawerStore = defineStore('drawer', () => {
  const notices = useNoticeStore();
  const till = useTillStore();
  const state = shallowRef<DrawerState | null>(null);
  /** Another till whose drawer is counted at this desk; nothing for this till's own. */
  const deskTillId = ref<number | null>(null);
  const pieces = ref<Pieces>({});
  /** What is typed as the whole amount, where the shop allows it and nobody counts pieces. */
  const typedTotal = ref('');
  const total = computed(() => parseMoney(typedTotal.value, till.digits));
  const totalWrong = computed(
    () => typedTotal.value.trim() !== '' && (total.value === null || total.value < 0),
  );
  const counted = computed(() => countedOf({ pieces: pieces.value, total: total.value }));
  let revision = 0;
  /** This till's own drawer, as it was seen last. */
  let own: DrawerState | null = null;
  /** The count is being compared: what is expected may be seen, also of a blind count. */
  let revealed = false;
  let timer: ReturnType<typeof setTimeout> | undefined;

  const tillId = (): number => deskTillId.value ?? till.facts?.till.id ?? 0;
  const keyOf = () => `mondrel.count.${tillId()}`;
  const address = (of = deskTillId.value) => (of === null ? '/drawer' : `/drawer?till=${of}`);

  function kept(): KeptCount | null {
    const stored = localStorage.getItem(keyOf());
    return stored ? (JSON.parse(stored) as KeptCount) : null;
  }

  const lastState = lastAnswer();
  const lastLook = lastAnswer();
  /**
   * Reads a drawer with its sheet. The one before is shown, and what is typed is counted in it, until that is there.
   * @param of another till whose drawer it is; nothing for this till's own
   */
  async function load(of = deskTillId.value): Promise<void> {
    revealed = false;
    // What is still looked at is older.
    void lastLook(Promise.resolve());
    const found = await lastState(read<DrawerState>(address(of)));
    if (found) show(of, found);
  }

  function show(of: number | null, found: DrawerState): void {
    if (of !== deskTillId.value && stopWaiting()) void sendCount();
    if (of === null) own = found;
    deskTillId.value = of;
    state.value = found;
    const { shift } = found;
    revision = shift?.countRevision ?? 0;
    const mine = kept();
    const here = mine?.shiftId === (shift?.id ?? null) ? mine : null;
    pieces.value = here?.pieces ?? shift?.countSheet ?? {};
    typedTotal.value = here?.typedTotal ?? '';
  }

  /**
   * Reads the figures afresh, leaving the sheet as it is. @param compared the count stands: what is expected may be
   * seen
   */
  async function look(compared = revealed): Promise<void> {
    revealed = compared;
    const of = address();
    const next = await lastLook(read<DrawerState>(of));
    // Another till's drawer is looked at meanwhile, or this one once more.
    if (!next || of !== address()) return;
    if (next.shift?.id !== state.value?.shift?.id) return load();
    state.value = compared && next.blind ? { ...next, ...(await compare()) } : next;
  }

  /** What the count as it stands is compared with; that somebody looked is noted. */
  const compare = () =>
    write<Comparison>('POST', '/drawer/comparisons', {
      tillId: deskTillId.value,
      pieces: pieces.value,
      total: total.value,
    });

  /** Sets how many pieces of a kind there are: kept in the browser at once, on the server a moment later. */
  function count(value: number, pieceCount: number): void {
    const others = Object.entries(pieces.value).filter(([kind]) => kind !== String(value));
    pieces.value = Object.fromEntries(pieceCount === 0 ? others : [...others, [String(value), pieceCount]]);
    keep();
    if (state.value?.shift) sendSoon(SEND_AFTER_MS);
  }

  /** Counts the drawer as one total. */
  function countTotal(text: string): void {
    typedTotal.value = text;
    keep();
  }

  function keep(): void {
    const shiftId = state.value?.shift?.id ?? null;
    const count: KeptCount = { shiftId, pieces: pieces.value, typedTotal: typedTotal.value };
    localStorage.setItem(keyOf(), JSON.stringify(count));
  }

  function clearCount(): void {
    pieces.value = {};
    typedTotal.value = '';
    localStorage.removeItem(keyOf());
    if (state.value?.shift) sendSoon(SEND_AFTER_MS);
  }

  function sendSoon(after: number): void {
    stopWaiting();
    timer = setTimeout(() => {
      timer = undefined;
      void sendCount();
    }, after);
  }

  /** @returns whether what was typed last was not sent yet */
  function stopWaiting(): boolean {
    const waited = timer !== undefined;
    clearTimeout(timer);
    timer = undefined;
    return waited;
  }

  async function sendCount(): Promise<void> {
    const of = deskTillId.value;
    const sheet = { pieces: pieces.value, revision, tillId: of };
    try {
      const saved = await write<{ revision: number }>('PUT', '/drawer/count-sheet', sheet);
      if (of === deskTillId.value) revision = saved.revision;
    } catch (error) {
      // Another drawer is counted by now; what was typed for that one is kept here.
      if (of !== deskTillId.value) return;
      if (error instanceof Unreachable) return sendSoon(SEND_AGAIN_MS);
      if (error instanceof ApiProblem && error.details.type === 'count-changed') {
        // The newest hand wins: the sheet that is being typed here replaces the other one.
        revision = error.data('count-changed')?.countRevision ?? 0;
        return sendSoon(0);
      }
      notices.failed(problemWords(error));
    }
  }

  /**
   * Opens the drawer with what was counted, and what was brought from the safe; or as it was left. @throws ApiProblem
   */
  async function open(how: { fromSafe?: number; asLeft?: true }): Promise<void> {
    const asked: OpenDrawer = { pieces: how.asLeft ? {} : pieces.value, ...how };
    await writeSurely('POST', '/drawer/shifts', asked, openingKey(asked));
    localStorage.removeItem(keyOf());
    opening = undefined;
    await load();
  }

  let opening: { key: string; of: string } | undefined;
  /** One key for one count: pressing twice opens once, and a corrected count is asked for anew. */
  function openingKey(asked: OpenDrawer): string {
    const of = JSON.stringify(asked);
    if (opening?.of !== of) opening = { key: newKey(), of };
    return opening.key;
  }

  /** Counts the drawer of another till at this desk, or this till's own again. */
  const countAtDesk = (other: number) => load(other === till.facts?.till.id ? null : other);

  /** The desk is left: from now on it is about this till's own drawer, also where the server cannot be asked. */
  async function leaveDesk(): Promise<void> {
    if (deskTillId.value === null) return;
    if (own) show(null, own);
    await load();
  }

  async function close(wanted: Omit<CloseShift, 'pieces' | 'total' | 'tillId'>): Promise<ClosedShift> {
    stopWaiting();
    const closed = await writeSurely<ClosedShift>('POST', '/drawer/closings', {
      ...wanted,
      tillId: deskTillId.value,
      pieces: pieces.value,
      total: total.value,
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

  /** What may explain the difference of the count as it stands. */
  const explain = (others: Explain['others']) =>
    write<VarianceFound>('POST', '/drawer/explanations', {
      tillId: deskTillId.value,
      pieces: pieces.value,
      total: total.value,
      others,
    }).then(({ explanations }) => explanations);

  const terminalTotals = () =>
    read<TerminalTotal[]>(`/drawer/terminals${deskTillId.value === null ? '' : `?till=${deskTillId.value}`}`);

  const desk = () => read<DeskTill[]>('/drawer/desk');

  /**
   * Records that a payment was another means than it was recorded as. @param id one correction, however often it is
   * asked for
   */
  const correctTender = (id: string, correction: CorrectTender) =>
    writeSurely('POST', '/drawer/corrections', correction, id);

  const people = () => read<{ id: number; name: string }[]>('/drawer/people');

  /** Hands the drawer over without closing it; the count sheet begins anew. */
  async function handOver(id: string, toStaffId: number, note: string): Promise<void> {
    await writeSurely('POST', '/drawer/handovers', { pieces: pieces.value, toStaffId, note }, id);
    clearCount();
  }

  const history = (query: string) => read<ShiftHistory>(`/drawer/history?${query}`);
  const closedShift = (id: number) => read<ClosedShiftView>(`/drawer/shifts/${id}`);
  const explainClosed = (id: number) =>
    read<VarianceFound>(`/drawer/shifts/${id}/explanations`).then(({ explanations }) => explanations);
  const noteVariance = (shiftId: number, id: string, amount: number, reason: string) =>
    writeSurely('POST', `/drawer/shifts/${shiftId}/notes`, { amount, reason }, id);

  function follow(): () => void {
    const lookOn = async () => {
      if (state.value && till.facts) await look();
    };
    return lookAgain((event) => {
      // A basket that waits, or waits no more, may be left over here.
      if (event.kind === 'held-changed') return true;
      const moved =
        event.kind === 'sale-finished' ||
        event.kind === 'sale-voided' ||
        event.kind === 'drawer-changed' ||
        event.kind === 'payment-changed';
      return moved && event.tillId === tillId();
    }, lookOn);
  }

  return {
    state,
    deskTillId,
    countAtDesk,
    leaveDesk,
    desk,
    explain,
    terminalTotals,
    correctTender,
    people,
    handOver,
    history,
    closedShift,
    explainClosed,
    noteVariance,
    pieces,
    counted,
    typedTotal,
    total,
    totalWrong,
    countTotal,
    load,
    look,
    count,
    clearCount,
    open,
    openWithoutSale,
    moveCash,
    close,
    pastShifts: () => read<PastShift[]>('/drawer/shifts'),
    follow,
  };
});
