import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { removeLines, type Basket } from '../counter/basket.ts';
import { discountEffect, giveDiscount, withoutDiscount } from '../counter/basketDiscounts.ts';
import { largeDiscounts } from '../counter/neededRights.ts';
import { sum } from '../money.ts';
import {
  discountParts,
  discountRate,
  presetNeeds,
  sizeWords,
  type DiscountSize,
  type TypedDiscount,
} from './discount.ts';
import { priceBasket, type LineToPrice } from './price.ts';

const RULES = { taxMode: 'on-top', taxRounding: 'sale' } as const;
const TAX = [{ id: 1, name: 'Sales tax', rate: 75_000 }];
const line = (id: string, listPrice: number, quantity = 1000): LineToPrice => ({
  id,
  listPrice,
  quantity,
  rates: TAX,
});
const discount = (size: DiscountSize, lineIds: string[] | null = null, id = 'd'): TypedDiscount => ({
  id,
  lineIds,
  size,
  reason: 'Agreed',
});
const nets = (lines: LineToPrice[], ...discounts: TypedDiscount[]) =>
  priceBasket(lines, RULES, discounts).lines.map(({ net }) => net);

const sizes: fc.Arbitrary<DiscountSize> = fc.oneof(
  fc.record({ kind: fc.constant('percent' as const), rate: fc.integer({ min: 1, max: 1_000_000 }) }),
  fc.record({ kind: fc.constant('amount' as const), amount: fc.integer({ min: 1, max: 1_000_000 }) }),
  fc.record({ kind: fc.constant('target' as const), price: fc.integer({ min: 0, max: 1_000_000 }) }),
);
const baskets = fc.array(
  fc.record({ price: fc.integer({ min: 0, max: 200_000 }), count: fc.integer({ min: -2, max: 5 }) }),
  { minLength: 1, maxLength: 12 },
);

describe('a typed discount', () => {
  it('takes a part off each line, an amount off all together, or what is above a price', () => {
    const lines = [line('a', 1000), line('b', 3000)];
    expect(nets(lines, discount({ kind: 'percent', rate: 150_000 }))).toEqual([850, 2550]);
    expect(nets(lines, discount({ kind: 'amount', amount: 500 }))).toEqual([875, 2625]);
    expect(nets(lines, discount({ kind: 'target', price: 3000 }))).toEqual([750, 2250]);
    expect(nets(lines, discount({ kind: 'amount', amount: 9999 }))).toEqual([0, 0]);
    expect(nets(lines, discount({ kind: 'target', price: 9999 }))).toEqual([1000, 3000]);
    expect(nets(lines, discount({ kind: 'percent', rate: 500_000 }, ['b']))).toEqual([1000, 1500]);
  });

  it('on lines comes before one on the whole basket, whatever was given first', () => {
    const lines = [line('a', 1000), line('b', 3000)];
    const basket = discount({ kind: 'percent', rate: 100_000 }, null, 'x');
    const one = discount({ kind: 'amount', amount: 500 }, ['a'], 'y');
    expect(nets(lines, basket, one)).toEqual([450, 2700]);
    expect(nets(lines, one, basket)).toEqual([450, 2700]);
  });

  it('is taxed away with the goods', () => {
    const { taxes, total } = priceBasket([line('a', 10_000)], RULES, [
      discount({ kind: 'amount', amount: 2000 }),
    ]);
    expect([taxes[0]?.base, taxes[0]?.tax, total]).toEqual([8000, 600, 8600]);
  });

  it('adds up to the price on every line, never below zero, and leaves what comes back alone', () => {
    fc.assert(
      fc.property(baskets, fc.array(sizes, { maxLength: 3 }), (rows, list) => {
        const lines = rows.map(({ price, count }, at) => line(`l${at}`, price, count * 1000));
        const discounts = list.map((size, at) =>
          discount(size, at % 2 ? null : lines.slice(0, 1 + at).map(({ id }) => id), `d${at}`),
        );
        const priced = priceBasket(lines, RULES, discounts);
        for (const [at, { regular, net, records }] of priced.lines.entries()) {
          expect(regular + sum(records.map(({ amount }) => amount))).toBe(net);
          if ((rows[at]?.count ?? 0) >= 0) expect(net).toBeGreaterThanOrEqual(0);
          else expect(records).toEqual([]);
        }
        expect(priced.regular + priced.reductions).toBe(sum(priced.lines.map(({ net }) => net)));
      }),
    );
  });

  it('takes the same altogether in whatever order the lines were rung', () => {
    fc.assert(
      fc.property(baskets, sizes, (rows, size) => {
        const lines = rows.map(({ price, count }, at) => ({
          id: `l${at}`,
          net: price * Math.max(0, count),
          open: count > 0,
        }));
        const taken = (list: typeof lines) =>
          sum(discountParts(discount(size), list).map(({ amount }) => amount));
        expect(taken(lines.toReversed())).toBe(taken(lines));
      }),
    );
  });
});

