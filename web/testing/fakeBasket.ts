import { vi } from 'vitest';
import { shallowReactive } from 'vue';
import type { Basket, BasketCustomer } from '../../core/counter/basket.ts';

/** The basket of a till as other stores see it, for tests: what is changed stands at once. */
export function fakeBasket(begins: Partial<Basket> = {}) {
  const store = shallowReactive({
    basket: { id: 'b1', lines: [], ...begins } as Basket,
    get lines() {
      return store.basket.lines;
    },
    phase: 'basket',
    busy: false,
    paymentStored: vi.fn(() => Promise.resolve(true)),
    readyForGoods: vi.fn(() => true),
    setCustomer: vi.fn((customer: BasketCustomer | null) => {
      store.basket = { ...store.basket, customer: customer ?? undefined };
      return Promise.resolve();
    }),
    change: vi.fn((next: Basket, _chosen?: string) => {
      // It is priced in another thread: what cannot be sent there is refused.
      structuredClone(next);
      store.basket = next;
      return Promise.resolve();
    }),
  });
  // As a plain type, which tests take for a record.
  return store as Omit<typeof store, never>;
}
export type FakeBasket = ReturnType<typeof fakeBasket>;
