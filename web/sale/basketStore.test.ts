import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { SaveBasket, StoredBasket } from '../../contract/counter.ts';
import { MOST_LINES, type Basket, type BasketLine } from '../../core/counter/basket.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import { ONE } from '../../core/quantity.ts';
import { write } from '../net/api.ts';
import { ApiProblem, Unreachable } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useBasketStore } from './basketStore.ts';

vi.mock('../net/api.ts', () => ({
  read: vi.fn(),
  write: vi.fn(() => Promise.resolve({ revision: 1 })),
  writeSurely: vi.fn(),
}));
vi.mock('./basketMemory.ts', () => ({ keepBasket: vi.fn(), recallBasket: vi.fn() }));
vi.mock('./sound.ts', () => ({ soundRefusal: vi.fn() }));
vi.mock('./offerClaims.ts', () => ({
  offerClaims: () => ({ hold: () => Promise.resolve(null), letGo: vi.fn() }),
}));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => ({ facts: null }) }));
vi.mock('../staff/countersignStore.ts', () => ({ useCountersignStore: () => ({}) }));
const pricing = vi.hoisted(() => ({ answer: [] as (() => void)[], at: 'once' as 'once' | 'later' }));
const PRICED = { lines: [], total: 0 } as unknown as PricedBasket;
vi.mock('./catalogue/thread.ts', () => ({
  catalogue: {
    price: () =>
      new Promise((answer) => {
        const now = () => answer({ priced: PRICED, stock: {}, nudges: [] });
        if (pricing.at === 'once') now();
        else pricing.answer.push(now);
      }),
    nudges: () => Promise.resolve([]),
  },
}));

const LINE: BasketLine = {
  id: 'l1',
  itemId: 1,
  number: 'X',
  name: 'Stand',
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  quantity: ONE,
  listPrice: 1_000,
};

// What a basket of one test has yet to send is sent into no other.
beforeEach(() => {
  vi.useFakeTimers();
  setActivePinia(createPinia());
  pricing.answer = [];
  pricing.at = 'once';
});
afterEach(() => {
  vi.useRealTimers();
});

describe('what was taken out of the basket', () => {
  it.each(['clear', 'remove'] as const)('is offered back by %s, once it is priced', async (how) => {
    const basket = useBasketStore();
    await basket.change({ ...basket.basket, lines: [LINE] });
    await (how === 'clear' ? basket.clear() : basket.remove(LINE));
    expect(useNoticeStore().notice?.action?.word).toBe('Undo');
    useNoticeStore().notice?.action?.do();
    expect(basket.lines.map(({ id }) => id)).toEqual(['l1']);
  });

  it.each(['clear', 'remove'] as const)(
    'is not offered back by %s where the payment has begun before it was priced',
    async (how) => {
      const basket = useBasketStore();
      await basket.change({ ...basket.basket, lines: [LINE] });
      basket.moneyHeld = true;
      pricing.at = 'later';
      const out = how === 'clear' ? basket.clear() : basket.remove(LINE);
      const paying = basket.takePayment();
      for (const answer of pricing.answer) answer();
      await Promise.all([out, paying]);
      expect(basket.phase).toBe('paying');
      expect(useNoticeStore().notice).toBeNull();
    },
  );
});

