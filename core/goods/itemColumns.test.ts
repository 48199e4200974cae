import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { itemCells, itemColumnOf, itemColumns, lineToItem, type ItemListPlace } from './itemColumns.ts';
import { NEW_ITEM, type ItemRecord } from './itemRecord.ts';
import { NOTHING_BESIDE } from './itemBeside.ts';
import { judgeItem, variantWord, type GoodsBefore, type KnownGoods, type KnownItem } from './judgeItem.ts';

const PLACE: ItemListPlace = {
  digits: 2,
  taxIds: new Map([
    ['general', 1],
    ['none', 2],
  ]),
  taxNames: new Map([
    [1, 'General'],
    [2, 'None'],
  ]),
};
const item = (fields: Partial<ItemRecord> = {}): ItemRecord => ({
  ...NEW_ITEM,
  number: 'KAZ-1',
  name: 'Kazoo',
  category: 'Winds',
  price: 2_50,
  taxCategoryId: 1,
  codes: ['2100000000013'],
  ...fields,
});

describe('an item as a line of a list', () => {
  it('has a column for all of it but prices for groups, found by what people call it', () => {
    expect(['SKU', 'Retail price', 'Barcode', 'VAT', 'On hand', 'Shoe size'].map(itemColumnOf)).toEqual([
      'number',
      'price',
      'codes',
      'tax',
      'stock',
      null,
    ]);
    for (const { column, heading } of itemColumns()) expect(itemColumnOf(heading)).toBe(column);
  });

  it('comes out as it went in, whatever it is (law)', () => {
    const word = fc.stringMatching(/^[A-Za-z0-9 ,"'.-]{0,20}$/).map((text) => text.trim());
    const money = fc.option(fc.integer({ min: 0, max: 9_999_999 }), { nil: null });
    const any = fc.record({
      number: fc.stringMatching(/^[A-Z0-9-]{1,12}$/),
      name: word.filter(Boolean),
      category: word.filter(Boolean),
      description: word,
      unit: fc.constantFrom('each', 'm', 'kg'),
      decimals: fc.integer({ min: 0, max: 3 }),
      price: money,
      cost: money,
      taxCategoryId: fc.constantFrom(1, 2),
      stocked: fc.boolean(),
      serials: fc.boolean(),
      minAge: fc.option(fc.integer({ min: 1, max: 99 }), { nil: null }),
      asksNote: word,
      weight: fc.option(fc.integer({ min: 0, max: 100_000 }), { nil: null }),
      tags: fc
        .uniqueArray(fc.stringMatching(/^[a-z]{1,8}$/), { maxLength: 4 })
        .map((some) => some.toSorted()),
      codes: fc
        .uniqueArray(fc.stringMatching(/^[A-Z]{6,10}$/), { maxLength: 3 })
        .map((some) => some.toSorted()),
      active: fc.boolean(),
      groupPrices: fc.constant([]),
    });
    const source = fc.record({
      supplier: word.filter(Boolean),
      number: word,
      cost: money,
      pack: fc.integer({ min: 1, max: 99_999_999 }),
      least: fc.integer({ min: 0, max: 99_999_999 }),
    });
    const values = fc.array(fc.stringMatching(/^[A-Za-z0-9½]{1,8}$/), { minLength: 1, maxLength: 2 });
    const anyBeside = fc.record({
      axes: fc.constant([]),
      family: fc.constantFrom('', 'SOCK'),
      variant: values.map((some) => [...new Set(some)]),
      source: fc.option(source, { nil: null }),
    });
    fc.assert(
      fc.property(any, any, anyBeside, (record, other, beside) => {
        const cells = itemCells(record, beside, PLACE);
        expect(lineToItem(cells, null, NOTHING_BESIDE, PLACE)).toEqual({
          record,
          beside,
          stock: 0,
          wrong: [],
        });
        // Whatever the item was before, the list says what it is.
        const again = lineToItem(cells, { ...other, number: record.number }, beside, PLACE);
        expect([again.record, again.beside, again.wrong]).toEqual([record, beside, []]);
      }),
    );
  });

  it('keeps what there is no column for, and what it cannot be without', () => {
    const { record, wrong } = lineToItem(
      { number: 'KAZ-1', name: '', price: '3,9', tags: '' },
      item({ tags: ['a'] }),
      NOTHING_BESIDE,
      PLACE,
    );
    expect([wrong, record]).toEqual([[], item({ price: 3_90, tags: [] })]);
  });

  it('says what cannot be read', () => {
    const { wrong } = lineToItem(
      { number: 'X', name: 'X', price: '1.999', cost: 'dear', tax: 'Luxury', minAge: 'old', stock: '-1' },
      null,
      NOTHING_BESIDE,
      PLACE,
    );
    expect(wrong).toEqual([
      'There is no tax “Luxury”.',
      '“-1” is no quantity.',
      '“1.999” is no price.',
      '“dear” is no cost.',
      '“old” is no number (Sold from years).',
    ]);
  });
});

describe('a line of a list of goods', () => {
  const known: KnownItem = {
    id: 7,
    kind: 'goods',
    moved: true,
    onHand: true,
    record: item(),
    beside: NOTHING_BESIDE,
  };
  const other: KnownItem = {
    ...known,
    id: 8,
    record: item({ number: 'DRUM', name: 'Drum', codes: ['DRUMCODE'] }),
  };
  const goods: KnownGoods = {
    byNumber: new Map([
      ['KAZ-1', known],
      ['DRUM', other],
    ]),
    byCode: new Map([
      ['2100000000013', known],
      ['drumcode', other],
    ]),
    cards: new Set(['CARD-1']),
    money: new Set(['DEPOSIT']),
    place: PLACE,
    names: { digits: 2, tax: (id) => PLACE.taxNames.get(id) ?? '' },
    families: new Map([['SOCK', ['Size']]]),
    variants: new Set([variantWord('SOCK', ['S'])]),
  };
  const judge = (cells: Parameters<typeof judgeItem>[0], before: GoodsBefore = new Map(), line = 2) =>
    judgeItem(cells, line, goods, before, () => []);

  it('is about the item with its number, or else with its code; else it is a new one', () => {
    expect(judge({ number: 'kaz-1', price: '2.50' })).toEqual({ outcome: 'same', id: 7 });
    expect(judge({ codes: '2100000000013', price: '2.90' })).toMatchObject({
      outcome: 'changed',
      id: 7,
      changes: [{ what: 'Price', was: '2.50', became: '2.90' }],
    });
    expect(
      judge({ number: 'FLUTE', name: 'Flute', category: 'Winds', price: '90', stock: '3' }),
    ).toMatchObject({
      outcome: 'new',
      record: { number: 'FLUTE', price: 90_00 },
      stock: 3000,
    });
  });

  it('makes families and their variants, and says from whom goods come', () => {
    const before: GoodsBefore = new Map();
    const made = (cells: Parameters<typeof judgeItem>[0], line: number) => {
      const judged = judge({ name: 'N', category: 'C', ...cells }, before, line);
      return judged.outcome === 'refused' ? judged.why : judged.outcome;
    };
    expect(made({ number: 'CAP', axes: 'Size; Colour' }, 2)).toBe('new');
    expect(made({ number: 'CAP-1', family: 'cap', variant: 'S; Red' }, 3)).toBe('new');
    expect(made({ number: 'CAP-2', family: 'CAP', variant: 's; red' }, 4)).toBe('CAP has s, red already.');
    expect(made({ number: 'CAP-2', family: 'CAP', variant: 'S' }, 4)).toBe(
      'A variant of CAP says its Size and Colour.',
    );
    expect(made({ number: 'X', family: 'HAT', variant: 'S' }, 5)).toBe('There is no family HAT before it.');
    expect(made({ number: 'X', variant: 'S' }, 5)).toBe('Which family is it of?');
    expect(made({ number: 'SOCK-S', family: 'SOCK', variant: 'S' }, 6)).toBe('SOCK has S already.');
    expect(made({ number: 'SOCK-M', family: 'SOCK', variant: 'M' }, 6)).toBe('new');
    expect(made({ number: 'F', axes: 'Size', price: '3' }, 7)).toBe('A family has no price of its own.');
    expect(made({ number: 'F', axes: 'Size', supplier: 'Oak' }, 7)).toBe('Only goods come from a supplier.');
    expect(made({ number: 'KAZ-1', family: 'SOCK', variant: 'L' }, 8)).toBe(
      'What it is of its family stands.',
    );
    expect(judge({ number: 'KAZ-1', supplier: 'Oak', theirCost: '1,20', pack: '12' })).toMatchObject({
      outcome: 'changed',
      changes: [
        { what: 'Supplier', became: 'Oak' },
        { what: 'Cost there', became: '1.20' },
        { what: 'Pack', became: '12' },
        { what: 'Least order', became: '0' },
      ],
    });
    expect(judge({ number: 'KAZ-1', pack: '12' })).toMatchObject({ why: 'From which supplier?' });
    expect(judge({ number: 'KAZ-1', supplier: 'Oak', theirCost: 'x' })).toMatchObject({
      outcome: 'refused',
      why: '“x” is no cost (Cost there).',
    });
  });

  it('is refused with the reason, and twice in one list once', () => {
    const why = (cells: Parameters<typeof judgeItem>[0]) => {
      const judged = judge(cells);
      return judged.outcome === 'refused' ? judged.why : judged.outcome;
    };
    expect(why({ number: 'KAZ-1', codes: 'DRUMCODE' })).toBe('DRUMCODE means Drum already.');
    expect(why({ number: 'NEW', name: 'N', codes: 'CARD-1' })).toBe('CARD-1 is the card of a customer.');
    expect(why({ number: 'DEPOSIT', name: 'N' })).toBe('DEPOSIT is kept for money.');
    expect(why({ number: 'KAZ-1', unit: 'kg' })).toBe('It has moved already: how it is counted stands.');
    expect(why({ number: 'KAZ-1', price: 'x' })).toBe('“x” is no price.');
    const before: GoodsBefore = new Map();
    expect(judge({ number: 'A', name: 'A', category: 'B' }, before, 2).outcome).toBe('new');
    expect(judge({ number: 'a', name: 'A', category: 'B' }, before, 3)).toMatchObject({
      why: 'Line 2 has A as well.',
    });
  });
});
