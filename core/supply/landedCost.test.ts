import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { freightParts, goodsCost, SPREADS, type CameLine, type SpreadBy } from './landedCost.ts';

const line = (quantity: number, unitCost: number, weight: number | null = null): CameLine => ({
  quantity,
  cost: goodsCost(quantity, unitCost),
  weight,
});

describe('freight', () => {
  it('goes by value, weight or quantity', () => {
    const lines = [line(1_000, 100_00, 500), line(3_000, 100_00, 500)];
    expect(freightParts(lines, 10_00, 'value')).toEqual([2_50, 7_50]);
    expect(freightParts([line(2_000, 1_00, 300), line(1_000, 90_00, 1_400)], 10_00, 'weight')).toEqual([
      3_00, 7_00,
    ]);
    expect(freightParts([line(2_000, 1_00), line(6_000, 90_00)], 8_00, 'quantity')).toEqual([2_00, 6_00]);
  });

  it('goes by quantity where nothing weighs or costs anything', () => {
    expect(freightParts([line(1_000, 0), line(1_000, 0)], 5, 'value')).toEqual([3, 2]);
    expect(freightParts([line(1_000, 10), line(3_000, 10)], 8, 'weight')).toEqual([2, 6]);
  });

  it('is spread whole, and no line is off by more than one', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 500_000 }), fc.nat(99_999), fc.option(fc.nat(9_000))), {
          minLength: 1,
          maxLength: 30,
        }),
        fc.nat(500_000),
        fc.constantFrom<SpreadBy>(...(Object.keys(SPREADS) as SpreadBy[])),
        (rows, freight, by) => {
          const lines = rows.map(([quantity, unitCost, weight]) => line(quantity, unitCost, weight));
          const parts = freightParts(lines, freight, by);
          expect(sum(parts)).toBe(freight);
          if (by !== 'value') return;
          const costs = lines.map(({ cost }) => cost);
          const whole = sum(costs);
          if (whole === 0) return;
          parts.forEach((part, at) =>
            expect(Math.abs(part - (freight * (costs[at] ?? 0)) / whole)).toBeLessThanOrEqual(1),
          );
        },
      ),
    );
  });
});
