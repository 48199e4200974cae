import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { HeldBasket } from '../../contract/waiting.ts';
import { ApiProblem } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { tell } from '../testing/houseEvents.ts';
import { useWaitingStore } from './waitingStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
const stores = vi.hoisted(() => ({
  basket: { basket: { id: 'b1' }, total: 1_200, startAfresh: vi.fn(), continueWith: vi.fn() },
  ringUp: { caughtUp: () => Promise.resolve() },
  till: { facts: { till: { id: 7 } } },
}));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('../sale/ringUpStore.ts', () => ({ useRingUpStore: () => stores.ringUp }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

const held = (id: string) => ({ id, number: `W-${id}`, name: '' }) as HeldBasket;
const words = () => useNoticeStore().notice?.text;

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.read, net.writeSurely, stores.basket.startAfresh, stores.basket.continueWith])
    one.mockReset();
  net.read.mockResolvedValue([]);
  stores.basket.basket = { id: 'b1' };
});

describe('a basket that is put aside', () => {
  it('is held once however often it is pressed, and a new one begins', async () => {
    const waiting = useWaitingStore();
    net.writeSurely.mockRejectedValueOnce(new Error('gone')).mockResolvedValue({ number: 'W-0004' });
    await expect(waiting.hold('Mara', '', null)).rejects.toThrow('gone');
    expect(stores.basket.startAfresh).not.toHaveBeenCalled();
    expect(await waiting.hold('Mara', 'Back at noon', 2)).toBe('W-0004');
    const [first, second] = net.writeSurely.mock.calls;
    expect(first?.[3]).toBe(second?.[3]);
    expect(second?.[2]).toEqual({
      basket: { id: 'b1' },
      name: 'Mara',
      note: 'Back at noon',
      total: 1_200,
      forTill: 2,
    });
    expect(stores.basket.startAfresh).toHaveBeenCalledOnce();
    stores.basket.basket = { id: 'b2' };
    await waiting.hold('', '', null);
    expect(net.writeSurely.mock.lastCall?.[3]).not.toBe(first?.[3]);
  });
});

describe('the list', () => {
  it('is empty before it is known, and then that is known', async () => {
    const waiting = useWaitingStore();
    expect([waiting.held, waiting.known]).toEqual([[], false]);
    await waiting.load();
    expect([waiting.held, waiting.known]).toEqual([[], true]);
  });

  it('says who has taken up what is looked at here', () => {
    const waiting = useWaitingStore();
    waiting.follow();
    const taken = { id: '1', tillId: 8, words: 'Teo has taken W-1 up on till 2.' };
    tell({ kind: 'held-changed', taken });
    waiting.lookedAt = '1';
    tell({ kind: 'held-changed', taken: { ...taken, tillId: 7 } });
    expect(words()).toBeUndefined();
    tell({ kind: 'held-changed', taken });
    expect(words()).toEqual(taken.words);
  });

  it('says that a basket was sent to this till, and to no other', () => {
    const waiting = useWaitingStore();
    waiting.follow();
    tell({ kind: 'held-changed', forTill: 8 });
    expect(words()).toBeUndefined();
    tell({ kind: 'held-changed', forTill: 7 });
    expect(words()).toContain('was sent to this till');
  });
});

describe('taking a basket up', () => {
  it('goes on with it here, once', async () => {
    const waiting = useWaitingStore();
    let answer = (_stored: unknown): void => {};
    net.writeSurely.mockReturnValue(new Promise((come) => (answer = come)));
    const first = waiting.takeUp(held('1'));
    expect(await waiting.takeUp(held('1'))).toBe(false);
    answer({ revision: 1 });
    expect(await first).toBe(true);
    expect(stores.basket.continueWith).toHaveBeenCalledWith({ revision: 1 });
    expect([words(), waiting.busy]).toEqual(['W-1 is on this till now.', false]);
  });

  it('says that another till was faster, and reads what waits still', async () => {
    const waiting = useWaitingStore();
    net.writeSurely.mockRejectedValue(
      new ApiProblem({ type: 'gone', title: 'Teo has it.', status: 409 } as never),
    );
    expect(await waiting.takeUp(held('1'))).toBe(false);
    expect(words()).toContain('Teo has it.');
    expect(net.read).toHaveBeenCalledWith('/waiting/held');
    expect(stores.basket.continueWith).not.toHaveBeenCalled();
  });
});
