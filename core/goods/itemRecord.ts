import { formatMoney, type Money } from '../money.ts';
import { formatQuantity, type Quantity } from '../quantity.ts';
import { changesBetween, type FactsInWords, type RecordChange } from '../recordChange.ts';
import { fold, wordsOf } from '../words.ts';
import type { ItemKind } from './item.ts';

/** What the shop knows of an item, as it is typed. */
export interface ItemRecord {
  number: string;
  name: string;
  category: string;
  description: string;
  /** What one unit is called: `each`, `m`, `kg`. */
  unit: string;
  /** How many decimals a quantity may have. */
  decimals: number;
  /** Of one unit; `null` asks for it at the Counter. */
  price: Money | null;
  /** Lower prices for groups of customers. */
  groupPrices: readonly { group: string; price: Money }[];
  /** What one unit costs the shop, where it is known. */
  cost: Money | null;
  taxCategoryId: number;
  stocked: boolean;
  /** Each unit has a serial number. */
  serials: boolean;
  minAge: number | null;
  /** A question whose answer goes on the line as a note. */
  asksNote: string;
  /** In grams, where it is known. */
  weight: number | null;
  tags: readonly string[];
  codes: readonly string[];
  /** Whether it is sold; what is not any more stays in the books. */
  active: boolean;
}

export const MOST_ITEM_TAGS = 12;
export const MOST_CODES = 20;

/** An item of which nothing is known yet. */
export const NEW_ITEM: Omit<ItemRecord, 'taxCategoryId'> = {
  number: '',
  name: '',
  category: '',
  description: '',
  unit: 'each',
  decimals: 0,
  price: null,
  groupPrices: [],
  cost: null,
  stocked: true,
  serials: false,
  minAge: null,
  asksNote: '',
  weight: null,
  tags: [],
  codes: [],
  active: true,
};

/** What else of an item says how it may be changed. */
export interface ItemState {
  kind: ItemKind;
  /** Whether any of it ever moved, or units with serial numbers are known: how it is counted stands then. */
  moved: boolean;
  /** What is on hand or set aside anywhere. */
  onHand: boolean;
}

/** Words by which an item is found in the list: with a space before each, so that their beginnings are. */
export const itemWords = ({
  number,
  name,
  category,
  tags,
  codes,
}: Pick<ItemRecord, 'number' | 'name' | 'category' | 'tags' | 'codes'>): string =>
  ` ${[...new Set([fold(number), ...wordsOf([name, number, category, ...tags].join(' ')), ...codes.map(fold)])].join(' ')}`;

/**
 * What keeps a change of an item from being made, by the field that it stands next to.
 * @param before `null` for a new item
 */
export function itemProblems(
  record: ItemRecord,
  before: ItemRecord | null,
  { kind, moved, onHand }: ItemState,
): Partial<Record<keyof ItemRecord, string>> {
  const problems: Partial<Record<keyof ItemRecord, string>> = {};
  const counted = 'It has moved already: how it is counted stands.';
  if (moved && before?.unit !== record.unit) problems.unit = counted;
  if (moved && before?.decimals !== record.decimals) problems.decimals = counted;
  if (moved && before?.serials !== record.serials) problems.serials = counted;
  if (before?.stocked && !record.stocked && onHand)
    problems.stocked = 'There is stock of it: take that out first.';
  if (record.serials && record.decimals > 0) problems.decimals = 'A serial number belongs to one whole unit.';
  if (record.serials && !record.stocked) problems.serials = 'Units with serial numbers are kept in stock.';
  if (kind !== 'goods') {
    const itself = kind === 'family' ? 'A family' : 'A bundle';
    if (record.price !== null) problems.price = `${itself} has no price of its own.`;
    if (record.stocked) problems.stocked = `${itself} is not kept in stock itself.`;
  }
  if (record.groupPrices.length > 0 && record.price === null)
    problems.groupPrices = 'Without a price of its own there is none for groups.';
  return problems;
}

/** How facts that are numbers are said. */
export interface ItemNames {
  digits: number;
  tax(id: number): string;
}

const inWords = (record: ItemRecord, { digits, tax }: ItemNames): FactsInWords => {
  const money = (amount: Money | null) => (amount === null ? '' : formatMoney(amount, digits));
  const yes = (is: boolean) => (is ? 'yes' : 'no');
  return [
    ['Name', record.name],
    ['Number', record.number],
    ['Category', record.category],
    ['Description', record.description],
    ['Price', record.price === null ? 'asked for' : money(record.price)],
    ['Group prices', record.groupPrices.map(({ group, price }) => `${group} ${money(price)}`).join(', ')],
    ['Cost', money(record.cost)],
    ['Tax', tax(record.taxCategoryId)],
    ['Unit', record.unit],
    ['Decimals', String(record.decimals)],
    ['Kept in stock', yes(record.stocked)],
    ['Serial numbers', yes(record.serials)],
    ['Sold from years', record.minAge === null ? '' : String(record.minAge)],
    ['Question', record.asksNote],
    ['Weight', record.weight === null ? '' : `${record.weight} g`],
    ['Tags', record.tags.join(', ')],
    ['Codes', record.codes.join(', ')],
    ['Sold', yes(record.active)],
  ];
};

/** What differs between two states of an item, in the order of the page. */
export const itemChanges = (before: ItemRecord, after: ItemRecord, names: ItemNames): RecordChange[] =>
  changesBetween(inWords(before, names), inWords(after, names));

/** A quantity with its unit: `2.5 m`, or `3` where units are just counted. */
export const quantityWords = (quantity: Quantity, unit: string): string =>
  `${formatQuantity(quantity)}${unit === 'each' ? '' : ` ${unit}`}`;
