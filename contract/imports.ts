import { array, boolean, object, string } from './yup.ts';

/** Which column of the list is what; `null` for those that are passed over. */
export const importColumnsSchema = object({
  columns: array().of(string().max(60).nullable().defined()).max(200).required(),
});

export const acceptImportSchema = object({
  /** Whether those are created as well who are likely known already. */
  doubles: boolean().required(),
});

export const IMPORT_OUTCOMES = ['new', 'changed', 'same', 'double', 'refused'] as const;
export type ImportOutcome = (typeof IMPORT_OUTCOMES)[number];

/** What a list is of. */
export type ImportSubject = 'customers' | 'goods';

/** How far a list is on its way into the shop. */
export interface ImportView {
  id: string;
  subject: ImportSubject;
  name: string;
  at: string;
  who: string;
  /** It is being looked through, waits to be accepted, is being written, is in; or was put away, or cannot be read. */
  state: 'reading' | 'ready' | 'writing' | 'done' | 'dropped' | 'unreadable';
  headings: string[];
  columns: (string | null)[];
  /** The first lines of the list, as they stand. */
  examples: string[][];
  rows: number;
  /** How many lines have been looked through, or written. */
  looked: number;
  written: number;
  counts: Record<ImportOutcome, number>;
  /** Why it cannot be read. */
  words: string;
}

/** A line of a list, and what becomes of it. */
export interface ImportLine {
  line: number;
  outcome: ImportOutcome;
  name: string;
  /** What changes, who they may be, or why it is refused. */
  words: string;
  /** The customer or the item that it is about, where they are known. */
  knownId: number | null;
}
