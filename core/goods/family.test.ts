import { describe, expect, it } from 'vitest';
import { familyProblems, shortForms, variantKey, variantName, variantNumbers, variantsOf } from './family.ts';

const SIZE = { name: 'Size', values: ['Small', 'Medium', 'Large'] };
const COLOUR = { name: 'Colour', values: ['Red', 'Rosé'] };

describe('variants of a family', () => {
  it('are every value with every other, the first axis slowest', () => {
    expect(variantsOf([SIZE])).toEqual([['Small'], ['Medium'], ['Large']]);
    expect(variantsOf([SIZE, COLOUR]).slice(0, 3)).toEqual([
      ['Small', 'Red'],
      ['Small', 'Rosé'],
      ['Medium', 'Red'],
    ]);
    expect(variantsOf([SIZE, { name: 'Colour', values: [] }])).toEqual([]);
  });

  it('have numbers that tell them apart', () => {
    const numberOf = variantNumbers('SOCK', [SIZE, COLOUR]);
    expect(numberOf(['Small', 'Rosé'])).toBe('SOCK-SMA-ROS');
    // As many letters as it takes; values without letters are counted.

    expect(new Set(shortForms(['Darkest', 'Darker', 'Dark']).values()).size).toBe(3);
    expect([...shortForms(['Dark blue', 'Dark red']).values()]).toEqual(['DARKB', 'DARKR']);
    expect([...shortForms(['½', '¼']).values()]).toEqual(['1', '2']);
    expect([...shortForms(['S', 'M']).values()]).toEqual(['S', 'M']);
    expect(numberOf(['Huge', 'Red'])).toBe('SOCK-HUG-RED');
  });

  it('are called as their family with their values, and are the same however they are written', () => {
    expect(variantName('Sock', ['Small', 'Red'])).toBe('Sock, Small, Red');
    expect(variantName('x'.repeat(119), ['Small'])).toHaveLength(120);
    expect(variantKey(['SMALL', 'Rosé'])).toBe(variantKey(['small', 'rose']));
  });

  it('are refused where two are alike, next to the second one', () => {
    const one = { variant: ['Small'], number: 'A', code: '1', price: null };
    expect(familyProblems(['Size'], [one, { ...one, variant: ['Large'], number: 'B', code: '' }])).toEqual(
      {},
    );
    expect(familyProblems(['Size', 'size'], [])).toEqual({ 'axes[1]': 'They differ in that already.' });
    expect(familyProblems(['Size'], [one, { ...one, variant: ['small'], number: 'a' }])).toEqual({
      'variants[1].variant': 'It stands there twice.',
      'variants[1].number': 'Another one has this number.',
      'variants[1].code': 'Another one has this code.',
    });
    expect(familyProblems(['Size'], [one, { variant: ['L'], number: 'B', code: 'a', price: null }])).toEqual({
      'variants[1].code': 'It is the number of another one.',
    });
    expect(familyProblems(['Size', 'Colour'], [one])).toEqual({
      'variants[0].variant': 'A value is missing.',
    });
  });
});
