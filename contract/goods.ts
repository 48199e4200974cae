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
