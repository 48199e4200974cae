/** One item in the till's copy of the catalogue, as a row: it travels a hundred thousand times. */
export type CatalogueRow = [
  id: number,
  number: string,
  name: string,
  category: string,
  price: number | null,
  unit: string,
  decimals: number,
  taxCategoryId: number,
  stock: number | null,
  codes: string[],
];

export interface Catalogue {
  /** Ask for what is newer than this next time. */
  revision: number;
  /** Whether `items` is everything, not only what changed. */
  whole: boolean;
  items: CatalogueRow[];
  /** Items that are no longer sold. */
  removed: number[];
}

/** Everything that a cashier may want to see of an item. */
export interface ItemFacts {
  id: number;
  number: string;
  name: string;
  category: string;
  description: string;
  unit: string;
  price: number | null;
  codes: string[];
  /** Stock by place, this till's place first; empty when the item is not kept in stock. */
  stock: { place: string; here: boolean; quantity: number }[];
  /** Newest first; the first one is the price of today. */
  prices: { price: number | null; changedAt: string }[];
}
