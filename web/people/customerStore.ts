import { defineStore } from 'pinia';
import { v4 as newKey } from 'uuid';
import { computed, shallowRef, watch } from 'vue';
import type { CustomerPanel, FoundCustomer, NewCustomer, Visit } from '../../contract/people.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { settleDiscounts } from '../../core/counter/membersDiscounts.ts';
import type { TypedDiscount } from '../../core/pricing/discount.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { read, writeSurely } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';

/** The customer of the basket, and finding or creating one. */
export const useCustomerStore = defineStore('customer', () => {
  const basket = useBasketStore();
  const ringUp = useRingUpStore();
  const notices = useNoticeStore();
  const till = useTillStore();
  /** What is known of the basket's customer. */
  const panel = shallowRef<CustomerPanel | null>(null);
  const id = computed(() => basket.basket.customer?.id ?? null);
  /** Somebody is on the sale, and what is known of them is not here yet. */
  const unread = computed(() => id.value !== null && panel.value?.id !== id.value);

  watch(
    id,
    async (customerId) => {
      if (customerId === panel.value?.id) return;
      panel.value = null;
      if (customerId === null) return;
      await readAgain();
    },
    { immediate: true },
  );

  /** Presets that went with a customer, of which basket. */
  let aside: { basketId: string; discounts: TypedDiscount[] } = { basketId: '', discounts: [] };

  // Members' presets go and come with the member.
  watch([panel, id], async ([known, customerId]) => {
    const now = basket.basket;
    if (basket.phase !== 'basket' || known?.id !== (customerId ?? undefined)) return;
    const before = aside.basketId === now.id ? aside.discounts : [];
    const presets = till.facts?.discountPresets ?? [];
    const settled = settleDiscounts(now.discounts ?? [], before, presets, known);
    aside = { basketId: now.id, discounts: settled.aside };
    const { gone, back } = settled;
    if (gone.length === 0 && back.length === 0) return;
    await basket.change({ ...now, discounts: settled.on });
    if (gone.length > 0) notices.say(`${gone.join(', ')} went with the customer.`);
    else notices.say(`${back.join(', ')} is back on the sale.`);
  });

  const search = (text: string) =>
    read<FoundCustomer[]>(`/people/customers?find=${encodeURIComponent(text)}`);

  /** Puts a customer on the sale. */
  async function choose({ id: customerId, name }: { id: number; name: string }): Promise<void> {
    await ringUp.caughtUp();
    await basket.setCustomer({ id: customerId, name });
  }

  const takeOff = () => basket.setCustomer(null);

  let creating: { key: string; of: string } | undefined;

  /** Makes a customer known. @throws ApiProblem `customer-known` with who they may be */
  async function add(customer: NewCustomer): Promise<CustomerPanel> {
    const of = JSON.stringify(customer);
    // One key for one form: pressing twice creates once.
    if (creating?.of !== of) creating = { key: newKey(), of };
    const made = await writeSurely<CustomerPanel>('POST', '/people/customers', customer, creating.key);
    creating = undefined;
    return made;
  }

  /** Makes a customer known and puts them on the sale. @throws ApiProblem `customer-known` with who they may be */
  async function create(customer: NewCustomer): Promise<void> {
    const made = await add(customer);
    panel.value = made;
    await choose(made);
  }

  /**
   * Reads what is known of the customer of the sale again; of a record that was merged, the one that stays goes on
   * the sale.
   */
  async function readAgain(): Promise<void> {
    const customerId = id.value;
    if (customerId === null) return;
    const found = await read<CustomerPanel>(`/people/customers/${customerId}`).catch(() => null);
    if (id.value !== customerId || !found) return;
    panel.value = found;
    if (found.id !== customerId) await basket.setCustomer({ id: found.id, name: found.name });
  }

  const follow = (): (() => void) =>
    lookAgain(
      (event) =>
        event.kind === 'people-changed' && (event.customerId === null || event.customerId === id.value),
      readAgain,
    );

  /**
   * Who has a card that was scanned. @returns `stopped` where it counts no more, which is said; `null` where it is
   * none
   */
  async function findCard(code: string): Promise<CustomerPanel | 'stopped' | null> {
    try {
      return await read<CustomerPanel>(`/people/cards/${encodeURIComponent(code)}`);
    } catch (error) {
      if (error instanceof ApiProblem && error.details.status === 404) return null;
      notices.failed(problemWords(error));
      return error instanceof ApiProblem ? 'stopped' : null;
    }
  }

  /** Puts who has a card that was scanned on the sale. @returns whether it is one */
  async function takeCard(code: string): Promise<boolean> {
    const found = await findCard(code);
    if (found === null || found === 'stopped') return found !== null;
    panel.value = found;
    await basket.setCustomer({ id: found.id, name: found.name });
    notices.say(`${found.name} is on the sale.`);
    return true;
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

  return {
    panel,
    id,
    search,
    choose,
    takeOff,
    add,
    create,
    findCard,
    takeCard,
    orderAgain,
    unread,
    readAgain,
    follow,
  };
});
