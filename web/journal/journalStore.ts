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
  const lastAgain = lastAnswer();
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

  function put(page: JournalPage): void {
    rows.value = page.rows;
    next.value = page.next;
    counted.value = page.counted;
  }

  /** How often something else was chosen: what was asked for before that is let go. */
  let choice = 0;
  /** What is chosen, from its beginning. */
  async function load(): Promise<void> {
    choice += 1;
    const page = await lastPage(pageFrom(null));
    if (page) put(page);
  }

  /** Something was sold or voided: as far as somebody has looked, it is read again. */
  async function loadAgain(): Promise<void> {
    const [mine, shown] = [choice, rows.value?.length ?? 0];
    const page = await lastAgain(newest(shown));
    if (!page || mine !== choice) return;
    // Older ones have come meanwhile.
    if ((rows.value?.length ?? 0) > shown) return loadAgain();
    put(page);
  }

  /** The next page, under those that are shown. */
  async function more(): Promise<void> {
    const [mine, from] = [choice, next.value];
    if (!from) return;
    const page = await pageFrom(from);
    if (mine !== choice) return;
    // It was read again meanwhile, and ends elsewhere.
    if (from !== next.value) return more();
    rows.value = [...(rows.value ?? []), ...page.rows];
    next.value = page.next;
  }

  const findChoices = async (): Promise<void> => {
    await showChoices(read<JournalChoices>('/journal/choices'));
  };

  /** The one that was asked for last; the one before is in sight until it is there. */
  let wanted: string | undefined;
  async function open(id: string | undefined): Promise<void> {
    wanted = id;
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
    if (wanted === id) await open(id);
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
