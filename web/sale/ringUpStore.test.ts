import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { Item, ItemMore } from '../../core/goods/item.ts';
import { ONE } from '../../core/quantity.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useQuestionStore } from './questionStore.ts';
import { useRingUpStore } from './ringUpStore.ts';
import { late } from '../../contract/testing/late.ts';
import { fakeBasket } from '../testing/fakeBasket.ts';

const net = vi.hoisted(() => ({ read: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const sound = vi.hoisted(() => ({ soundRefusal: vi.fn() }));
vi.mock('./sound.ts', () => sound);
const catalogue = vi.hoisted(() => ({ recognise: vi.fn(), search: vi.fn(), find: vi.fn() }));
vi.mock('./catalogue/thread.ts', () => ({ catalogue }));
const stores = vi.hoisted(() => ({
  basket: {} as Record<string, unknown>,
  till: {} as Record<string, unknown>,
  work: { begin: vi.fn() },
  countersigns: { need: vi.fn() },
}));
vi.mock('./basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('./basketWorkStore.ts', () => ({ useBasketWorkStore: () => stores.work }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));
vi.mock('../staff/countersignStore.ts', () => ({ useCountersignStore: () => stores.countersigns }));
const turns = vi.hoisted(() => ({ list: [] as string[] }));
vi.mock('./turnStore.ts', () => ({
  useTurnStore: () => ({
    get count() {
      return turns.list.length;
    },
    add: (typed: string, more: { name?: string } = {}) => {
      turns.list.push(typed);
      const basketId = (stores.basket.basket as Basket).id;
      return { id: String(turns.list.length), basketId, typed, scanned: false, name: more.name ?? typed };
    },
    mean: vi.fn(),
    begin: vi.fn(),
    end: vi.fn(),
  }),
}));

const item = (id: number, more: ItemMore | null = null, price: number | null = 1_000): Item => ({
  id,
  number: `N-${id}`,
  name: `Item ${id}`,
  category: 'Strings',
  price,
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  codes: [],
  stock: null,
  ...(more && { more }),
});
const STRINGS = item(1);
const ITEMS = new Map<string, Item>();

const basketOf = () =>
  Object.assign(fakeBasket(), {
    refuse: vi.fn((error: unknown) => {
      throw error;
    }),
  });
let basket: ReturnType<typeof basketOf>;
const lines = () =>
  basket.basket.lines.map(({ itemId, quantity, listPrice, note, serial }) => ({
    itemId,
    quantity: quantity / ONE,
    listPrice,
    ...(note !== undefined && { note }),
    ...(serial !== undefined && { serial }),
  }));
/** Waits until a question is asked, and answers it. */
async function answer(...[kind, given]: Parameters<ReturnType<typeof useQuestionStore>['answer']>) {
  const questions = useQuestionStore();
  await eventually(() => expect(questions.asked?.kind).toBe(kind));
  questions.answer(kind, given);
}
const words = () => useNoticeStore().notice?.text;

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.read, sound.soundRefusal, stores.work.begin, stores.countersigns.need])
    one.mockReset();
  turns.list = [];
  ITEMS.clear();
  for (const one of [STRINGS]) ITEMS.set(one.number, one);
  catalogue.recognise.mockImplementation((text: string) => {
    const found = ITEMS.get(text);
    return Promise.resolve(found ? { item: found } : undefined);
  });
  catalogue.search.mockReset().mockResolvedValue([]);
  catalogue.find.mockImplementation((ids: readonly number[]) =>
    Promise.resolve([...ITEMS.values()].filter(({ id }) => ids.includes(id))),
  );
  basket = basketOf();
  stores.basket = basket;
  stores.till = { facts: { payment: { giftCardItemId: 99 }, shop: { openPriceLimit: 5_000 } } };
});

describe('a number that is typed', () => {
  it('rings up one, or as many as stand before it', async () => {
    const ringUp = useRingUpStore();
    expect(await ringUp.enter('N-1')).toBe(true);
    await ringUp.enter('3*N-1');
    expect(lines()).toEqual([{ itemId: 1, quantity: 4, listPrice: 1_000 }]);
  });

  it('stays to be typed on where words find something that was not in sight', async () => {
    const ringUp = useRingUpStore();
    catalogue.search.mockResolvedValue([STRINGS]);
    expect(await ringUp.enter('strin')).toBe(false);
    expect(sound.soundRefusal).toHaveBeenCalledOnce();
    expect(lines()).toEqual([]);
    expect(await ringUp.enter('strin', { seen: STRINGS })).toBe(true);
    expect(lines()).toHaveLength(1);
  });

  it('is never the first word match where it is figures alone', async () => {
    const ringUp = useRingUpStore();
    catalogue.search.mockResolvedValue([STRINGS]);
    expect(await ringUp.enter('2', { seen: STRINGS })).toBe(false);
    expect(lines()).toEqual([]);
  });

  it('says that a code was misread, and that nothing has a name', async () => {
    const ringUp = useRingUpStore();
    await ringUp.enter('40123456', { scanned: true });
    expect(words()).toContain('the check digit does not fit');
    await ringUp.enter('abc');
    expect(words()).toContain('Nothing has the name “abc”');
    expect(sound.soundRefusal).toHaveBeenCalledTimes(2);
  });

  it('may be something else than goods', async () => {
    const other = vi.fn(() => Promise.resolve(true));
    await useRingUpStore().enter('CARD-0001', { scanned: true, other });
    expect(other).toHaveBeenCalledWith('CARD-0001');
    expect(sound.soundRefusal).not.toHaveBeenCalled();
  });
});

