import type { Item } from '../core/goods/item.ts';
import { ownEan13 } from './barcodes.ts';
import { FAMILIES } from './data/families.ts';
import { seeded } from './random.ts';

const MAKERS =
  'Kestrel|Tarnbrook|Alder Hollow|Wren|Marshgrass|Corran|Dunmere|Saltmarsh|Lantern|Copperbell'.split('|');
const WORDS =
  'soft|bright|warm|round|narrow|wide|short|long|student|concert|studio|travel|silver|gold|maple|birch|cedar|walnut|felt|brass|nickel|coated|polished|matt|left-handed|junior|classic|modern|spare|double'.split(
    '|',
  );

/** As many made-up items as wanted, the same every time for a seed. */
export function largeShop(count: number, seed = 7): Item[] {
  const random = seeded(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  return Array.from({ length: count }, (_, at): Item => {
    const family = pick(FAMILIES);
    const variant = family.variants ? `, ${pick(family.variants)[0]}` : '';
    return {
      id: at + 1,
      number: `${family.number}-${String(at).padStart(6, '0')}`,
      name: `${pick(MAKERS)} ${family.name.toLowerCase()}, ${pick(WORDS)} ${pick(WORDS)}${variant}`,
      category: family.category,
      price: 50 + Math.floor(random() * 200_000),
      unit: family.unit ?? 'each',
      decimals: family.decimals ?? 0,
      taxCategoryId: 1,
      codes: [ownEan13(21, at)],
      stock: Math.floor(random() * 40) * 1000,
    };
  });
}
