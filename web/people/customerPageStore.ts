import { defineStore } from 'pinia';
import type { CustomerCard, CustomerPage, WantedRecord } from '../../contract/people.ts';
import { forgetTypedInto } from '../net/typedBefore.ts';
import { read, write } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';

/** The page of one customer, and what can be done with them there. */
export const useCustomerPageStore = defineStore('customerPage', () => {
  const [page, showPage, putPage] = shown<CustomerPage | null>(null);

  /** Looks somebody up; of a record that was merged, the one that stays. @throws ApiProblem `no-customer` */
  async function load(id: number): Promise<void> {
    if (page.value?.panel.id !== id) putPage(null);
    await showPage(read<CustomerPage>(`/people/customers/${id}/page`));
  }

  /** Reads somebody again, as long as nobody else is looked at. */
  async function again(id: number): Promise<void> {
    if (page.value?.panel.id === id) await load(id);
  }

  const other = (id: number) => read<CustomerPage>(`/people/customers/${id}/page`);
  const at = (looked: CustomerPage) => `/people/customers/${looked.panel.id}`;

  async function save(looked: CustomerPage, record: WantedRecord): Promise<void> {
    await showPage(write<CustomerPage>('PUT', at(looked), { record, version: looked.version }));
  }

  /** Cards of somebody, unless somebody else is looked at by now; then what was noted about them. */
  async function showCards({ panel: { id } }: CustomerPage, cards: CustomerCard[]): Promise<void> {
    if (page.value?.panel.id !== id) return;
    putPage({ ...page.value, cards });
    await again(id).catch(() => {});
  }

  async function giveCard(looked: CustomerPage, code: string, replaces: boolean): Promise<void> {
    await showCards(looked, await write<CustomerCard[]>('POST', `${at(looked)}/cards`, { code, replaces }));
  }

  async function stopCard(looked: CustomerPage, code: string): Promise<void> {
    const gone = `${at(looked)}/cards/${encodeURIComponent(code)}`;
    await showCards(looked, await write<CustomerCard[]>('DELETE', gone));
  }

  /** Mails them the code that they show on their telephone. @returns where to */
  const mailCode = async (looked: CustomerPage): Promise<string> =>
    (await write<{ to: string }>('POST', `${at(looked)}/code/mails`, {})).to;

  async function merge(looked: CustomerPage, goes: CustomerPage, record: WantedRecord): Promise<void> {
    await showPage(
      write<CustomerPage>('POST', `${at(looked)}/merge`, {
        goes: goes.panel.id,
        record,
        version: looked.version,
        goesVersion: goes.version,
      }),
    );
  }

  async function forget(looked: CustomerPage): Promise<void> {
    await write('POST', `${at(looked)}/forget`);
    forgetTypedInto(`customer ${looked.panel.id}`);
    // Somebody else may be looked at by now.
    if (page.value?.panel.id === looked.panel.id) putPage(null);
  }

  const follow = (): (() => void) =>
    lookAgain(
      (event) =>
        event.kind === 'people-changed' &&
        (event.customerId === null || event.customerId === page.value?.panel.id),
      async () => {
        if (page.value) await load(page.value.panel.id);
      },
    );

  return { page, load, again, other, save, giveCard, stopCard, mailCode, merge, forget, follow };
});
