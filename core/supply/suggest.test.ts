import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { suggest, type StockFacts } from './suggest.ts';

const facts: StockFacts = {
  available: 3_000,
  onOrder: 0,
  reorder: { point: 6_000, target: 20_000 },
  sold: { quantity: 0, days: 0 },
  pack: 6_000,
  least: 0,
};

describe('what to order', () => {
  it('is up to the target in whole packs, and says why', () => {
    expect(suggest(facts, 0)).toEqual({
      quantity: 18_000,
      reason: '3 available; below 6, up to 20, in packs of 6',
    });
  });

  it('counts what is on order, and is nothing where there is enough', () => {
    expect(suggest({ ...facts, onOrder: 3_000 }, 0)).toBeNull();
    expect(suggest({ ...facts, onOrder: 2_000 }, 0)?.reason).toBe(
      '3 available, 2 on order; below 6, up to 20, in packs of 6',
    );
  });

  it('lasts for days of cover, by what was sold on days on which some was there', () => {
    const sold = { ...facts, reorder: null, sold: { quantity: 30_000, days: 20 }, pack: 1_000 };
    expect(suggest(sold, 14)).toEqual({
      quantity: 18_000,
      reason: '3 available; 30 sold in 20 days, for 14 days 21',
    });
    expect(suggest(sold, 0)).toBeNull();
    expect(suggest({ ...sold, sold: { quantity: 0, days: 20 } }, 14)).toBeNull();
  });

  it('is never less than needed or than the supplier sends, and never a pack too many', () => {
    const whole = (most: number) => fc.integer({ min: 0, max: most });
    fc.assert(
      fc.property(
        whole(50_000),
        whole(20_000),
        whole(30_000),
        whole(40_000),
        fc.integer({ min: 1, max: 12_000 }),
        whole(30_000),
        (available, onOrder, point, more, pack, least) => {
          const target = point + more + 1;
          const found = suggest({ ...facts, available, onOrder, reorder: { point, target }, pack, least }, 0);
          expect(found === null).toBe(available + onOrder >= point);
          if (!found) return;
          const wanted = Math.max(target - available - onOrder, least);
          expect(found.quantity % pack).toBe(0);
          expect(found.quantity).toBeGreaterThanOrEqual(wanted);
          expect(found.quantity - pack).toBeLessThan(wanted);
        },
      ),
    );
  });
});
