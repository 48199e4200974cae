import type { Money } from '../money.ts';
import type { Quantity } from '../quantity.ts';

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
}
