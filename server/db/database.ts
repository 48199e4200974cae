/** A row as SQL gives it: bigint as number, numeric, date and timestamps as text, json as values. */
export type Row = Record<string, unknown>;

/** What a statement takes: JSON goes in as text made by `JSON.stringify`. */
export type Parameter = string | number | boolean | null | readonly string[] | readonly number[];

type Asking = <T extends object = Row>(sql: string, parameters?: readonly Parameter[]) => Promise<T[]>;

/** Runs statements inside something that has been begun. */
export interface Reader {
  /** Its plan is made once and kept, whatever the parameters are. */
  query: Asking;
  /**
   * What was typed or chosen is looked for: planned for just that, for it may fit one row or half of a table. Takes
   * a few milliseconds more than a plan that is there.
   */
  search: Asking;
  /** Whether everybody's statements come one after the other: what takes long is asked in pieces then. */
  readonly oneByOne: boolean;
}

/** How the engines are told to plan. */
export const PLANS = { kept: 'plan_cache_mode=force_generic_plan', own: 'plan_cache_mode=force_custom_plan' };

declare const writes: unique symbol;

/** A transaction: what it does happens whole or not at all. Only `Database.write` hands one out. */
export interface Writer extends Reader {
  readonly [writes]: true;
}

/**
 * The database, whichever engine is behind it. It has no `query` of its own: statements need the handle that
 * `read` or `write` passes on, so that nothing can wait for the database inside its own transaction.
 */
export interface Database {
  readonly engine: 'pglite' | 'postgres';
  /** Single statements, each for itself. */
  ask<T>(work: (reader: Reader) => Promise<T>): Promise<T>;
  /** One transaction; an error in `work` undoes it and is thrown on. */
  write<T>(work: (writer: Writer) => Promise<T>): Promise<T>;
  /** Several statements without parameters, as a migration file holds them, in one transaction. */
  script(sql: string): Promise<void>;
  /** Writes a copy of everything, as it is at one moment, into an empty folder, while others go on writing. */
  copyTo(folder: string): Promise<void>;
  close(): Promise<void>;
}

/** Thrown when another process works with the same data. */
export class InUseError extends Error {}

/** Thrown when code asks for the database inside a transaction instead of using the transaction's handle. */
export class NestedUseError extends Error {
  constructor() {
    super('the database was asked inside its own transaction: pass the transaction on');
  }
}

/** The SQLSTATE of a database error, if it is one. */
export function sqlState(error: unknown): string | undefined {
  if (typeof error !== 'object' || error === null || !('code' in error)) return undefined;
  return typeof error.code === 'string' ? error.code : undefined;
}

/** SQLSTATEs that the migrations raise themselves. */
export const RAISED = {
  history: 'MH001',
  unbalanced: 'MH002',
  noOpenDrawer: 'MH003',
  serialGone: 'MH004',
  offerUsedUp: 'MH005',
  numberTaken: 'MH006',
  paymentChanged: 'MH007',
  returnedMeanwhile: 'MH008',
  cannotVoid: 'MH009',
  refused: 'MH010',
  promiseChanged: 'MH011',
} as const;

/** The one row of a result. @throws Error when there is none */
export function one<T>(rows: readonly T[]): T {
  const row = rows[0];
  if (row === undefined) throw new Error('the query found no row');
  return row;
}

/** Reads a bigint as a number. @throws RangeError when it is not exact */
export function parseInt8(text: string): number {
  const value = Number(text);
  if (!Number.isSafeInteger(value)) throw new RangeError(`${text} is too large`);
  return value;
}

/** Types whose text is passed on as it is: numeric, date, timestamp, timestamptz. */
export const TEXT_TYPES = [1700, 1082, 1114, 1184] as const;

export const INT8 = 20;
