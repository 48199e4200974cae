import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Nudge } from '../../core/nudges/nudge.ts';
import { ApiProblem, Unreachable } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useBasketOffersStore } from './basketOffersStore.ts';
import { fakeBasket, type FakeBasket } from '../testing/fakeBasket.ts';

const net = vi.hoisted(() => ({ read: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const sound = vi.hoisted(() => ({ soundRefusal: vi.fn() }));
vi.mock('./sound.ts', () => sound);
const catalogue = vi.hoisted(() => ({ find: vi.fn() }));
vi.mock('./catalogue/thread.ts', () => ({ catalogue }));
const stores = vi.hoisted(() => ({
  basket: {} as Record<string, unknown>,
  work: { begin: vi.fn() },
  ringUp: { add: vi.fn() },
}));
vi.mock('./basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('./basketWorkStore.ts', () => ({ useBasketWorkStore: () => stores.work }));
vi.mock('./ringUpStore.ts', () => ({ useRingUpStore: () => stores.ringUp }));

let basket: FakeBasket;
const words = () => useNoticeStore().notice?.text;

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.read, sound.soundRefusal, stores.work.begin, stores.ringUp.add]) one.mockReset();
  basket = fakeBasket();
  stores.basket = basket;
});

describe('a code of an offer', () => {
  it('is on the basket once, and taken off again', async () => {
    const offers = useBasketOffersStore();
    net.read.mockResolvedValue({ code: 'SPRING', offerId: 3, offer: 'Spring strings' });
    expect(await offers.takeCode(' SPRING ')).toBe(true);
    expect(net.read).toHaveBeenCalledWith('/offers/codes/SPRING');
    expect(words()).toBe('SPRING: Spring strings.');
    expect(await offers.takeCode('SPRING')).toBe(true);
    expect(words()).toBe('SPRING is on this basket already.');
    expect(basket.basket.codes).toMatchObject([{ code: 'SPRING', offerId: 3 }]);
    await offers.dropCode('SPRING');
    expect(basket.basket.codes ?? []).toEqual([]);
  });

  it('that is none is left to others; one that cannot be had is refused with a sound', async () => {
    const offers = useBasketOffersStore();
    net.read.mockRejectedValueOnce(
      new ApiProblem({ type: 'not-found', title: 'None.', status: 404 } as never),
    );
    expect(await offers.takeCode('XX')).toBe(false);
    expect(sound.soundRefusal).not.toHaveBeenCalled();
    net.read.mockRejectedValueOnce(new Unreachable());
    expect(await offers.takeCode('SPRING')).toBe(true);
    expect(sound.soundRefusal).toHaveBeenCalledOnce();
    expect(basket.basket.codes).toBeUndefined();
  });

  it('is not put on a basket that takes nothing now', async () => {
    basket.readyForGoods.mockReturnValue(false);
    net.read.mockResolvedValue({ code: 'SPRING', offerId: 3, offer: 'Spring strings' });
    expect(await useBasketOffersStore().takeCode('SPRING')).toBe(true);
    expect(basket.change).not.toHaveBeenCalled();
  });
});

describe('a suggestion', () => {
  const nudge = (act: Nudge['act']) => ({ act }) as Nudge;

  it('is followed by what it is about', async () => {
    const offers = useBasketOffersStore();
    catalogue.find.mockResolvedValueOnce([{ id: 9 }]).mockResolvedValueOnce([]);
    await offers.follow(nudge({ kind: 'add', itemId: 9, count: 2 }));
    expect(stores.ringUp.add).toHaveBeenCalledWith({ id: 9 }, 2_000);
    await offers.follow(nudge({ kind: 'add', itemId: 10, count: 2 }));
    expect(stores.ringUp.add).toHaveBeenCalledOnce();
    await offers.follow(nudge({ kind: 'customer' }));
    expect(stores.work.begin).toHaveBeenCalledWith('customer');
    await offers.follow(nudge({ kind: 'reward', offerId: 3 }));
    expect(basket.basket.rewards).toEqual([3]);
    await offers.dropReward(3);
    expect(basket.basket.rewards ?? []).toEqual([]);
  });
});
