import type { Money } from '../money.ts';
import { formatQuantity, ONE, type Quantity } from '../quantity.ts';
import { changesBetween, type RecordChange } from '../recordChange.ts';

/** From whom an item is ordered: the first of its suppliers. */
export interface ItemSource {
  supplier: string;
  /** Its number with them. */
  number: string;
  cost: Money | null;
  pack: Quantity;
  least: Quantity;
}

/** What a list says of an item besides its record: its family, and from whom it comes. */
export interface ItemBeside {
  /** Of a family: what its variants differ in. */
  axes: readonly string[];
  /** Of a variant: the number of its family, and its value on each axis. */
  family: string;
  variant: readonly string[];
  source: ItemSource | null;
}

export const NOTHING_BESIDE: ItemBeside = { axes: [], family: '', variant: [], source: null };
export const NEW_SOURCE: ItemSource = { supplier: '', number: '', cost: null, pack: ONE, least: 0 };

/** What differs between two suppliers of an item, in words. @param money how an amount is said */
export const sourceChanges = (
  before: ItemSource | null,
  after: ItemSource | null,
  money: (amount: Money) => string,
): RecordChange[] => {
  const inWords = (source: ItemSource | null): [string, string][] => [
    ['Supplier', source?.supplier ?? ''],
    ['Number there', source?.number ?? ''],
    ['Cost there', source?.cost == null ? '' : money(source.cost)],
    ['Pack', source ? formatQuantity(source.pack) : ''],
    ['Least order', source ? formatQuantity(source.least) : ''],
  ];
  return changesBetween(inWords(before), inWords(after));
};
