import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { indexOffers } from './offerUnits.ts';
import { mostSteps, pointsTakenOff, wholeSteps, type PointsOff } from './pointsOff.ts';
import { pointsTaken, priceBasket, type LineToPrice } from '../pricing/price.ts';

const RATE = { offPoints: 100, offAmount: 1_00, offMost: 500_000 };
const SITUATION = {
  day: '2026-03-02',
  time: '12:00',
  placeId: 1,
  customer: true,
  groups: [],
  unlocked: new Map<number, number>(),
  left: new Map<number, number>(),
};
const TAX = { id: 1, name: 'Tax', rate: 75_000 };
const line = (id: string, listPrice: number, more: Partial<LineToPrice> = {}): LineToPrice => ({
  id,
  quantity: 1000,
  listPrice,
  rates: [TAX],
  ...more,
});
const price = (lines: readonly LineToPrice[], pointsOff: PointsOff | undefined, discounts = false) =>
  priceBasket(
    lines,
    { taxMode: 'on-top', taxRounding: 'sale' },
    discounts ? [{ id: 'd', lineIds: null, size: { kind: 'percent', rate: 100_000 }, reason: 'Friend' }] : [],
    { index: indexOffers([]), situation: { ...SITUATION, pointsOff } },
  );
const wanted = (steps: number, rate = RATE): PointsOff => ({ ...rate, steps, why: 'Paid with beats' });

describe('points as money off', () => {
  it('go in whole steps, as far as there are points', () => {
    expect([wholeSteps(99, RATE), wholeSteps(100, RATE), wholeSteps(750, RATE)]).toEqual([0, 1, 7]);
    expect([wholeSteps(-5, RATE), wholeSteps(750, { ...RATE, offPoints: 0 })]).toEqual([0, 0]);
  });

  it('pay up to a part of what the goods cost, never a cent more', () => {
    expect([mostSteps(19_99, RATE), mostSteps(20_00, RATE), mostSteps(1_99, RATE)]).toEqual([9, 10, 0]);
    expect(mostSteps(20_00, { ...RATE, offMost: 1_000_000 })).toBe(20);
    expect(pointsTakenOff(20_00, wanted(3))).toEqual({ points: 300, amount: 3_00 });
    expect(pointsTakenOff(20_00, wanted(30))).toEqual({ points: 1000, amount: 10_00 });
  });

  it('come after discounts and before tax, and each line says so', () => {
    const priced = price([line('a', 30_00), line('b', 10_00)], wanted(8), true);
    // 40.00 less 10 % is 36.00; 8.00 of it are paid with points.
    expect(priced.pointsOff).toEqual({ points: 800, amount: 8_00 });
    expect(priced.lines.map(({ records }) => records.map(({ kind, amount }) => [kind, amount]))).toEqual([
      [
        ['discount', -3_00],
        ['points', -6_00],
      ],
      [
        ['discount', -1_00],
        ['points', -2_00],
      ],
    ]);
    expect(priced.total).toBe(28_00 + 2_10);
    expect(pointsTaken(priced)).toBe(800);
  });

  it('leave goods alone that are closed, come back, or are swapped', () => {
    const back = line('back', -50_00, { quantity: -1000 });
    const priced = price([line('card', 50_00, { closed: true }), line('a', 10_00), back], wanted(20));
    expect(priced.pointsOff).toEqual({ points: 500, amount: 5_00 });
    expect(priced.lines.map(({ records }) => records.length)).toEqual([0, 1, 0]);
    expect(price([line('card', 50_00, { closed: true })], wanted(20)).pointsOff).toBeUndefined();
  });

  it('add up to the cent on any basket, and never take more than was wanted or may be', () => {
    const lines = fc.array(fc.integer({ min: 1, max: 50_000 }), { minLength: 1, maxLength: 12 });
    const rate = fc.record({
      offPoints: fc.integer({ min: 1, max: 500 }),
      offAmount: fc.integer({ min: 1, max: 5_000 }),
      offMost: fc.integer({ min: 0, max: 1_000_000 }),
    });
    fc.assert(
      fc.property(lines, rate, fc.integer({ min: 1, max: 100 }), (prices, rates, steps) => {
        const all = prices.map((one, at) => line(String(at), one));
        const priced = price(all, wanted(steps, rates));
        const before = price(all, undefined);
        const { points = 0, amount = 0 } = priced.pointsOff ?? {};
        expect(sum(priced.lines.flatMap(({ records }) => records.map((one) => one.amount)))).toBe(0 - amount);
        expect(amount * rates.offPoints).toBe(points * rates.offAmount);
        expect(points).toBeLessThanOrEqual(steps * rates.offPoints);
        expect(amount * 1_000_000).toBeLessThanOrEqual(before.regular * rates.offMost);
        for (const { net } of priced.lines) expect(net).toBeGreaterThanOrEqual(0);
      }),
    );
  });
});
