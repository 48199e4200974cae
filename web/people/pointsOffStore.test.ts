import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { fakeBasket, type FakeBasket } from '../testing/fakeBasket.ts';
import { usePointsOffStore } from './pointsOffStore.ts';
import { usePointsStore } from './pointsStore.ts';

const net = vi.hoisted(() => ({ write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const catalogue = vi.hoisted(() => ({ look: vi.fn() }));
vi.mock('../sale/catalogue/thread.ts', () => ({ catalogue }));
const stores = vi.hoisted(() => ({
  basket: {} as Record<string, unknown>,
  customer: { panel: null as { points: number } | null },
  till: { facts: { points: { on: true, word: 'beats', offPoints: 100, offAmount: 500 } }, money: String },
}));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('./customerStore.ts', () => ({ useCustomerStore: () => stores.customer }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

let basket: FakeBasket;
beforeEach(() => {
  setActivePinia(createPinia());
  net.write.mockReset();
  basket = fakeBasket({ customer: { id: 5, name: 'Ana' }, lines: [{ id: 'l1' }] as never });
  stores.basket = basket;
  stores.customer.panel = { points: 230 };
  stores.till.facts.points.on = true;
});

describe('points as money off', () => {
  it('are offered where there are enough of them, and goods that they go on', () => {
    expect(usePointsOffStore().offered).toBe(true);
    for (const spoil of [
      () => (stores.customer.panel = { points: 99 }),
      () => (stores.customer.panel = null),
      () => (stores.till.facts.points.on = false),
      () => (stores.basket = fakeBasket()),
    ]) {
      setActivePinia(createPinia());
      spoil();
      expect(usePointsOffStore().offered).toBe(false);
      stores.customer.panel = { points: 230 };
      stores.till.facts.points.on = true;
      stores.basket = basket;
    }
  });

  it('say what a step takes off, in the words of the shop', () => {
    expect(usePointsOffStore().rateWords).toBe('100 beats take off 500');
    expect(usePointsStore().Word).toBe('Beats');
  });

  it('are looked at on the basket as it is, and put on it when they are used', async () => {
    const off = usePointsOffStore();
    catalogue.look.mockResolvedValueOnce({ priced: { pointsOff: { points: 200, amount: 1000 } } });
    expect(await off.look(230)).toEqual({ points: 200, amount: 1000 });
    expect(basket.change).not.toHaveBeenCalled();
    catalogue.look.mockResolvedValueOnce({ priced: { pointsOff: null } });
    expect(await off.look(10)).toEqual({ points: 0, amount: 0 });
    await off.use(200);
    expect(basket.basket.pointsOff).toBe(200);
  });

  it('are given for a sale, and put right with a reason', async () => {
    const points = usePointsStore();
    await points.join(5, '1-0012');
    await points.correct(5, -20, 'counted twice');
    expect(net.write.mock.calls).toEqual([
      ['POST', '/people/customers/5/points/sales', { sale: '1-0012' }],
      ['POST', '/people/customers/5/points', { amount: -20, words: 'counted twice' }],
    ]);
  });
});