describe('discounts in a basket', () => {
  const lines = [line('a', 1000), line('b', 3000)];
  const basket = { id: 'x', lines: lines.map((one) => ({ ...one })) } as unknown as Basket;
  const priced = (held: Basket) => priceBasket(lines, RULES, held.discounts);

  it('take the place of another one on the same goods, and go with the last of their lines', () => {
    const first = giveDiscount(basket, discount({ kind: 'percent', rate: 100_000 }, ['a'], 'one'));
    const second = giveDiscount(first, discount({ kind: 'percent', rate: 200_000 }, ['a'], 'two'));
    const both = giveDiscount(second, discount({ kind: 'amount', amount: 100 }, null, 'three'));
    expect(both.discounts?.map(({ id }) => id)).toEqual(['two', 'three']);
    expect(removeLines(both, new Set(['a'])).discounts?.map(({ id }) => id)).toEqual(['three']);
    expect(removeLines(both, new Set(['a', 'b'])).discounts).toEqual([]);
    expect(withoutDiscount(withoutDiscount(both, 'two'), 'three').discounts).toBeUndefined();
    // The same goods, picked in another order, have one discount all the same.
    const picked = giveDiscount(basket, discount({ kind: 'percent', rate: 100_000 }, ['a', 'b'], 'one'));
    const again = giveDiscount(picked, discount({ kind: 'percent', rate: 200_000 }, ['b', 'a'], 'two'));
    expect(again.discounts?.map(({ id }) => id)).toEqual(['two']);
  });

  it('need a right above the limit, but for what the shop has ready', () => {
    const preset = {
      id: 7,
      name: 'Teacher',
      size: { kind: 'percent' as const, rate: 150_000 },
      needsCustomer: true,
      group: 'Teachers',
    };
    const held = giveDiscount(basket, { ...discount({ kind: 'amount', amount: 600 }), countersign: 'k' });
    expect(discountEffect(priced(held), 'd')).toEqual({ taken: 600, before: 4000 });
    expect(discountRate(discount({ kind: 'amount', amount: 600 }), 600, 4000)).toBe(150_000);
    expect(discountRate(discount({ kind: 'amount', amount: 7 }), 7, 100)).toBe(70_000);
    expect(discountRate(discount({ kind: 'target', price: 2 }), 1, 3)).toBe(333_334);
    expect(largeDiscounts(held, priced(held), 150_000, [])).toEqual([]);
    expect(largeDiscounts(held, priced(held), 149_999, [])).toEqual([
      {
        right: 'discount.large',
        step: { subject: 'discount:d:amount', from: null, to: 600, unit: 'money', amount: 600 },
        countersign: 'k',
      },
    ]);
    const ready = giveDiscount(basket, { ...discount(preset.size), presetId: 7 });
    expect(largeDiscounts(ready, priced(ready), 0, [preset])).toEqual([]);
    const bent = giveDiscount(basket, { ...discount({ kind: 'percent', rate: 900_000 }), presetId: 7 });
    expect(largeDiscounts(bent, priced(bent), 0, [preset])).toHaveLength(1);
  });

  it('of a part stay within their limit, however the cents were rounded', () => {
    const odd = [line('a', 4505)];
    const held = giveDiscount(basket, discount({ kind: 'percent', rate: 100_000 }));
    const standing = priceBasket(odd, RULES, held.discounts);
    expect(discountEffect(standing, 'd')).toEqual({ taken: 451, before: 4505 });
    expect(largeDiscounts(held, standing, 100_000, [])).toEqual([]);
    expect(largeDiscounts(held, standing, 99_999, [])).toHaveLength(1);
  });

  it('say whom they are for', () => {
    const preset = {
      id: 7,
      name: 'Teacher',
      size: { kind: 'percent' as const, rate: 1 },
      needsCustomer: true,
      group: 'Teachers',
    };
    expect(presetNeeds(preset, null)).toBe('Teacher is for members of Teachers.');
    expect(presetNeeds(preset, { name: 'Kai', groups: [] })).toBe(
      'Teacher is for members of Teachers: Kai is none.',
    );
    expect(presetNeeds(preset, { name: 'Ines', groups: ['Teachers'] })).toBeNull();
    expect(presetNeeds({ ...preset, group: null }, { name: 'Kai', groups: [] })).toBeNull();
    expect([
      sizeWords({ kind: 'percent', rate: 125_000 }, 2),
      sizeWords({ kind: 'amount', amount: 500 }, 2),
      sizeWords({ kind: 'target', price: 5000 }, 2),
    ]).toEqual(['12.5 %', '5.00 off', 'to 50.00']);
  });
});
