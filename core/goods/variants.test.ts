import { describe, expect, it } from 'vitest';
import type { Item } from './item.ts';
import { variantMatrix } from './variants.ts';

const variant = (id: number, ...values: string[]): Item => ({
  id,
  number: String(id),
  name: values.join(', '),
  category: 'Cases',
  price: 4900,
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  codes: [],
  stock: 0,
  more: { familyId: 99, variant: values },
});
const ids = (matrix: ReturnType<typeof variantMatrix>) =>
  matrix.rows.map(({ cells }) => cells.map((cell) => cell?.id ?? null));

describe('the variants of a family as a table', () => {
  it('have two axes, the longer one down, with gaps where there is no such variant', () => {
    const bags = [
      variant(1, 'small', 'black'),
      variant(2, 'small', 'navy'),
      variant(3, 'large', 'black'),
      variant(4, 'large', 'sand'),
    ];
    const matrix = variantMatrix(['Size', 'Colour'], bags);
    expect([matrix.down, matrix.across, matrix.columns]).toEqual(['Colour', 'Size', ['small', 'large']]);
    expect(matrix.rows.map(({ name }) => name)).toEqual(['black', 'navy', 'sand']);
    expect(ids(matrix)).toEqual([
      [1, 3],
      [2, null],
      [null, 4],
    ]);
  });

  it('have one column when they differ in one thing', () => {
    const reeds = variantMatrix(['Strength'], [variant(1, '2'), variant(2, '2½')]);
    expect([reeds.down, reeds.across, ids(reeds)]).toEqual(['Strength', '', [[1], [2]]]);
  });
});
