import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { addItem, BasketError } from '../../core/counter/basket.ts';
import type { StoredValueView } from '../../contract/giftCards.ts';
import type { Money } from '../../core/money.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { read } from '../net/api.ts';
import { ApiProblem } from '../net/problem.ts';
import { usePaymentStore } from '../payment/paymentStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** Gift cards as lines of the basket: they are sold or topped up when the basket is paid. */
export const useGiftCardSaleStore = defineStore('giftCardSale', () => {
  const basket = useBasketStore();
  const till = useTillStore();
  const payment = usePaymentStore();
  /** Numbers that no card has: they are looked up once, for each look counts as a guess at a number. */
  const free = new Set<string>();

  /** The card that has a number already; with one that nobody has a new card can be sold. */
  async function holderOf(number: string): Promise<StoredValueView | null> {
    if (free.has(number)) return null;
    try {
      return await payment.enquire(number);
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      if (error.details.type === 'no-card') free.add(number);
      return null;
    }
  }

  /** Adds a card to the basket. @returns what is wrong, or nothing */
  async function add(card: { number: string; amount: Money; topUp: boolean; mail: string }): Promise<string> {
    const itemId = till.facts?.payment.giftCardItemId ?? null;
    const [item] = itemId === null ? [] : await catalogue.find([itemId]);
    if (!item) return 'The shop sells no gift cards.';
    if (!basket.readyForGoods(item.name)) return 'The payment before is still being stored. Try again.';
    const { number, amount, topUp, mail } = card;
    try {
      const added = addItem(basket.basket, item, {
        lineId: newId(),
        unitPrice: amount,
        storedValue: {
          number,
          kind: 'gift-card',
          ...(topUp ? { topUp } : {}),
          ...(mail ? { mail } : {}),
        },
      });
      await basket.change(added.basket, added.lineId);
      free.delete(number);
      return '';
    } catch (error) {
      if (error instanceof BasketError) return error.message;
      throw error;
    }
  }

  /** A number that no card has yet. */
  async function freshNumber(): Promise<string> {
    const { number } = await read<{ number: string }>('/gift-cards/fresh-number');
    free.add(number);
    return number;
  }

  return { add, holderOf, freshNumber };
});
