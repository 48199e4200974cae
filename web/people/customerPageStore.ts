import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { CustomerCard, CustomerPage, WantedRecord } from '../../contract/people.ts';
import { read, write } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { lastAnswer } from '../net/lastAnswer.ts';

/** The page of one customer, and what can be done with them there. */
export const useCustomerPageStore = defineStore('customerPage', () => {
  const page = shallowRef<CustomerPage | null>(null);

  const last = lastAnswer();
  /** Looks somebody up; of a record that was merged, the one that stays. @throws ApiProblem `no-customer` */
  async function load(id: number): Promise<void> {
    if (page.value?.panel.id !== id) page.value = null;
    page.value = (await last(read<CustomerPage>(`/people/customers/${id}/page`))) ?? page.value;
  }

  const other = (id: number) => read<CustomerPage>(`/people/customers/${id}/page`);
  const at = (looked: CustomerPage) => `/people/customers/${looked.panel.id}`;

  async function save(looked: CustomerPage, record: WantedRecord): Promise<void> {
    page.value = await write<CustomerPage>('PUT', at(looked), { record, version: looked.version });
  }

  async function giveCard(looked: CustomerPage, code: string, replaces: boolean): Promise<void> {
    const cards = await write<CustomerCard[]>('POST', `${at(looked)}/cards`, { code, replaces });
    page.value = { ...looked, cards };
  }

  async function stopCard(looked: CustomerPage, code: string): Promise<void> {
    const cards = await write<CustomerCard[]>('DELETE', `${at(looked)}/cards/${encodeURIComponent(code)}`);
    page.value = { ...looked, cards };
  }

  /** Mails them the code that they show on their telephone. @returns where to */
  const mailCode = async (looked: CustomerPage): Promise<string> =>
    (await write<{ to: string }>('POST', `${at(looked)}/code/mails`, {})).to;

  async function merge(looked: CustomerPage, goes: CustomerPage, record: WantedRecord): Promise<void> {
    page.value = await write<CustomerPage>('POST', `${at(looked)}/merge`, {
      goes: goes.panel.id,
      record,
      version: looked.version,
      goesVersion: goes.version,
    });
  }

  async function forget(looked: CustomerPage): Promise<void> {
    await write('POST', `${at(looked)}/forget`);
    page.value = null;
  }

  const follow = (): (() => void) =>
    hear((event) => {
      const looked = page.value?.panel.id;
      if (looked === undefined || event.kind !== 'people-changed') return;
      if (event.customerId === null || event.customerId === looked) void load(looked).catch(() => {});
    });

  return { page, load, other, save, giveCard, stopCard, mailCode, merge, forget, follow };
});
