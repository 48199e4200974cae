import { effectScope, nextTick, reactive, shallowRef } from 'vue';
import { describe, expect, it } from 'vitest';
import type { OrderFacts } from '../../contract/orders.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { priceBasket } from '../../core/pricing/price.ts';
import { ONE } from '../../core/quantity.ts';
import { useOrderDraft } from './orderDraft.ts';

const line = (id: string, itemId: number, units: number, listPrice: number) => ({
  id,
  itemId,
  number: `N${itemId}`,
  name: `Item ${itemId}`,
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  quantity: units * ONE,
  listPrice,
});
const place = (id: number, name: string, longitude: number, kind: 'shop' | 'stock' = 'shop') => ({
  id,
  name,
  kind,
  street: '',
  postcode: '',
  city: '',
  at: { latitude: 0, longitude },
  hours: [],
});
const PLACES = [place(1, 'Here', 0), place(2, 'Near', 1), place(3, 'Far', 9, 'stock')];
const stock = (itemId: number, available: readonly number[]): OrderFacts['stock'][number] => ({
  itemId,
  stocked: true,
  weight: 250,
  sources: PLACES.map(({ id, name, at }, nth) => ({
    placeId: id,
    place: name,
    at,
    available: (available[nth] ?? 0) * ONE,
  })),
});
const FACTS: OrderFacts = {
  rules: {
    pay: 'deposit',
    leastDeposit: 500_000,
    leadMinutes: 60,
    usualWeight: 100,
    zones: [{ name: 'All', postcodes: [], steps: [{ upTo: 1_000, fee: 500 }] }],
  },
  places: PLACES,
  stock: [stock(1, [1, 2, 9]), stock(2, [0, 0, 5])],
  shippingItem: { itemId: 9, number: 'SHIPPING', unit: 'each', taxCategoryId: 1 },
};
const RATES = { 1: [{ id: 1, name: 'Tax', rate: 100_000 }] };
const RULES = { taxMode: 'on-top', taxRounding: 'sale' } as const;

/** A draft of a basket with two of one thing and one of another, at the first place. */
function draftOf() {
  const basket = reactive<{ now: Basket }>({
    now: {
      id: 'b',
      lines: [line('a', 1, 2, 1_000), line('c', 2, 1, 300)],
      customer: { id: 4, name: 'Hedy' },
    },
  });
  const facts = shallowRef<OrderFacts | null>(null);
  const priced = () =>
    priceBasket(
      basket.now.lines.map((one) => ({
        ...one,
        groupPrice: undefined,
        goods: undefined,
        counted: true,
        closed: false,
        refund: undefined,
        promised: undefined,
        swaps: undefined,
        rates: RATES[1],
      })),
      RULES,
    );
  const scope = effectScope();
  const draft = scope.run(() =>
    useOrderDraft({
      basket: () => basket.now,
      priced,
      facts,
      here: 1,
      now: { day: '2026-03-02', time: '10:05' },
      rates: RATES,
      rules: RULES,
    }),
  );
  if (!draft) throw new Error('no draft');
  facts.value = FACTS;
  return { basket, draft, facts };
}

describe('an order that is put together', () => {
  it('begins with everything collected here, from the nearest place that has all of it', async () => {
    const { draft } = draftOf();
    await nextTick();
    expect(draft.collect).toMatchObject({ placeId: 1, day: '2026-03-02', time: '11:30' });
    expect(draft.ways.a).toEqual({ way: 'collect', parts: { 2: 2_000 }, chosen: false });
    expect(draft.ways.c?.parts).toEqual({ 3: 1_000 });
    expect(draft.shops.value.map(({ name }) => name)).toEqual(['Here', 'Near']);
    expect([draft.takenNow.value, draft.waiting.value, draft.least.value]).toEqual([0, 2_530, 1_265]);
  });

  it('keeps the day and time that were said where stock is looked at again, and where another place can', async () => {
    const { draft, facts } = draftOf();
    await nextTick();
    // Nobody has said a time yet: the first one counts.
    facts.value = { ...FACTS, rules: { ...FACTS.rules, leadMinutes: 120 } };
    await nextTick();
    expect(draft.collect).toMatchObject({ day: '2026-03-02', time: '12:30' });
    Object.assign(draft.collect, { day: '2026-03-07', time: '15:00' });
    await nextTick();
    facts.value = { ...FACTS };
    await nextTick();
    expect(draft.collect).toMatchObject({ day: '2026-03-07', time: '15:00' });
    draft.collect.placeId = 2;
    await nextTick();
    expect(draft.collect).toMatchObject({ placeId: 2, day: '2026-03-07', time: '15:00' });
    const closed = { ...place(1, 'Here', 0), hours: Array.from({ length: 7 }, () => null) };
    const early = { from: '08:00', to: '12:00' };
    const open = { ...place(2, 'Near', 1), hours: Array.from({ length: 7 }, () => early) };
    facts.value = { ...FACTS, places: [closed, open] };
    await nextTick();
    expect(draft.collect).toMatchObject({ day: '2026-03-02', time: '11:30' });
  });

  it('says what is taken along, what waits with shipping and tax, and what is paid at least', async () => {
    const { basket, draft } = draftOf();
    await nextTick();
    const [first, second] = basket.now.lines;
    if (!first || !second) throw new Error('no lines');
    draft.setWay(first, 'take');
    draft.setWay(second, 'ship');
    draft.ship.postcode = '401';
    expect(draft.fee.value).toEqual({ zone: 'All', fee: 500 });
    expect([draft.takenNow.value, draft.waiting.value, draft.least.value]).toEqual([2_200, 880, 440]);
    expect(draft.wanted(440)).toMatchObject({
      lines: [
        { lineId: 'a', way: 'take', parts: [], missing: 0 },
        { lineId: 'c', way: 'ship', parts: [{ placeId: 3, quantity: 1_000 }] },
      ],
      collect: null,
      ship: { recipient: 'Hedy', postcode: '401' },
      fee: 500,
      deposit: 440,
    });
    draft.setAll('collect');
    expect([draft.ships.value, draft.feeAmount.value]).toEqual([false, 0]);
  });

  it('follows what is chosen and what is scanned meanwhile: what no place gives is still to come', async () => {
    const { basket, draft } = draftOf();
    await nextTick();
    const [first] = basket.now.lines;
    if (!first) throw new Error('no line');
    draft.takeFrom(first, 3);
    expect(draft.ways.a).toMatchObject({ parts: { 3: 2_000 }, chosen: true });
    draft.setPart(first, 3, 1_000);
    expect(draft.missingOf(first)).toBe(1_000);
    expect(draft.wanted(0).lines[0]).toMatchObject({
      missing: 1_000,
      parts: [{ placeId: 3, quantity: 1_000 }],
    });

    basket.now = { ...basket.now, lines: [line('a', 1, 3, 1_000), line('d', 2, 9, 300)] };
    await nextTick();
    expect(draft.ways.a).toMatchObject({ parts: { 3: 3_000 }, chosen: false });
    expect(draft.ways.d?.parts).toEqual({ 3: 5_000 });
    expect(draft.wanted(0).lines[1]).toMatchObject({ lineId: 'd', missing: 4_000 });
  });
});
