import { describe, expect, it } from 'vitest';
import type { Item } from '../goods/item.ts';
import {
  addItem,
  BasketError,
  changeLine,
  neededRights,
  removeLine,
  restoreLine,
  setQuantity,
  type Basket,
} from './basket.ts';
import { parseEntry } from './entry.ts';

const pick: Item = {
  id: 1,
  number: 'PIC',
  name: 'Pick',
  category: 'Picks',
  price: 60,
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  codes: [],
  stock: 0,
};
const cable: Item = { ...pick, id: 2, number: 'CAB', name: 'Cable', price: 420, unit: 'm', decimals: 2 };
const repair: Item = { ...pick, id: 3, number: 'REP', name: 'Repair', price: null };
const empty: Basket = { id: 'b', lines: [] };

describe('entry', () => {
  it.each([
    ['3*REE-BC25', { quantity: 3000, text: 'REE-BC25' }],
    ['2.5 * cable', { quantity: 2500, text: 'cable' }],
    [' 2000000000015 ', { text: '2000000000015' }],
    ['0*pick', { text: '0*pick' }],
    ['*pick', { text: '*pick' }],
    ['3*', { quantity: 3000, text: '' }],
  ])('reads %j', (typed, entry) => {
    expect(parseEntry(typed)).toEqual(entry);
  });
});

describe('basket', () => {
  it('adds more of the last line, and a new line after another item', () => {
    const one = addItem(empty, pick, { lineId: 'x' }).basket;
    const two = addItem(one, pick, { lineId: 'y', quantity: 2000 });
    expect(two.lineId).toBe('x');
    expect(two.basket.lines).toMatchObject([{ id: 'x', quantity: 3000, listPrice: 60 }]);
    const three = addItem(two.basket, cable, { lineId: 'z', quantity: 2500 }).basket;
    expect(three.lines).toHaveLength(2);
  });

  it('merges with an equal line further up, but not with one that is special', () => {
    const one = addItem(empty, pick, { lineId: 'a' }).basket;
    const two = addItem(one, cable, { lineId: 'b' }).basket;
    expect(addItem(two, pick, { lineId: 'c' })).toMatchObject({ lineId: 'a' });
    for (const special of [{ note: 'x' }, { gift: true }, { typedPrice: { unitPrice: 1, reason: 'old' } }]) {
      expect(addItem(changeLine(two, 'a', special), pick, { lineId: 'c' }).lineId).toBe('c');
    }
  });

  it('names every step that needs more rights', () => {
    const { basket } = addItem(empty, repair, { lineId: 'r', unitPrice: 60_000, openPriceCountersign: 'k' });
    const dearer = addItem(basket, pick, { lineId: 'p' }).basket;
    const typed = changeLine(dearer, 'p', { typedPrice: { unitPrice: 1, reason: 'old' } });
    const exempt = { ...typed, exemption: { reason: 'School', certificate: '' } };
    expect(neededRights(exempt, new Set([repair.id]), 50_000)).toEqual([
      { right: 'open-price.large', countersign: 'k' },
      { right: 'price.change', countersign: undefined },
      { right: 'tax.exempt', countersign: undefined },
    ]);
    expect(neededRights(dearer, new Set([repair.id]), 60_000)).toEqual([]);
  });

  it('asks for a price where there is none, and never merges such lines', () => {
    expect(() => addItem(empty, repair, { lineId: 'x' })).toThrow(BasketError);
    const one = addItem(empty, repair, { lineId: 'x', unitPrice: 4500 }).basket;
    const two = addItem(one, repair, { lineId: 'y', unitPrice: 4500 }).basket;
    expect(two.lines.map(({ listPrice }) => listPrice)).toEqual([4500, 4500]);
  });

  it('refuses quantities that the item does not come in, in words', () => {
    expect(() => addItem(empty, pick, { lineId: 'x', quantity: 1500 })).toThrow(
      'Pick is sold in whole units.',
    );
    expect(() => addItem(empty, cable, { lineId: 'x', quantity: 1001 })).toThrow('at most 2 decimals');
    const { basket } = addItem(empty, pick, { lineId: 'x' });
    expect(() => setQuantity(basket, 'x', 0)).toThrow('more than zero');
    expect(() => setQuantity(basket, 'x', 1e11)).toThrow('99,999');
  });

  it('puts a removed line back where it was', () => {
    let basket = empty;
    for (const [lineId, item] of [
      ['a', pick],
      ['b', cable],
      ['c', { ...pick, id: 9 }],
    ] as const)
      basket = addItem(basket, item, { lineId }).basket;
    const [, middle] = basket.lines;
    if (!middle) throw new Error('no line');
    const without = removeLine(basket, 'b');
    expect(without.lines.map(({ id }) => id)).toEqual(['a', 'c']);
    expect(restoreLine(without, middle, 1)).toEqual(basket);
  });
});
