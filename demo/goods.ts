import { ONE } from '../core/quantity.ts';
import type { NewItem } from '../server/goods/store.ts';
import { ownEan13, ownEan8, ownUpcA } from './barcodes.ts';
import { FAMILIES, type Family } from './data/families.ts';
import { seeded } from './random.ts';

/** An item of the made-up shop, with its category and tax by name. */
export interface DemoItem extends Omit<NewItem, 'categoryId' | 'taxCategoryId' | 'stock'> {
  category: string;
  tax: Family['tax'];
  /** Quantity in the shop, at the other shop and in the depot. */
  stock: readonly [shop: number, quayside: number, depot: number];
}

const SEED = 1;

/** All items of the shop; the same every time. */
export function demoGoods(): DemoItem[] {
  const random = seeded(SEED);
  let serial = 0;
  return FAMILIES.flatMap((family) => {
    const variants = family.variants ?? [['', ''] as const];
    return variants.map(([name, number], at): DemoItem => {
      serial += 1;
      return {
        number: number
          ? `${family.number}${/[A-Z]$/.test(family.number) ? '-' : ''}${number}`
          : family.number,
        name: name ? `${family.name}, ${name}` : family.name,
        category: family.category,
        tax: family.tax,
        unit: family.unit ?? 'each',
        decimals: family.decimals ?? 0,
        price: family.price === null ? null : family.price + at * (family.step ?? 0),
        stocked: !family.service,
        codes: family.noBarcode ? [] : [barcode(family.category, serial)],
        stock: family.service ? [0, 0, 0] : stockOf(family, random),
      };
    });
  });
}

/** Small goods carry short codes, strings the 12-digit kind, everything else 13 digits. */
function barcode(category: string, serial: number): string {
  if (category === 'Reeds') return ownEan8(serial);
  if (category === 'Strings') return ownUpcA(serial);
  return ownEan13(20, serial);
}

function stockOf({ unit, price }: Family, random: () => number): [number, number, number] {
  if (unit === 'm') return [Math.round(random() * 40) * 1000, Math.round(random() * 20) * 1000, 120_000];
  const usual = (price ?? 0) > 10_000 ? 3 : (price ?? 0) > 3_000 ? 8 : 30;
  const some = (most: number) => Math.floor(random() * (most + 1)) * ONE;
  return [some(usual), some(Math.ceil(usual / 2)), some(usual * 2)];
}
