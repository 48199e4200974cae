import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createCatalogue } from './catalogue.ts';
import type { Item } from './item.ts';
import { wordsOf } from '../words.ts';
import { indexCodes } from './codes.ts';
import { buildSearchIndex } from './search.ts';

let nextId = 1;
function item(name: string, more: Partial<Item> = {}): Item {
  const id = nextId++;
  return {
    id,
    name,
    number: `N-${id}`,
    category: 'Care',
    price: 100,
    unit: 'each',
    decimals: 0,
    taxCategoryId: 1,
    codes: [],
    stock: 0,
    ...more,
  };
}
const names = (items: readonly Item[]) => items.map(({ name }) => name);

describe('search', () => {
  const items = [
    item('Reed, B flat clarinet, strength 2', { number: 'REE-BC-20', category: 'Reeds' }),
    item('Reed, B flat clarinet, strength 2½', { number: 'REE-BC-25', category: 'Reeds' }),
    item('Clarinet stand', { category: 'Stands' }),
    item('Étude book', { codes: ['2000000000015'] }),
    item('Metronome', { codes: ['0400000000008'] }),
  ];
  const index = buildSearchIndex(items);

  it('finds items of which every typed word begins a word', () => {
    expect(names(index.search('cl'))).toEqual([
      'Clarinet stand',
      'Reed, B flat clarinet, strength 2',
      'Reed, B flat clarinet, strength 2½',
    ]);
    expect(names(index.search('reed cl 2½'))).toEqual(['Reed, B flat clarinet, strength 2½']);
    expect(index.search('zither')).toEqual([]);
    expect(index.search('  ')).toEqual([]);
  });

  it('sees no accents, upper case or category twice', () => {
    expect(names(index.search('ETUDE'))).toEqual(['Étude book']);
    expect(names(index.search('reeds'))).toHaveLength(2);
    expect(wordsOf('B♭ Clarinet, (2½)')).toEqual(['b♭', 'clarinet', '2½']);
  });

  const codes = indexCodes(items);
  it('recognises numbers and every spelling of a barcode', () => {
    expect(codes.recognise('ree-bc-25')?.name).toBe('Reed, B flat clarinet, strength 2½');
    expect(codes.recognise('2000000000015')?.name).toBe('Étude book');
    expect(codes.recognise('400000000008')?.name).toBe('Metronome');
    expect(codes.recognise('400000000009')).toBeUndefined();
  });

  it('puts the exact number first', () => {
    expect(index.search('REE-BC-20')[0]?.number).toBe('REE-BC-20');
  });

  it('finds what a plain filter over all items finds', () => {
    const word = fc.stringMatching(/^[abc]{1,5}$/);
    const name = fc.array(word, { minLength: 1, maxLength: 4 }).map((list) => list.join(' '));
    fc.assert(
      fc.property(
        fc.array(name, { maxLength: 40 }),
        fc.array(word, { minLength: 1, maxLength: 3 }),
        (list, typed) => {
          const all = list.map((text) => item(text, { category: 'x', number: `#${nextId}` }));
          const found = buildSearchIndex(all).search(typed.join(' '), 100);
          const plain = all.filter(({ name: text }) =>
            typed.every((prefix) => text.split(' ').some((part) => part.startsWith(prefix))),
          );
          expect(new Set(found)).toEqual(new Set(plain));
        },
      ),
    );
  });
});

describe('catalogue', () => {
  it('shows changes at once and forgets what was removed', () => {
    const [a, b] = [item('Alto reed'), item('Bass reed')];
    const catalogue = createCatalogue([a, b]);
    catalogue.apply([{ ...a, name: 'Alto reed, new' }, item('Cello reed')], [b.id]);
    expect(names(catalogue.search('reed')).sort()).toEqual(['Alto reed, new', 'Cello reed']);
    expect(catalogue.recognise(b.number)).toBeUndefined();
    expect(catalogue.recognise(a.number)?.name).toBe('Alto reed, new');
    expect(catalogue.find(b.id)).toBeUndefined();
    expect(catalogue.size).toBe(2);
  });

  it('keeps working through thousands of changes', () => {
    const many = Array.from({ length: 3000 }, (_, at) => item(`Thing ${at}`));
    const catalogue = createCatalogue(many);
    catalogue.apply(
      many.map((one) => ({ ...one, name: `Other ${one.id}` })),
      [],
    );
    expect(catalogue.search('thing')).toEqual([]);
    expect(catalogue.search('other', 5)).toHaveLength(5);
  });

  it('takes stock levels in', () => {
    const [kept, service] = [item('Kept'), item('Lesson', { stock: null })];
    const catalogue = createCatalogue([kept, service]);
    catalogue.setStock([
      [kept.id, 4000],
      [service.id, 1000],
      [999_999, 1],
    ]);
    expect(catalogue.find(kept.id)?.stock).toBe(4000);
    expect(catalogue.find(service.id)?.stock).toBeNull();
  });
});
