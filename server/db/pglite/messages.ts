import type { Parameter } from '../database.ts';

/** What the thread that owns the folder is started with. */
export interface WorkerData {
  folder: string;
  /** PostgreSQL's `shared_buffers`, e.g. `128MB`. */
  sharedBuffers: string;
}

export type Question = { id: number } & (
  | { ask: 'query' | 'search'; sql: string; parameters: readonly Parameter[] }
  | { ask: 'script'; sql: string }
  | { ask: 'close' }
);

export type Answer = { to: number } & ({ result: unknown } | { error: { message: string; code?: string } });

/** The folder is open, or it cannot be used (any more). */
export type Opened = { open: true } | { broken: string };
