import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { reactive } from 'vue';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import { ONE } from '../../core/quantity.ts';
import { useBasketWorkStore } from './basketWorkStore.ts';

const stores = vi.hoisted(() => ({ basket: {} as Record<string, unknown>, countersigns: { need: vi.fn() } }));
vi.mock('./basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('../staff/countersignStore.ts', () => ({ useCountersignStore: () => stores.countersigns }));

const LINE: BasketLine = {
  id: 'l1',
  itemId: 1,
  number: 'X',
  name: 'Stand',
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  quantity: 2 * ONE,
  listPrice: 1_000,
};

function basketOf() {
  const store = reactive({
    basket: { id: 'b1', lines: [LINE, { ...LINE, id: 'l2' }] } as Basket,
    get lines() {
      return store.basket.lines;
    },
    get chosen() {
      return store.lines[0] ?? null;
    },
    pickedLines: [] as BasketLine[],
    phase: 'basket',
    refusedInPractice: vi.fn(() => false),
    nextSale: vi.fn(() => {
      store.phase = 'basket';
    }),
    change: vi.fn((next: Basket) => {
      store.basket = next;
      return Promise.resolve();
    }),
  });
  return store;
}
let basket: ReturnType<typeof basketOf>;

beforeEach(() => {
  setActivePinia(createPinia());
  stores.countersigns.need.mockReset().mockResolvedValue({ id: undefined });
  basket = basketOf();
  stores.basket = basket;
});

describe('what the right column asks for', () => {
  it('is about the basket or its chosen line, and nothing while paying', () => {
    const work = useBasketWorkStore();
    work.begin('price');
    expect(work.work).toBe('price');
    work.leave();
    basket.phase = 'paying';
    work.begin('price');
    work.begin('customer');
    expect(work.work).toBeNull();
  });

  it('needs goods, unless it is what can be done without them', () => {
    const work = useBasketWorkStore();
    basket.basket = { id: 'b1', lines: [] };
    for (const what of ['price', 'sale-note', 'hold', 'discount'] as const) work.begin(what);
    expect(work.work).toBeNull();
    work.beginCash('in');
    expect([work.work, work.cashKind]).toEqual(['cash', 'in']);
  });

  it('begins the next sale where it may come right after one', () => {
    const work = useBasketWorkStore();
    basket.phase = 'done';
    work.begin('sale-note');
    expect(work.work).toBeNull();
    work.begin('gift-card');
    expect([work.work, basket.phase]).toEqual(['gift-card', 'basket']);
  });

  it('keeps nothing of a basket that is for practice', () => {
    const work = useBasketWorkStore();
    basket.refusedInPractice.mockReturnValue(true);
    for (const what of ['hold', 'layaway', 'order', 'relay'] as const) work.begin(what);
    expect(work.work).toBeNull();
    work.beginDiscount(4);
    expect([work.work, work.presetId]).toEqual(['discount', 4]);
  });

  it('ends with the goods that it is about, however they go', () => {
    const work = useBasketWorkStore();
    const [first, second] = basket.lines;
    const left = (what: Parameters<typeof work.begin>[0], next: Basket) => {
      basket.basket = { id: 'b1', lines: [LINE, { ...LINE, id: 'l2' }] };
      work.begin(what);
      expect(work.work).toBe(what);
      basket.basket = next;
      return work.work === null;
    };
    const empty = { id: 'b1', lines: [] };
    for (const what of [
      'points-off',
      'discount',
      'sale-note',
      'hold',
      'layaway',
      'order',
      'price',
    ] as const) {
      expect([what, left(what, empty)]).toEqual([what, true]);
      expect([what, left(what, { ...basket.basket, id: 'b2', lines: [LINE] })]).toEqual([what, true]);
    }
    for (const what of ['customer', 'cash', 'return', 'promise'] as const)
      expect([what, left(what, empty)]).toEqual([what, false]);
    const only = (line: BasketLine | undefined) => ({ id: 'b1', lines: line ? [line] : [] });
    for (const what of ['price', 'line-note', 'item', 'discount'] as const) {
      expect([what, left(what, only(second))]).toEqual([what, true]);
      expect([what, left(what, only(first))]).toEqual([what, false]);
    }
    basket.basket = { id: 'b1', lines: [LINE, { ...LINE, id: 'l2' }] };
    basket.pickedLines = [...basket.lines];
    expect(left('discount', only(second))).toBe(false);
  });

  it('is asked anew where it is about something else', () => {
    const work = useBasketWorkStore();
    const keys = new Set<string>();
    const begun = (begin: () => void) => {
      begin();
      return keys.size < keys.add(work.panelKey).size;
    };
    expect(begun(() => work.begin('price'))).toBe(true);
    expect(begun(() => work.begin('price'))).toBe(false);
    expect(begun(() => work.beginDiscount())).toBe(true);
    expect(begun(() => work.beginDiscount(4))).toBe(true);
    basket.pickedLines = [...basket.lines];
    expect(begun(() => work.beginDiscount(4))).toBe(true);
    basket.basket = { id: 'b1', lines: [{ ...LINE, id: 'l2' }] };
    expect(begun(() => work.begin('price'))).toBe(true);
    expect(begun(() => work.begin('sale-note'))).toBe(true);
    expect(begun(() => work.begin('sale-note'))).toBe(false);
  });
});

describe('a typed price', () => {
  it('is on the line with its reason, and who approved it', async () => {
    stores.countersigns.need.mockResolvedValue({ id: 'c1' });
    expect(await useBasketWorkStore().typePrice(LINE, 800, 'Shop worn')).toBe(true);
    const [right, basketId, about, steps] = stores.countersigns.need.mock.lastCall as unknown[];
    expect([right, basketId, about]).toEqual(['price.change', 'b1', 'Stand, Shop worn']);
    // Two units, each 2.00 less.
    expect(steps).toMatchObject([{ subject: 'line:l1', from: 1_000, to: 800, amount: 400 }]);
    expect(basket.basket.lines[0]?.typedPrice).toEqual({
      unitPrice: 800,
      reason: 'Shop worn',
      countersign: 'c1',
    });
  });

  it('is not there where nobody approved it, and goes again', async () => {
    const work = useBasketWorkStore();
    stores.countersigns.need.mockResolvedValueOnce(null);
    expect(await work.typePrice(LINE, 800, 'Shop worn')).toBe(false);
    expect(basket.basket.lines[0]?.typedPrice).toBeUndefined();
    await work.typePrice(LINE, 800, 'Shop worn');
    await work.backToListPrice(LINE);
    expect(basket.basket.lines[0]?.typedPrice).toBeUndefined();
  });
});

describe('marks and notes', () => {
  it('are put on some lines, and taken away where all have them', async () => {
    const work = useBasketWorkStore();
    const gifts = () => basket.lines.map(({ gift }) => gift ?? false);
    await work.markGift(LINE);
    expect(gifts()).toEqual([true, false]);
    await work.markGifts(basket.lines);
    expect(gifts()).toEqual([true, true]);
    await work.markGifts(basket.lines);
    expect(gifts()).toEqual([false, false]);
  });

  it('are gone where nothing is typed', async () => {
    const work = useBasketWorkStore();
    await work.noteLine(LINE, ' Blue case ');
    await work.noteSale(' Collects on Friday ');
    expect([basket.lines[0]?.note, basket.basket.note]).toEqual(['Blue case', 'Collects on Friday']);
    await work.noteLine(LINE, ' ');
    await work.noteSale('');
    expect([basket.lines[0]?.note, basket.basket.note]).toEqual([undefined, undefined]);
  });
});

describe('a sale without tax', () => {
  it('needs an approval, and is taxed again', async () => {
    const work = useBasketWorkStore();
    stores.countersigns.need.mockResolvedValueOnce(null);
    expect(await work.exempt('School', 'E-77')).toBe(false);
    expect(basket.basket.exemption).toBeUndefined();
    stores.countersigns.need.mockResolvedValueOnce({ id: 'c2' });
    expect(await work.exempt('School', 'E-77')).toBe(true);
    expect(basket.basket.exemption).toEqual({ reason: 'School', certificate: 'E-77', countersign: 'c2' });
    await work.tax();
    expect(basket.basket.exemption).toBeUndefined();
  });
});
