import { afterAll, describe, expect, it } from 'vitest';
import { indexOffers } from '../../core/offers/offerUnits.ts';
import { priceBasket, type LineToPrice, type PricedBasket } from '../../core/pricing/price.ts';
import { EVERY_KIND, priceOfItem, randomFrom, randomOffers } from '../../core/offers/testing/randomOffers.ts';
import { startPricing } from './pricing.ts';

const ITEMS = 24;
const pricing = startPricing();
afterAll(() => pricing.stop());

const index = (seed: number) =>
  indexOffers(
    randomOffers(randomFrom(seed), 50, { items: ITEMS, kinds: EVERY_KIND, combining: 0.3, limited: 0.2 }),
  );

const rules = { taxMode: 'on-top', taxRounding: 'line' } as const;
const situation = {
  day: '2026-10-02',
  time: '10:00',
  placeId: 1,
  customer: false,
  groups: [],
  unlocked: new Map<number, number>(),
  left: new Map<number, number>(),
};

const lineOf = (item: number, units: number): LineToPrice => ({
  id: `line ${item}`,
  quantity: units * 1000,
  listPrice: priceOfItem(item),
  rates: [{ id: 1, name: 'Sales tax', rate: 80_000 }],
  goods: { itemId: item + 1, category: `c${Math.floor(item / 4)}` },
  counted: true,
});
const basketOf = (units: number) => ({
  lines: Array.from({ length: 15 }, (_, item) => lineOf(item, units)),
  rules,
  discounts: [],
  situation,
});

/** @returns what was asked for, and how often others had their turn meanwhile */
async function withOthers(asked: Promise<PricedBasket>): Promise<{ priced: PricedBasket; turns: number }> {
  let turns = 0;
  let going = true;
  const turn = () => {
    turns += 1;
    if (going) setImmediate(turn);
  };
  setImmediate(turn);
  const priced = await asked;
  going = false;
  return { priced, turns };
}

describe('the price of a basket with much to choose', () => {
  it('is what the till comes to, and others have their turn meanwhile; also when offers have changed', async () => {
    for (const offers of [index(7), index(8)]) {
      for (const units of [2, 400]) {
        const basket = basketOf(units);
        const { priced, turns } = await withOthers(pricing.price(basket, offers));
        expect(priced).toEqual(priceBasket(basket.lines, rules, [], { index: offers, situation }));
        expect(priced.offers.length).toBeGreaterThan(0);
        expect(turns).toBeGreaterThan(1);
      }
    }
  });

  it('says why a basket cannot be priced, and prices the next one', async () => {
    const offers = index(7);
    const wrong = { ...basketOf(2), rules: undefined as never };
    await expect(pricing.price(wrong, offers)).rejects.toThrow();
    const right = basketOf(2);
    expect((await pricing.price(right, offers)).total).toBe(
      priceBasket(right.lines, rules, [], { index: offers, situation }).total,
    );
  });
});
