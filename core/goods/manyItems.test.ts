import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NEW_ITEM, type ItemRecord } from './itemRecord.ts';
import {
  changedItem,
  changedPrice,
  ENDINGS,
  withEnding,
  type ManyChange,
  type PriceChange,
} from './manyItems.ts';

const price = (fields: Partial<PriceChange> = {}): PriceChange => ({
  by: 'percent',
  amount: 0,
  rate: 0,
  ending: null,
  from: '',
  ...fields,
});
const item: ItemRecord = {
  ...NEW_ITEM,
  number: 'A',
  name: 'A',
  category: 'Old',
  taxCategoryId: 1,
  price: 10_00,
  tags: ['b', 'a'],
};
const NOTHING: ManyChange = {
  category: null,
  taxCategoryId: null,
  addTags: [],
  dropTags: [],
  active: null,
  price: null,
};

describe('prices of many items', () => {
  it('end as is wanted: at the nearest price that does, the higher of two, and never below zero', () => {
    expect([12_34, 12_95, 12_41, 12_39, 20, 0].map((one) => withEnding(one, 90, 2))).toEqual([
      11_90, 12_90, 12_90, 11_90, 90, 0,
    ]);
    expect(withEnding(12_40, 90, 2)).toBe(12_90);
    expect(withEnding(12_34, null, 2)).toBe(12_34);
    // A currency without cents has no such endings.
    expect(withEnding(1234, 90, 0)).toBe(1234);
  });

  it('are never farther from what they were worked out to be than half a unit', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000_000 }), fc.constantFrom(...ENDINGS), (from, ending) => {
        const to = withEnding(from, ending, 2);
        expect(to % 100).toBe(ending);
        expect(to).toBeGreaterThanOrEqual(0);
        if (from >= ending) expect(Math.abs(to - from)).toBeLessThanOrEqual(50);
      }),
    );
  });

  it('change by a part, an amount, or to an amount; below zero there is none', () => {
    expect(changedPrice(9_99, price({ rate: 100_000 }), 2)).toBe(10_99);
    expect(changedPrice(9_99, price({ rate: -500_000 }), 2)).toBe(5_00 - 1);
    expect(changedPrice(9_99, price({ by: 'amount', amount: -5_00 }), 2)).toBe(4_99);
    expect(changedPrice(9_99, price({ by: 'amount', amount: -20_00 }), 2)).toBeNull();
    expect(changedPrice(9_99, price({ by: 'to', amount: 7_77, ending: 50 }), 2)).toBe(7_50);
  });
});

describe('many items', () => {
  it('keep what is not named', () => {
    expect(changedItem(item, NOTHING, 2)).toEqual({ record: { ...item, tags: ['a', 'b'] }, price: null });
  });

  it('get tags and lose them, another category, another state', () => {
    const change = { ...NOTHING, addTags: ['c'], dropTags: ['a'], category: 'New', active: false };
    expect(changedItem(item, change, 2)).toMatchObject({
      record: { tags: ['b', 'c'], category: 'New', active: false, price: 10_00 },
    });
    const many = Array.from({ length: 11 }, (_, at) => `t${at}`);
    expect(changedItem(item, { ...NOTHING, addTags: many }, 2)).toMatch(/more than 12 tags/);
  });

  it('get another price at once, or from a day on; without one they cannot', () => {
    const change = { ...NOTHING, price: price({ rate: 100_000 }) };
    expect(changedItem(item, change, 2)).toMatchObject({ record: { price: 11_00 }, price: 11_00 });
    const later = { ...NOTHING, price: price({ rate: 100_000, from: '2026-04-01' }) };
    expect(changedItem(item, later, 2)).toMatchObject({ record: { price: 10_00 }, price: 11_00 });
    expect(changedItem({ ...item, price: null }, change, 2)).toBe('It has no price of its own.');
  });
});
