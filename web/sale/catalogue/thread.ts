import { transferHandlers, wrap, type TransferHandler } from 'comlink';
import { Unreachable } from '../../net/problem.ts';
import type { CatalogueThread } from './worker.ts';

// An error comes out of the thread as a plain one: that the server is away is said as everywhere, and asked again.
const thrown = transferHandlers.get('throw') as TransferHandler<unknown, unknown>;
transferHandlers.set('throw', {
  ...thrown,
  deserialize(value) {
    try {
      return thrown.deserialize(value);
    } catch (error) {
      throw error instanceof Error && error.name === 'Unreachable' ? new Unreachable(false) : error;
    }
  },
});

/** The catalogue in its own thread; every call answers with a promise. @throws Unreachable */
export const catalogue = wrap<CatalogueThread>(
  new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'catalogue' }),
);
