import { approvalSchema } from './staff.ts';
import { array, boolean, object, safe, string, whole, type InferType } from './yup.ts';

export const newCountSchema = object({
  placeId: whole().required('Where?'),
  words: string().trim().max(80, 'At most 80 characters.').default(''),
  everything: boolean().default(false),
  categories: array().of(whole().required()).max(500).default([]),
  suppliers: array().of(whole().required()).max(500).default([]),
  blind: boolean().default(true),
});
export type WantedCount = InferType<typeof newCountSchema>;

/** What was counted: by a code, a number or a serial number, or of a known item. */
export const countEntrySchema = object({
  code: string().trim().max(120, 'At most 120 characters.').default(''),
  itemId: whole().nullable().default(null),
  quantity: safe().min(0, 'Zero or more.').max(1_000_000_000, 'That is too much.').required('How many?'),
  serial: string().trim().max(40, 'At most 40 characters.').default(''),
});
export type WantedEntry = InferType<typeof countEntrySchema>;

export const countItemsSchema = object({
  items: array().of(whole().required()).min(1, 'Which?').max(200, 'At most 200 at once.').required(),
});

export interface CountRow {
  id: number;
  number: number;
  place: string;
  words: string;
  state: 'open' | 'booked' | 'cancelled';
  blind: boolean;
  begunAt: string;
  begunBy: string;
  endedAt: string | null;
  /** Items that were counted, and that are to be; the latter only where the goods were named. */
  counted: number;
  toCount: number | null;
  /** What the books were corrected by when it was booked; null for those who see no costs. */
  cost: number | null;
}

export interface CountsPage {
  counts: CountRow[];
  /** How many fit, on all pages. */
  count: number;
  places: { id: number; name: string; here: boolean }[];
  categories: { id: number; name: string }[];
  suppliers: { id: number; name: string }[];
}

/** An entry as it is told to whoever counts. */
export interface EntryView {
  id: number;
  itemId: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  serials: boolean;
  quantity: number;
  serial: string | null;
  at: string;
  who: string;
  /** All that was counted of the item. */
  counted: number;
  /** What the books say; null where it is counted blind. */
  expected: number | null;
}

export interface CountPage extends CountRow {
  placeId: number;
  /** The last entries, newest first. */
  entries: EntryView[];
}

export interface CountDifference {
  itemId: number;
  number: string;
  name: string;
  unit: string;
  counted: number;
  expected: number;
  difference: number;
  /** Units that are missing, and that the books do not know, by their serial numbers. */
  missing: string[];
  extra: string[];
  /** What the difference is worth; null for those who see no costs. */
  cost: number | null;
  /** It moved while it was counted. */
  moved: boolean;
  who: string;
}

/** Booking what a count found; above the limit of a role with what somebody approved. */
export const bookCountSchema = object({ approval: approvalSchema });

export interface CountDifferences {
  differences: CountDifference[];
  /** Counted just as the books say. */
  right: number;
  /** What is to be counted, or is in the books here, and was not. */
  notCounted: { itemId: number; number: string; name: string; unit: string; expected: number }[];
  /** What is booked in all; null for those who see no costs. */
  cost: number | null;
}
