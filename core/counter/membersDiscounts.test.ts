import { describe, expect, it } from 'vitest';
import type { DiscountPreset, TypedDiscount } from '../pricing/discount.ts';
import { settleDiscounts } from './membersDiscounts.ts';

const size = { kind: 'percent', rate: 100_000 } as const;
const teacher: DiscountPreset = { id: 1, name: 'Teacher', size, needsCustomer: true, group: 'Teachers' };
const display: DiscountPreset = { id: 2, name: 'Display piece', size, needsCustomer: false, group: null };
const given = (id: string, presetId?: number): TypedDiscount => ({
  id,
  lineIds: null,
  size,
  reason: id,
  presetId,
});
const ines = { name: 'Ines', groups: ['Teachers'] };
const kai = { name: 'Kai', groups: [] };

describe("members' presets", () => {
  const all = [given('for a teacher', 1), given('worn', 2), given('agreed')];

  it('go with the member, and nothing else does', () => {
    const without = settleDiscounts(all, [], [teacher, display], null);
    expect(without.on.map(({ id }) => id)).toEqual(['worn', 'agreed']);
    expect([without.gone, without.back]).toEqual([['Teacher'], []]);
    expect(settleDiscounts(all, [], [teacher, display], kai).gone).toEqual(['Teacher']);
    expect(settleDiscounts(all, [], [teacher, display], ines)).toMatchObject({
      on: all,
      aside: [],
      gone: [],
    });
  });

  it('come back with who may have them, once', () => {
    const { on, aside } = settleDiscounts(all, [], [teacher, display], kai);
    const again = settleDiscounts(on, aside, [teacher, display], ines);
    expect(again.on.map(({ id }) => id)).toEqual(['worn', 'agreed', 'for a teacher']);
    expect([again.aside, again.back]).toEqual([[], ['Teacher']]);
    expect(settleDiscounts(again.on, aside, [teacher, display], ines).on).toHaveLength(3);
  });
});
