import { object, string, whole, type InferType } from './yup.ts';
import type { ItemMore } from '../core/goods/item.ts';

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
  more?: ItemMore,
];

export interface Catalogue {
  /** Which shop's history the revision belongs to: data that were put back from a backup begin another one. */
  origin: string;
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
  /** Number of its picture, if it has one. */
  picture: number | null;
  /** The family it belongs to, if it is a variant. */
  familyId: number | null;
  minAge: number | null;
  /** Stock by place, this till's place first; empty when the item is not kept in stock. */
  /** What can be sold at each place, and what is there beside it but promised. */
  stock: { place: string; here: boolean; quantity: number; setAside: number }[];
  /** Newest first; the first one is the price of today. */
  prices: { price: number | null; changedAt: string }[];
}

/** A unit with a serial number that is in stock. */
export interface StockedSerial {
  serial: string;
  place: string;
  here: boolean;
}

const code = () =>
  string().trim().required('The code is missing.').max(40, 'A code has at most 40 characters.');

/** Ties a code to an item, so that it means the item from now on. */
export const tieCodeSchema = object({ code: code() });

/** A new item, added at the Counter with the code that nobody knew. */
export const newItemSchema = object({
  code: code(),
  name: string().trim().required('What is it called?').max(120, 'A name has at most 120 characters.'),
  price: whole().min(0, 'A price is not below zero.').required('Type its price.'),
  category: string().trim().required('Which category?').max(60),
  taxCategoryId: whole().required('Which tax?'),
});
export type NewItemAtTill = InferType<typeof newItemSchema>;
