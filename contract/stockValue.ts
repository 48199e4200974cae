import { dayOrNothing, object, type InferType } from './yup.ts';

/** What stock was worth at the end of a day of the shop's clock; without one, now. */
export const stockValueSchema = object({ day: dayOrNothing().default('') });
export type StockValueQuery = InferType<typeof stockValueSchema>;

export interface StockValue {
  /** By category, dearest first; each with what it is worth at each place, in the order of the places. */
  categories: { name: string; values: number[]; value: number }[];
  /** What all of it is worth at each place, and what the books said of that. */
  places: { id: number; name: string; value: number; books: number }[];
  value: number;
  books: number;
}
