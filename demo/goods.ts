import { rateOf } from '../core/rate.ts';
import { ONE } from '../core/quantity.ts';
import { PLAIN_ITEM, type NewItem } from '../server/goods/store.ts';
import { ownEan13, ownEan8, ownUpcA } from './barcodes.ts';
import { axesOf, BUNDLES, DESCRIPTIONS, FAMILIES, type Family } from './data/families.ts';
import { seeded } from './random.ts';

/** An item of the made-up shop, with its category, tax and picture by name. */
export interface DemoItem extends Omit<
  NewItem,
  'categoryId' | 'taxCategoryId' | 'stock' | 'pictureId' | 'serialNumbers'
> {
  category: string;
  tax: Family['tax'];
  /** Quantity in the shop, at the other shop and in the depot. */
  stock: readonly [shop: number, quayside: number, depot: number];
  /** Serial numbers of the units at each place. */
  serialsAt: readonly (readonly string[])[];
}

const SEED = 1;

/** What goods of a category cost the shop, in per cent of their price; most cost the usual part. */
const COSTS: Readonly<Record<string, number>> = {
  Reeds: 52,
  Strings: 55,
  Care: 45,
  Picks: 35,
  Cases: 58,
  'Printed music': 62,
};
const USUAL_COST = 64;

const costOf = ({ category, service }: Family, price: number | null): number | null =>
  price === null || service ? null : rateOf(price, (COSTS[category] ?? USUAL_COST) * 10_000);

/** All items of the shop, families before their variants and bundles last; the same every time. */
export function demoGoods(): DemoItem[] {
  const random = seeded(SEED);
  let serial = 0;
  const goods = FAMILIES.flatMap((family): DemoItem[] => {
    const items = (family.variants ?? [null]).map((variant, at) => {
      serial += 1;
      return itemOf(family, variant, at, serial, random);
    });
    return family.variants ? [familyItem(family), ...items] : items;
  });
  return [...goods, ...BUNDLES.map(bundleItem)];
}

function itemOf(
  family: Family,
  variant: readonly [name: string, number: string] | null,
  at: number,
  serial: number,
  random: () => number,
): DemoItem {
  const number = variant ? numberOf(family, variant[1]) : family.number;
  const price = family.price === null ? null : family.price + at * (family.step ?? 0);
  const stock = family.service ? ([0, 0, 0] as const) : stockOf(family, random);
  const serials = family.serialsFrom !== undefined && (price ?? 0) >= family.serialsFrom;
  return {
    ...PLAIN_ITEM,
    number,
    name: variant ? `${family.name}, ${variant[0]}` : family.name,
    category: family.category,
    tax: family.tax,
    unit: family.unit ?? 'each',
    decimals: family.decimals ?? 0,
    price,
    cost: costOf(family, price),
    stocked: !family.service,
    codes: [
      ...(family.noBarcode ? [] : [barcode(family.category, serial)]),
      ...(family.labelCode ? [family.labelCode] : []),
      ...(family.makerCode && variant ? [`${family.makerCode}${number.replaceAll('-', '')}`] : []),
    ],
    stock,
    serials,
    serialsAt: serials ? stock.map((quantity, place) => serialsOf(number, place, quantity / ONE)) : [],
    minAge: family.minAge ?? null,
    asksNote: family.asksNote ?? '',
    description: DESCRIPTIONS[family.category] ?? '',
    family: variant ? family.number : null,
    variant: variant ? (family.axes?.length === 2 ? variant[0].split(', ') : [variant[0]]) : [],
  };
}

function familyItem(family: Family): DemoItem {
  return {
    ...PLAIN_ITEM,
    kind: 'family',
    number: family.number,
    name: family.name,
    category: family.category,
    tax: family.tax,
    price: null,
    stocked: false,
    stock: [0, 0, 0],
    serialsAt: [],
    description: DESCRIPTIONS[family.category] ?? '',
    axes: axesOf(family),
  };
}

function bundleItem({ number, name, parts }: (typeof BUNDLES)[number], at: number): DemoItem {
  return {
    ...PLAIN_ITEM,
    kind: 'bundle',
    number,
    name,
    category: 'Bundles',
    tax: 'general',
    price: null,
    stocked: false,
    stock: [0, 0, 0],
    serialsAt: [],
    codes: [ownEan13(22, at + 1)],
    parts: parts.map(([part, count]) => ({ number: part, quantity: count * ONE })),
  };
}

const numberOf = ({ number }: Family, variant: string) =>
  `${number}${/[A-Z]$/.test(number) ? '-' : ''}${variant}`;

const serialsOf = (number: string, place: number, count: number) =>
  Array.from(
    { length: count },
    (_, at) => `${number.replaceAll('-', '')}${place + 1}${String(at + 1).padStart(3, '0')}`,
  );

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
