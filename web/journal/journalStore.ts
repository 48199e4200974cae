import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type {
  JournalChoices,
  JournalPage,
  JournalRow,
  JournalSale,
  VoidView,
} from '../../contract/journal.ts';
import type { SendReceipt } from '../../contract/payment.ts';
import { read, write, writeSurely } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { lastAnswer } from '../net/lastAnswer.ts';

const NOTHING_CHOSEN = {
  find: '',
  from: '',
  to: '',
  tillId: null as number | null,
  staffId: null as number | null,
  typeId: null as number | null,
  kind: null as string | null,
};

/** The journal as it is looked at. */
export const useJournalStore = defineStore('journal', () => {
  const rows = shallowRef<JournalRow[] | null>(null);
  const counted = shallowRef<JournalPage['counted']>(null);
  const next = ref<string | null>(null);
  const sale = shallowRef<JournalSale | null>(null);
  const filter = ref({ ...NOTHING_CHOSEN });
  const [choices, showChoices] = shown<JournalChoices>({ tills: [], staff: [] });
  const lastPage = lastAnswer();
  const lastSale = lastAnswer();

  function query(from: string | null): string {
    const parts = Object.entries({ ...filter.value, next: from })
      .map(([key, value]) => [key, String(value ?? '').trim()] as const)
      .filter(([, value]) => value !== '');
    return new URLSearchParams(parts.map(([key, value]) => [key, value])).toString();
  }

  const pageFrom = (from: string | null) => read<JournalPage>(`/journal/sales?${query(from)}`);
  /** The newest, in as many pages as it takes. */
  async function newest(atLeast: number): Promise<JournalPage> {
    const first = await pageFrom(null);
    let page = first;
    const found = [...first.rows];
    while (page.next && found.length < atLeast) {
      page = await pageFrom(page.next);
      found.push(...page.rows);
    }
    return { ...first, rows: found, next: page.next };
  }

  async function show(asked: Promise<JournalPage>): Promise<void> {
    const page = await lastPage(asked);
    if (!page) return;
    rows.value = page.rows;
    next.value = page.next;
    counted.value = page.counted;
  }
  /** What is chosen, from its beginning. */
  const load = () => show(pageFrom(null));

  let before = Promise.resolve();
  /** One after the other: neither throws away what the other one asks for. */
  const inTurn = (work: () => Promise<void>): Promise<void> => (before = before.catch(() => {}).then(work));
  /** Something was sold or voided: as far as somebody has looked, it is read again. */
  const loadAgain = () => inTurn(() => show(newest(rows.value?.length ?? 0)));
  /** The next page, under those that are shown. */
  const more = () =>
    inTurn(async () => {
      if (!next.value || !rows.value) return;
      const page = await lastPage(pageFrom(next.value));
      if (!page) return;
      rows.value = [...rows.value, ...page.rows];
      next.value = page.next;
    });

  const findChoices = async (): Promise<void> => {
    await showChoices(read<JournalChoices>('/journal/choices'));
  };

  async function open(id: string | undefined): Promise<void> {
    const found = await lastSale(id ? read<JournalSale>(`/journal/sales/${id}`) : Promise.resolve(null));
    if (found !== undefined) sale.value = found;
  }

  const clear = (): void => {
    filter.value = { ...NOTHING_CHOSEN };
  };
  /** Chooses what an address asks for, as reports do that lead here. */
  function choose(asked: Readonly<Record<string, unknown>>): void {
    const text = (key: string): string => (typeof asked[key] === 'string' ? asked[key] : '');
    if (!Object.keys(NOTHING_CHOSEN).some(text)) return;
    filter.value = {
      find: text('find'),
      from: text('from'),
      to: text('to'),
      tillId: Number(text('tillId')) || null,
      staffId: Number(text('staffId')) || null,
      typeId: Number(text('typeId')) || null,
      kind: text('kind') || null,
    };
  }

  const reprint = (id: string) => write('POST', `/journal/sales/${id}/reprints`);

  async function addNote(id: string, note: string): Promise<void> {
    await writeSurely('POST', `/journal/sales/${id}/notes`, { note });
    await open(id);
  }

  /** A sale as the journal has it, without looking at it there. */
  const saleOf = (id: string) => read<JournalSale>(`/journal/sales/${id}`);

  /** The sale that was finished last on a till, if there is one. */
  const lastOn = async (tillId: number): Promise<JournalRow | undefined> =>
    (await read<JournalPage>(`/journal/sales?tillId=${tillId}`)).rows[0];

  const send = (id: string, asked: SendReceipt) => write('POST', `/journal/sales/${id}/sent`, asked);

  const voidSale = (id: string, reason: string, countersign: string | undefined) =>
    writeSurely<VoidView>('POST', `/journal/sales/${id}/void`, { reason, countersign });

  return {
    rows,
    counted,
    next,
    sale,
    filter,
    choices,
    load,
    loadAgain,
    more,
    findChoices,
    open,
    clear,
    choose,
    reprint,
    addNote,
    saleOf,
    lastOn,
    send,
    voidSale,
  };
});
