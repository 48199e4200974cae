import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { soldOf, suggest, type StockFacts } from './suggest.ts';

const facts: StockFacts = {
  available: 3_000,
  onOrder: 0,
  reorder: { point: 6_000, target: 20_000 },
  sold: { quantity: 0, days: 0 },
  pack: 6_000,
  least: 0,
};

describe('how goods sell', () => {
  it('is told by days at whose end some was there: what lies there now, less what moved since', () => {
    // Three came on day 2, of which two were sold on day 4; four days are over.
    const moved = [
      { day: 2, moved: 3_000, sold: 0 },
      { day: 4, moved: -2_000, sold: 2_000 },
    ];
    expect(soldOf(1_000, moved, 4)).toEqual({ quantity: 2_000, days: 3 });
    expect(soldOf(0, [], 4)).toEqual({ quantity: 0, days: 0 });
    expect(soldOf(5_000, [], 4)).toEqual({ quantity: 0, days: 5 });
  });

  it('is what each day by itself says', () => {
    const days = 28;
    const move = fc.record({
      day: fc.integer({ min: 0, max: days }),
      moved: fc.integer({ min: -9_000, max: 9_000 }),
      sold: fc.integer({ min: -9_000, max: 9_000 }),
    });
    fc.assert(
      fc.property(
        fc.integer({ min: -5_000, max: 20_000 }),
        fc.uniqueArray(move, { selector: ({ day }) => day, maxLength: days }),
        (level, moved) => {
          const since = (day: number) => sum(moved.filter((one) => one.day > day).map((one) => one.moved));
          const there = Array.from({ length: days + 1 }, (_, day) => level - since(day));
          expect(soldOf(level, moved, days)).toEqual({
            quantity: sum(moved.map(({ sold }) => sold)),
            days: there.filter((left) => left > 0).length,
          });
        },
      ),
    );
  });
});

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
