import { defineStore } from 'pinia';
import { reactive, ref } from 'vue';
import type {
  NewCertificate,
  StoredValueMove,
  StoredValuePage,
  StoredValueView,
} from '../../contract/giftCards.ts';
import { read, write } from '../net/api.ts';
import { shown } from '../net/shown.ts';

/** Gift cards, certificates and store credit as they are listed and looked at. */
export const useGiftCardsStore = defineStore('gift-cards', () => {
  const [page, showPage] = shown<StoredValuePage | null>(null);
  const [open, showOpen, putOpen] = shown<{ value: StoredValueView; moves: StoredValueMove[] } | null>(null);
  const filter = reactive({ find: '', kind: '', state: '' });
  const number = ref(0);

  const query = () => new URLSearchParams({ kind: filter.kind, state: filter.state }).toString();

  async function load(): Promise<void> {
    await showPage(
      write<StoredValuePage>('POST', '/gift-cards/search', {
        ...filter,
        page: number.value,
      }),
    );
  }

  /** The one that was asked for last; the one before is in sight until it is there. */
  let wanted: number | undefined;
  async function look(id: number | undefined): Promise<void> {
    wanted = id;
    if (id === undefined) return putOpen(null);
    await showOpen(read<NonNullable<typeof open.value>>(`/gift-cards/${id}`));
  }

  async function change(id: number, what: 'freeze' | 'unfreeze'): Promise<void> {
    await write('POST', `/gift-cards/${id}/${what}`);
    await Promise.all([load(), wanted === id ? look(id) : null]);
  }

  async function move(id: number, to: string): Promise<{ id: number; number: string }> {
    const fresh = await write<{ id: number; number: string }>('POST', `/gift-cards/${id}/move`, {
      number: to,
    });
    await load();
    return fresh;
  }

  async function addCertificate(certificate: NewCertificate): Promise<number> {
    const { id } = await write<{ id: number }>('POST', '/gift-cards/certificates', certificate);
    await load();
    return id;
  }

  async function importCsv(csv: string): Promise<{ count: number; amount: number }> {
    const done = await write<{ count: number; amount: number }>('POST', '/gift-cards/certificates/import', {
      csv,
    });
    await load();
    return done;
  }

  async function writeOffExpired(): Promise<{ count: number; amount: number }> {
    const done = await write<{ count: number; amount: number }>('POST', '/gift-cards/expired');
    await load();
    return done;
  }

  return {
    page,
    open,
    filter,
    number,
    query,
    load,
    look,
    change,
    move,
    addCertificate,
    importCsv,
    writeOffExpired,
  };
});
