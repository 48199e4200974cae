import { defineStore } from 'pinia';
import { v4 as newKey } from 'uuid';
import { computed, shallowRef, watch } from 'vue';
import type { CustomerPanel, FoundCustomer, NewCustomer, Visit } from '../../contract/people.ts';
import { useBasketStore } from '../counter/basketStore.ts';
import { catalogue } from '../counter/catalogue/thread.ts';
import { useRingUpStore } from '../counter/ringUpStore.ts';
import { useNoticeStore } from '../frame/noticeStore.ts';
import { ApiProblem, problemWords, read, writeSurely } from '../net/api.ts';

/** The customer of the basket, and finding or creating one. */
export const useCustomerStore = defineStore('customer', () => {
  const basket = useBasketStore();
  const ringUp = useRingUpStore();
  const notices = useNoticeStore();
  /** What is known of the basket's customer. */
  const panel = shallowRef<CustomerPanel | null>(null);
  const id = computed(() => basket.basket.customer?.id ?? null);

  watch(
    id,
    async (customerId) => {
      if (customerId === panel.value?.id) return;
      panel.value = null;
      if (customerId === null) return;
      const found = await read<CustomerPanel>(`/people/customers/${customerId}`).catch(() => null);
      if (id.value === customerId) panel.value = found;
    },
    { immediate: true },
  );

  const search = (text: string) =>
    read<FoundCustomer[]>(`/people/customers?find=${encodeURIComponent(text)}`);

  /** Puts a customer on the sale. */
  async function choose({ id: customerId, name }: { id: number; name: string }): Promise<void> {
    await ringUp.caughtUp();
    await basket.setCustomer({ id: customerId, name });
  }

  const takeOff = () => basket.setCustomer(null);

  let creating: { key: string; of: string } | undefined;

  /** Creates a customer and puts them on the sale. @throws ApiProblem `customer-known` with who they may be */
  async function create(customer: NewCustomer): Promise<void> {
    const of = JSON.stringify(customer);
    // One key for one form: pressing twice creates once.
    if (creating?.of !== of) creating = { key: newKey(), of };
    const made = await writeSurely<CustomerPanel>('POST', '/people/customers', customer, creating.key);
    creating = undefined;
    panel.value = made;
    await choose(made);
  }

  /** A customer card that was scanned. @returns whether it is one */
  async function takeCard(code: string): Promise<boolean> {
    try {
      const found = await read<CustomerPanel>(`/people/cards/${encodeURIComponent(code)}`);
      panel.value = found;
      await basket.setCustomer({ id: found.id, name: found.name });
      notices.say(`${found.name} is on the sale.`);
      return true;
    } catch (error) {
      if (error instanceof ApiProblem && error.details.status === 404) return false;
      notices.failed(problemWords(error));
      return error instanceof ApiProblem;
    }
  }

  /** Rings up what was bought on an earlier visit. */
  async function orderAgain({ lines }: Visit): Promise<void> {
    const items = new Map(
      (await catalogue.find(lines.map(({ itemId }) => itemId))).map((item) => [item.id, item]),
    );
    const gone = lines.filter(({ itemId }) => !items.has(itemId)).map(({ name }) => name);
    for (const { itemId, quantity } of lines) {
      const item = items.get(itemId);
      if (item && quantity > 0) await ringUp.add(item, quantity);
    }
    if (gone.length > 0) notices.failed(`No longer sold: ${gone.join(', ')}.`);
  }

  return { panel, id, search, choose, takeOff, create, takeCard, orderAgain };
});
