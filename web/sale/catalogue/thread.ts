import { wrap } from 'comlink';
import type { CatalogueThread } from './worker.ts';

/** The catalogue in its own thread; every call answers with a promise. */
export const catalogue = wrap<CatalogueThread>(
  new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'catalogue' }),
);