describe('a code that nobody knows', () => {
  it('is asked about, and rings up what it is tied to', async () => {
    const done = useRingUpStore().enter('2*ZZ-7788', { scanned: true });
    await answer('unknown', STRINGS);
    await done;
    expect(lines()).toEqual([{ itemId: 1, quantity: 2, listPrice: 1_000 }]);
  });

  it('is put aside by the next scan', async () => {
    const ringUp = useRingUpStore();
    const first = ringUp.enter('ZZ-7788', { scanned: true });
    await eventually(() => expect(useQuestionStore().asked?.code).toBe('ZZ-7788'));
    await ringUp.enter('N-1', { scanned: true });
    await first;
    expect(useQuestionStore().asked).toBeNull();
    expect(lines()).toHaveLength(1);
  });
});

describe('what an item asks', () => {
  it('is its variant, where it is a family', async () => {
    const variant = item(3, { familyId: 2 });
    ITEMS.set('N-2', item(2, { kind: 'family' }));
    const done = useRingUpStore().enter('N-2');
    await answer('variant', variant);
    await done;
    expect(lines()).toMatchObject([{ itemId: 3 }]);
  });

  it('is everything it needs to know, one after the other; whoever leaves one leaves the item', async () => {
    ITEMS.set('N-4', { ...item(4, { minAge: 18, asksNote: 'Engraving' }, null), decimals: 2 });
    const ringUp = useRingUpStore();
    const done = ringUp.enter('N-4');
    await answer('price', 2_500);
    await answer('age', true);
    await answer('quantity', 1_500);
    await answer('note', 'For Mara');
    await done;
    expect(lines()).toEqual([{ itemId: 4, quantity: 1.5, listPrice: 2_500, note: 'For Mara' }]);
    const left = ringUp.enter('N-4');
    await answer('price', 2_500);
    // Whose age was looked at is not asked again in the same sale.
    await eventually(() => expect(useQuestionStore().asked?.kind).toBe('quantity'));
    useQuestionStore().leave();
    await left;
    expect(lines()).toHaveLength(1);
  });

  it('is a serial number for each unit, which may be scanned', async () => {
    ITEMS.set('N-5', item(5, { serials: true }));
    const ringUp = useRingUpStore();
    const questions = useQuestionStore();
    const done = ringUp.enter('2*N-5');
    await eventually(() => expect(questions.asked?.unit).toEqual({ at: 1, of: 2 }));
    await ringUp.enter('SN-1', { scanned: true });
    expect(questions.scanned).toEqual({ serial: 'SN-1' });
    await answer('serial', 'SN-1');
    await answer('serial', 'SN-2');
    await done;
    expect(lines().map(({ serial }) => serial)).toEqual(['SN-1', 'SN-2']);
  });

  it('is an approval where an open price is above the limit; without one the price is asked for again', async () => {
    ITEMS.set('N-6', item(6, null, null));
    stores.countersigns.need.mockResolvedValueOnce(null).mockResolvedValueOnce({ id: 'c1' });
    const done = useRingUpStore().enter('N-6');
    await answer('price', 9_000);
    await answer('price', 8_000);
    await done;
    expect(stores.countersigns.need).toHaveBeenCalledTimes(2);
    expect(basket.basket.lines).toMatchObject([{ listPrice: 8_000, openPriceCountersign: 'c1' }]);
  });
});

