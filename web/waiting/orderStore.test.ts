import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { late } from '../../contract/testing/late.ts';
import type { OrderStep, OrderWanted } from '../../contract/orders.ts';
import type { PromiseView } from '../../contract/promises.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useOrderStore } from './orderStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const stores = vi.hoisted(() => ({
  basket: { basket: { id: 'b1' }, total: 9_000, startAfresh: vi.fn(), continueWith: vi.fn() },
  ringUp: { caughtUp: vi.fn(() => Promise.resolve()) },
  promises: { changed: vi.fn((view: unknown) => view) },
}));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('../sale/ringUpStore.ts', () => ({ useRingUpStore: () => stores.ringUp }));
vi.mock('./promiseStore.ts', () => ({ usePromiseStore: () => stores.promises }));

const TERMS = { lines: [{ id: 'l1', way: 'collect' }] } as unknown as OrderWanted;

beforeEach(() => {
  setActivePinia(createPinia());
  const { basket, promises } = stores;
  for (const one of [net.read, net.writeSurely, basket.startAfresh, basket.continueWith]) one.mockReset();
  promises.changed.mockClear();
});

describe('an order that is placed', () => {
  it('is one order however often it is pressed, and another one on other terms', async () => {
    const orders = useOrderStore();
    net.writeSurely
      .mockRejectedValueOnce(new Error('gone'))
      .mockResolvedValue({ number: 'O-7', stored: null });
    await expect(orders.place(TERMS)).rejects.toThrow('gone');
    expect(await orders.place(TERMS)).toBe('O-7');
    await orders.place({ ...TERMS, note: 'Back door' } as unknown as OrderWanted);
    const keys = net.writeSurely.mock.calls.map((call): unknown => call[3]);
    expect(keys[0]).toBe(keys[1]);
    expect(keys[2]).not.toBe(keys[1]);
    expect(net.writeSurely.mock.calls[1]?.[2]).toEqual({
      basket: { id: 'b1' },
      expectedTotal: 9_000,
      terms: TERMS,
    });
  });

  it('leaves on the till what is paid for it, or nothing', async () => {
    const orders = useOrderStore();
    net.writeSurely.mockResolvedValueOnce({ number: 'O-7', stored: { revision: 2 } });
    await orders.place(TERMS);
    expect(stores.basket.continueWith).toHaveBeenCalledWith({ revision: 2 });
    expect(stores.basket.startAfresh).not.toHaveBeenCalled();
    net.writeSurely.mockResolvedValueOnce({ number: 'O-8', stored: null });
    await orders.place(TERMS);
    expect(stores.basket.startAfresh).toHaveBeenCalledOnce();
  });
});

describe('what a place does with an order', () => {
  it('is noted with it, and shown', async () => {
    const orders = useOrderStore();
    net.writeSurely.mockResolvedValue({ id: 'p1' });
    expect(await orders.takeStep('p1', { kind: 'picked' } as unknown as OrderStep)).toEqual({ id: 'p1' });
    await orders.askForLabel('p1');
    expect(net.writeSurely.mock.calls.map((call): unknown => call[1])).toEqual([
      '/waiting/orders/p1/steps',
      '/waiting/orders/p1/parcels',
    ]);
    expect(stores.promises.changed).toHaveBeenCalledTimes(2);
  });

  it('is printed by name', async () => {
    const orders = useOrderStore();
    await orders.print({ id: 'p1', number: 'O-7' } as PromiseView, 'pick-list');
    expect(useNoticeStore().notice?.text).toBe('The pick list of O-7 is printed.');
    await orders.print({ id: 'p1', number: 'O-7' } as PromiseView, 'packing-slip');
    expect(useNoticeStore().notice?.text).toBe('The packing slip of O-7 is printed.');
  });

  it('is asked with each item once', async () => {
    const orders = useOrderStore();
    net.read.mockResolvedValue({ places: [] });
    await orders.load([4, 5, 4]);
    expect(net.read).toHaveBeenCalledWith('/waiting/orders/facts?items=4,5');
    expect(orders.facts).toEqual({ places: [] });
  });

  it('says what there is of the items that were asked for last, and nothing before that is known', async () => {
    const orders = useOrderStore();
    const [first, second] = [late<object>(), late<object>()];
    net.read.mockReturnValueOnce(first.promise).mockReturnValueOnce(second.promise);
    const looks = [orders.load([4]), orders.load([4, 5])];
    second.come({ places: ['of both'] });
    first.come({ places: ['of one'] });
    await Promise.all(looks);
    expect(orders.facts).toEqual({ places: ['of both'] });
    orders.forget();
    expect(orders.facts).toBeNull();
  });
});
