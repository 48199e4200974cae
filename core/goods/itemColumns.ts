import type { Money } from '../money.ts';
import { formatQuantity, parseQuantity, type Quantity } from '../quantity.ts';
import { fold } from '../words.ts';
import { readBarcode } from './barcode.ts';
import { NEW_SOURCE, type ItemBeside, type ItemSource } from './itemBeside.ts';
import { NEW_ITEM, type ItemRecord } from './itemRecord.ts';

/** What a list of goods has a column for, with its heading first and what else it may be called. */
const NAMES = {
  number: ['Number', 'item number', 'article', 'article number', 'sku'],
  name: ['Name', 'item', 'title'],
  category: ['Category', 'group of goods', 'department'],
  price: ['Price', 'retail price', 'sales price'],
  tax: ['Tax', 'tax category', 'vat'],
  codes: ['Codes', 'code', 'barcode', 'barcodes', 'ean', 'upc'],
  cost: ['Cost', 'purchase price', 'costs the shop'],
  description: ['Description'],
  unit: ['Unit'],
  decimals: ['Decimals'],
  stocked: ['Kept in stock', 'stocked'],
  serials: ['Serial numbers'],
  minAge: ['Sold from years', 'minimum age'],
  asksNote: ['Question'],
  weight: ['Weight', 'weight in grams'],
  tags: ['Tags', 'tag'],
  active: ['Sold', 'active'],
  axes: ['Differs in', 'axes'],
  family: ['Family'],
  variant: ['Variant', 'values'],
  supplier: ['Supplier'],
  theirNumber: ['Number there', "supplier's number"],
  theirCost: ['Cost there'],
  pack: ['Pack'],
  least: ['Least order'],
  stock: ['On hand', 'stock', 'quantity'],
} as const;

export type ItemColumn = keyof typeof NAMES;

/** The columns of a list of goods, with their headings. */
export const itemColumns = (): { column: ItemColumn; heading: string }[] =>
  Object.entries(NAMES).map(([column, [heading]]) => ({ column: column as ItemColumn, heading }));

/** What a heading names; `null` where it names nothing that can be imported. */
export function itemColumnOf(heading: string): ItemColumn | null {
  const plain = fold(heading).trim();
  const found = Object.entries(NAMES).find(([, names]) => names.some((name) => fold(name) === plain));
  return found ? (found[0] as ItemColumn) : null;
}

/** What else a list of goods is read and written by. */
export interface ItemListPlace {
  digits: number;
  /** Tax categories by name, in small letters, and by number. */
  taxIds: ReadonlyMap<string, number>;
  taxNames: ReadonlyMap<number, string>;
}

const yesNo = (is: boolean): string => (is ? 'yes' : 'no');
const plainMoney = (amount: Money | null, digits: number): string =>
  amount === null
    ? ''
    : digits === 0
      ? String(amount)
      : `${Math.floor(amount / 10 ** digits)}.${String(amount % 10 ** digits).padStart(digits, '0')}`;

/** An item as the cells of a list. */
export function itemCells(
  record: ItemRecord,
  { axes, family, variant, source }: ItemBeside,
  { digits, taxNames }: ItemListPlace,
): Record<Exclude<ItemColumn, 'stock'>, string> {
  return {
    axes: axes.join('; '),
    family,
    variant: variant.join('; '),
    supplier: source?.supplier ?? '',
    theirNumber: source?.number ?? '',
    theirCost: plainMoney(source?.cost ?? null, digits),
    pack: source ? formatQuantity(source.pack) : '',
    least: source ? formatQuantity(source.least) : '',
    number: record.number,
    name: record.name,
    category: record.category,
    price: plainMoney(record.price, digits),
    tax: taxNames.get(record.taxCategoryId) ?? '',
    codes: record.codes.join('; '),
    cost: plainMoney(record.cost, digits),
    description: record.description,
    unit: record.unit,
    decimals: String(record.decimals),
    stocked: yesNo(record.stocked),
    serials: yesNo(record.serials),
    minAge: record.minAge === null ? '' : String(record.minAge),
    asksNote: record.asksNote,
    weight: record.weight === null ? '' : String(record.weight),
    tags: record.tags.join('; '),
    active: yesNo(record.active),
  };
}

/** What a line of a list says of an item. */
export interface ReadItem {
  record: ItemRecord;
  beside: ItemBeside;
  /** On hand of a new item. */
  stock: Quantity;
  /** What cannot be read, in words. */
  wrong: string[];
}

/** An amount as lists have it, without marks for thousands: `12`, `12.5`, `12,50`. @returns `null` where it is none */
function readAmount(cell: string, digits: number): Money | null {
  const [, whole = '', part = ''] = /^(\d+)(?:[.,](\d*))?$/.exec(cell) ?? [];
  if (whole === '' || part.replace(/0+$/, '').length > digits) return null;
  const amount = Number(whole + part.slice(0, digits).padEnd(digits, '0'));
  return Number.isSafeInteger(amount) ? amount : null;
}

const several = (cell: string): string[] => [
  ...new Set(
    cell
      .split(';')
      .map((one) => one.trim())
      .filter(Boolean),
  ),
];
const isYes = (cell: string) => /^(yes|y|true|1|x|ja|oui|si)$/i.test(fold(cell).trim());

/**
 * An item as a line of a list has it. What there is no column for stays as it was; an empty cell takes away what
 * stood there, but for what an item cannot be without.
 * @param before as it is known; `null` for a new one
 */