describe('a basket whose answer was lost', () => {
  afterEach(() => {
    vi.mocked(write).mockReset().mockResolvedValue({ revision: 1 });
  });

  /** A server that keeps the basket, and whose first answer does not come back. */
  function serverThatIsLostOnce(savedBy: (key: string) => string) {
    const stored: StoredBasket[] = [];
    vi.mocked(write).mockImplementation((_method, _path, body, key = '') => {
      const { basket, revision } = body as SaveBasket;
      const last = stored.at(-1) ?? null;
      if (revision === stored.length) {
        stored.push({ basket: basket as Basket, revision: revision + 1, savedBy: savedBy(key) });
        return stored.length === 1
          ? Promise.reject(new Unreachable())
          : Promise.resolve({ revision: stored.length });
      }
      const refused = {
        type: 'basket-changed',
        title: 'Changed elsewhere.',
        status: 409,
        data: last,
      } as const;
      return Promise.reject(new ApiProblem(refused));
    });
    return stored;
  }

  it('keeps what was changed since, as nobody else changed it', async () => {
    const stored = serverThatIsLostOnce((key) => key);
    const basket = useBasketStore();
    await basket.change({ ...basket.basket, lines: [LINE, { ...LINE, id: 'l2' }] });
    await vi.advanceTimersByTimeAsync(200);
    await basket.change({ ...basket.basket, lines: [LINE] });
    await vi.advanceTimersByTimeAsync(5_000);
    expect(basket.lines.map(({ id }) => id)).toEqual(['l1']);
    expect(stored.at(-1)?.basket.lines.map(({ id }) => id)).toEqual(['l1']);
    expect(useNoticeStore().notice).toBeNull();
  });

  it('gives way where another window changed it meanwhile', async () => {
    serverThatIsLostOnce(() => 'another window');
    const basket = useBasketStore();
    await basket.change({ ...basket.basket, lines: [LINE, { ...LINE, id: 'l2' }] });
    await vi.advanceTimersByTimeAsync(200);
    await basket.change({ ...basket.basket, lines: [LINE] });
    await vi.advanceTimersByTimeAsync(5_000);
    expect(basket.lines.map(({ id }) => id)).toEqual(['l1', 'l2']);
    expect(useNoticeStore().notice?.text).toContain('Changed elsewhere.');
  });
});

describe('a basket that is not stored', () => {
  afterEach(() => {
    vi.mocked(write).mockReset().mockResolvedValue({ revision: 1 });
  });
  const askedIn = async (ms: number) => {
    const before = vi.mocked(write).mock.calls.length;
    await vi.advanceTimersByTimeAsync(ms);
    return vi.mocked(write).mock.calls.length - before;
  };

  it('is not sent again and again where the server refuses it, but with the next change', async () => {
    const basket = useBasketStore();
    const problem = { type: 'not-valid', title: 'That is too long.', status: 422 } as const;
    vi.mocked(write).mockRejectedValueOnce(new ApiProblem(problem));
    await basket.change({ ...basket.basket, lines: [LINE] });
    expect(await askedIn(60_000)).toBe(1);
    expect(useNoticeStore().notice?.text).toBe('That is too long.');
    await basket.change({ ...basket.basket, lines: [LINE, { ...LINE, id: 'l2' }] });
    expect(await askedIn(60_000)).toBe(1);
  });

  it('is sent every two seconds while the server is away', async () => {
    const basket = useBasketStore();
    vi.mocked(write).mockRejectedValue(new Unreachable());
    await basket.change({ ...basket.basket, lines: [LINE] });
    expect(await askedIn(1_000)).toBe(1);
    expect(await askedIn(10_000)).toBe(5);
    vi.mocked(write).mockReset().mockResolvedValue({ revision: 1 });
    expect(await askedIn(60_000)).toBe(1);
  });

  it('has no more lines than it can be stored with', async () => {
    const basket = useBasketStore();
    const lines = Array.from({ length: MOST_LINES }, (_, at) => ({ ...LINE, id: `l${at}` }));
    await basket.change({ ...basket.basket, lines });
    await basket.change({ ...basket.basket, lines: [...lines, { ...LINE, id: 'more' }] });
    expect(basket.lines).toHaveLength(MOST_LINES);
    expect(useNoticeStore().notice?.text).toContain('holds at most 500 lines');
    await basket.change({ ...basket.basket, lines: lines.slice(1) });
    expect(basket.lines).toHaveLength(MOST_LINES - 1);
  });
});

describe('a payment', () => {
  it('begins with what the basket comes to, not with what it came to before the last change', async () => {
    const basket = useBasketStore();
    await basket.change({ ...basket.basket, lines: [LINE] });
    pricing.at = 'later';
    const changed = basket.change({ ...basket.basket, lines: [LINE, { ...LINE, id: 'l2' }] });
    const paying = basket.takePayment();
    // Whatever else is done meanwhile, nothing is asked for yet.
    for (let turn = 0; turn < 10; turn++) await Promise.resolve();
    expect(basket.phase).toBe('basket');
    for (const answer of pricing.answer) answer();
    await Promise.all([changed, paying]);
    expect(basket.phase).toBe('paying');
  });
});