describe('goods that come back without a receipt', () => {
  it('come at what they are worth, approved and with the reason that was given', async () => {
    const ringUp = useRingUpStore();
    net.read.mockResolvedValue({ price: 800 });
    stores.countersigns.need.mockResolvedValue({ id: 'c2' });
    ringUp.returning = { reason: 'Broken', condition: 'damaged' };
    await ringUp.enter('-1*N-1');
    expect(net.read).toHaveBeenCalledWith('/goods/items/1/return-price');
    expect(basket.basket.lines).toMatchObject([
      {
        quantity: -ONE,
        listPrice: 800,
        comesBack: { reason: 'Broken', condition: 'damaged' },
        returnCountersign: 'c2',
      },
    ]);
    expect(ringUp.returning).toBeNull();
  });

  it('do not come without an approval, or where nobody may', async () => {
    const ringUp = useRingUpStore();
    net.read.mockResolvedValueOnce({ price: 800 }).mockRejectedValueOnce(new Error('gone'));
    stores.countersigns.need.mockResolvedValue(null);
    await ringUp.enter('-1*N-1');
    await ringUp.enter('-1*N-1');
    expect(lines()).toEqual([]);
    expect(words()).toBeTruthy();
  });
});

describe('a bundle', () => {
  it('rings up what it is made of, and says what is no longer sold', async () => {
    ITEMS.set(
      'N-8',
      item(8, {
        kind: 'bundle',
        parts: [
          { itemId: 1, quantity: 2 * ONE },
          { itemId: 77, quantity: ONE },
        ],
      }),
    );
    await useRingUpStore().enter('3*N-8');
    expect(basket.basket.lines).toMatchObject([{ itemId: 1, quantity: 6 * ONE, bundle: 'Item 8' }]);
    expect(words()).toContain('a part of it is no longer sold');
  });
});

describe('what comes while something is asked', () => {
  it('waits for its turn, in order', async () => {
    ITEMS.set('N-6', item(6, null, null));
    const ringUp = useRingUpStore();
    const first = ringUp.enter('N-6');
    await eventually(() => expect(useQuestionStore().asked?.kind).toBe('price'));
    const second = ringUp.enter('N-1');
    expect(words()).toContain('This is rung up next');
    await answer('price', 100);
    await Promise.all([first, second]);
    expect(lines().map(({ itemId }) => itemId)).toEqual([6, 1]);
    await ringUp.caughtUp();
  });

  it('is not rung up in another basket', async () => {
    ITEMS.set('N-6', item(6, null, null));
    const ringUp = useRingUpStore();
    const first = ringUp.enter('N-6');
    await eventually(() => expect(useQuestionStore().asked?.kind).toBe('price'));
    const second = ringUp.enter('N-1');
    basket.basket = { id: 'b2', lines: [] };
    useQuestionStore().leave();
    await Promise.all([first, second]);
    expect(lines()).toEqual([]);
    expect(words()).toContain('was meant for another basket');
  });
});

describe('what comes while a payment is being stored', () => {
  it('waits for it, and is rung up next', async () => {
    const ringUp = useRingUpStore();
    const { promise, come } = late<boolean>();
    basket.busy = true;
    basket.paymentStored.mockReturnValue(promise);
    const touched = ringUp.add(STRINGS);
    expect([lines(), words()]).toEqual([[], 'Item 1 comes next, as soon as this payment is stored.']);
    basket.busy = false;
    come(true);
    await touched;
    expect(lines()).toHaveLength(1);
  });

  it('waits for the till to be made ready, for the basket is not known before', async () => {
    const ringUp = useRingUpStore();
    const { promise, come } = late<boolean>();
    stores.till.preparing = true;
    stores.till.prepared = () => promise;
    const [scanned, touched] = [ringUp.inItsTime('N-1', { scanned: true }), ringUp.add(STRINGS)];
    expect([lines(), words()]).toEqual([[], 'Item 1 comes next, as soon as the shop is ready.']);
    stores.till.preparing = false;
    come(false);
    expect(await scanned).toBe(true);
    await touched;
    expect(lines()).toHaveLength(1);
  });

  it('is not added where the payment was refused, which still stands there', async () => {
    const ringUp = useRingUpStore();
    const notices = useNoticeStore();
    basket.busy = true;
    basket.paymentStored.mockImplementationOnce(() => {
      notices.failed('The drawer is closed.');
      return Promise.resolve(false);
    });
    await ringUp.add(STRINGS);
    expect([lines(), words()]).toEqual([[], 'The drawer is closed. Item 1 was not added.']);
    basket.paymentStored.mockResolvedValueOnce(false);
    expect(await ringUp.inItsTime('N-1', { scanned: true })).toBe(false);
    expect(words()).toBe('This payment is not finished. N-1 was not added.');
  });
});

it('sells a gift card by its own panel, and nothing while the payment before is stored', async () => {
  const ringUp = useRingUpStore();
  await ringUp.add(item(99));
  expect(stores.work.begin).toHaveBeenCalledWith('gift-card');
  basket.readyForGoods.mockReturnValue(false);
  await ringUp.add(STRINGS);
  expect(lines()).toEqual([]);
});