export function lineToItem(
  cells: Partial<Record<ItemColumn, string>>,
  before: ItemRecord | null,
  besideBefore: ItemBeside,
  { digits, taxIds }: ItemListPlace,
): ReadItem {
  const wrong: string[] = [];
  const axes = several(cells.axes ?? '');
  const was: ItemRecord = before ?? {
    ...NEW_ITEM,
    // A family is not kept in stock itself.
    stocked: axes.length === 0,
    taxCategoryId: [...taxIds.values()][0] ?? 0,
  };
  const text = (column: ItemColumn, from: string) => (cells[column] ?? from).trim();
  /** What an item cannot be without stays where its cell is empty. */
  const kept = (column: ItemColumn, from: string) => text(column, from) || from;
  const amount = (column: 'price' | 'cost', from: Money | null): Money | null => {
    const cell = cells[column]?.trim();
    if (cell === undefined) return from;
    if (cell === '') return null;
    const read = readAmount(cell, digits);
    if (read === null) wrong.push(`“${cell}” is no ${column === 'price' ? 'price' : 'cost'}.`);
    return read ?? from;
  };
  const count = <From extends number | null>(column: ItemColumn, empty: From, from: From): From | number => {
    const cell = cells[column]?.trim();
    if (cell === undefined) return from;
    if (cell === '') return empty;
    if (/^\d{1,9}$/.test(cell)) return Number(cell);
    wrong.push(`“${cell}” is no number (${NAMES[column][0]}).`);
    return from;
  };
  const flag = (column: ItemColumn, from: boolean) => {
    const cell = cells[column]?.trim();
    return cell === undefined || cell === '' ? from : isYes(cell);
  };
  const tax = cells.tax?.trim();
  const taxId = tax ? taxIds.get(tax.toLowerCase()) : was.taxCategoryId;
  if (taxId === undefined) wrong.push(`There is no tax “${tax ?? ''}”.`);
  const decimals = count('decimals', 0, was.decimals);
  const codes =
    cells.codes === undefined
      ? [...was.codes]
      : [...new Set(several(cells.codes).map((code) => readBarcode(code)[0]?.canonical ?? code))].toSorted();
  const onHand = cells.stock?.trim() ?? '';
  const stock = onHand === '' ? 0 : parseQuantity(onHand, decimals);
  if (before === null && (stock === null || stock < 0)) wrong.push(`“${onHand}” is no quantity.`);
  return {
    record: {
      number: (kept('number', was.number) || (codes[0] ?? '')).toUpperCase(),
      name: kept('name', was.name),
      category: kept('category', was.category),
      description: text('description', was.description),
      unit: kept('unit', was.unit),
      decimals,
      price: amount('price', was.price),
      groupPrices: was.groupPrices,
      cost: amount('cost', was.cost),
      taxCategoryId: taxId ?? was.taxCategoryId,
      stocked: flag('stocked', was.stocked),
      serials: flag('serials', was.serials),
      minAge: count('minAge', null, was.minAge),
      asksNote: text('asksNote', was.asksNote),
      weight: count('weight', null, was.weight),
      tags: cells.tags === undefined ? [...was.tags] : several(cells.tags).toSorted(),
      codes,
      active: flag('active', was.active),
    },
    beside: {
      // What an item is of a family is said once: an empty cell takes nothing away.
      axes: axes.length > 0 ? axes : besideBefore.axes,
      family: (cells.family?.trim().toUpperCase() ?? '') || besideBefore.family,
      variant: cells.variant?.trim() ? several(cells.variant) : besideBefore.variant,
      source: lineToSource(cells, besideBefore.source, digits, wrong),
    },
    stock: stock ?? 0,
    wrong,
  };
}

/** From whom an item comes, as a line has it; without a supplier there, it comes as it did. */
function lineToSource(
  cells: Partial<Record<ItemColumn, string>>,
  before: ItemSource | null,
  digits: number,
  wrong: string[],
): ItemSource | null {
  const supplier = cells.supplier?.trim() ?? '';
  const theirs = [cells.theirNumber, cells.theirCost, cells.pack, cells.least];
  if (supplier === '' && before === null && theirs.some((cell) => cell?.trim()))
    wrong.push('From which supplier?');
  if (supplier === '' && before === null) return null;
  const same = supplier === '' || fold(supplier) === fold(before?.supplier ?? '');
  const was: ItemSource = (same ? before : null) ?? { ...NEW_SOURCE, supplier };
  const quantity = (column: 'pack' | 'least', from: Quantity, least: Quantity): Quantity => {
    const cell = cells[column]?.trim();
    if (!cell) return from;
    const read = parseQuantity(cell);
    if (read !== null && read >= least) return read;
    wrong.push(`“${cell}” is no quantity (${NAMES[column][0]}).`);
    return from;
  };
  const cost = cells.theirCost?.trim();
  const amount = cost ? readAmount(cost, digits) : null;
  if (cost && amount === null) wrong.push(`“${cost}” is no cost (${NAMES.theirCost[0]}).`);
  return {
    supplier: was.supplier,
    number: cells.theirNumber === undefined ? was.number : cells.theirNumber.trim(),
    cost: cost === undefined ? was.cost : amount,
    pack: quantity('pack', was.pack, 1),
    least: quantity('least', was.least, 0),
  };
}
