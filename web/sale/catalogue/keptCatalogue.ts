import { createStore, get, set } from 'idb-keyval';
import type { Catalogue } from '../../../contract/goods.ts';

/** A copy of the catalogue that the browser keeps between starts: only what has changed since is read again. */
export type KeptCatalogue = Pick<Catalogue, 'origin' | 'revision' | 'items'>;

const store = createStore('mondrel', 'catalogue');

/** Rows of another shape are no use to this version. */
const FORMAT = 1;
const keyOf = (placeId: number) => `${placeId}.${FORMAT}`;

/** @returns nothing where there is none, or where the browser keeps nothing */
export const recallCatalogue = (placeId: number): Promise<KeptCatalogue | undefined> =>
  get<KeptCatalogue>(keyOf(placeId), store).catch(() => undefined);

/** Keeps a copy; a browser that has no room for it reads everything at the next start. */
export const keepCatalogue = (placeId: number, { origin, revision, items }: KeptCatalogue): Promise<void> =>
  set(keyOf(placeId), { origin, revision, items }, store).catch(() => {});
