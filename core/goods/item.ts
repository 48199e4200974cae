import type { Money } from '../money.ts';
import type { Quantity } from '../quantity.ts';

/**
 * What an entry of the catalogue is: `goods` are sold; a `family` asks which of its variants; a `bundle` rings up
 * its parts.
 */
export type ItemKind = 'goods' | 'family' | 'bundle';

/** An item as the till knows it. */
export interface Item {
  id: number;
  /** The item number, unique in the shop. */
  number: string;
  name: string;
  category: string;
  /** Price of one unit; `null` asks for it. */
  price: Money | null;
  /** What one unit is called: `each`, `m`, `kg`. */
  unit: string;
  /** How many decimals a quantity may have. */
  decimals: number;
  taxCategoryId: number;
  /** Canonical barcodes and other codes that mean this item. */
  codes: string[];
  /** Stock at this till's place; `null` when the item is not kept in stock. */
  stock: Quantity | null;
  /** What only some items have. */
  more?: ItemMore | undefined;
}

export interface ItemMore {
  kind?: ItemKind;
  /** Of a family: what its variants differ in, e.g. size and colour. */
  axes?: string[];
  /** Of a variant: its family, and its value on each axis. */
  familyId?: number;
  variant?: string[];
  /** Of a bundle: what it is made of. */
  parts?: BundlePart[];
  /** Each unit has a serial number, which is recorded. */
  serials?: boolean;
  /** How old a customer must be. */
  minAge?: number;
  /** A question whose answer goes on the line as a note. */
  asksNote?: string;
  /** Number of its picture. */
  picture?: number;
}

export interface BundlePart {
  itemId: number;
  quantity: Quantity;
}

export const kindOf = ({ more }: Pick<Item, 'more'>): ItemKind => more?.kind ?? 'goods';
