import { describe, expect, it } from 'vitest';
import { itemChanges, itemProblems, itemWords, NEW_ITEM, type ItemRecord } from './itemRecord.ts';

const record = (fields: Partial<ItemRecord> = {}): ItemRecord => ({
  ...NEW_ITEM,
  number: 'MET-C',
  name: 'Metronome, clip-on',
  category: 'Metronomes',
  price: 45_00,
  taxCategoryId: 1,
  ...fields,
});
const NAMES = { digits: 2, tax: (id: number) => (id === 1 ? 'General' : 'None') };
const FREE = { kind: 'goods', moved: false, onHand: false } as const;

describe('the record of an item', () => {
  it('is found by words of all that it is called, in plain letters, and by its codes whole', () => {
    const words = itemWords(record({ name: 'Étui, B♭', tags: ['new'], codes: ['4006381333931'] }));
    for (const part of [' met-c', ' met', ' etui', ' metronomes', ' new', ' 4006381333931'])
      expect(words).toContain(part);
    // Each word once.
    expect(words.split(' ').filter((word) => word === 'met-c')).toHaveLength(1);
  });

  it('says what was changed in the order of the page, and nothing of what stayed', () => {
    const after = record({ price: null, taxCategoryId: 2, tags: ['new'], active: false });
    expect(itemChanges(record(), after, NAMES)).toEqual([
      { what: 'Price', was: '45.00', became: 'asked for' },
      { what: 'Tax', was: 'General', became: 'None' },
      { what: 'Tags', was: '', became: 'new' },
      { what: 'Sold', was: 'yes', became: 'no' },
    ]);
    expect(itemChanges(record(), record(), NAMES)).toEqual([]);
  });

  it('cannot be counted another way once some of it has moved', () => {
    const after = record({ unit: 'm', decimals: 1, serials: true });
    expect(Object.keys(itemProblems(after, record(), { ...FREE, moved: true })).toSorted()).toEqual([
      'decimals',
      'serials',
      'unit',
    ]);
    expect(itemProblems(record({ unit: 'm', decimals: 1 }), record(), FREE)).toEqual({});
    // A new item has not moved.
    expect(itemProblems(record({ unit: 'kg', decimals: 3 }), null, FREE)).toEqual({});
  });

  it('is refused where its parts do not go together', () => {
    const problem = (fields: Partial<ItemRecord>, state: object = {}) =>
      Object.keys(itemProblems(record(fields), record(), { ...FREE, ...state }));
    expect(problem({ stocked: false }, { onHand: true })).toEqual(['stocked']);
    expect(problem({ serials: true, decimals: 1 })).toEqual(['decimals']);
    expect(problem({ serials: true, stocked: false })).toEqual(['serials']);
    expect(problem({}, { kind: 'bundle' }).toSorted()).toEqual(['price', 'stocked']);
    expect(problem({ price: null, groupPrices: [{ group: 'Teachers', price: 1 }] })).toEqual(['groupPrices']);
  });
});
