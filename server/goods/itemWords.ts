import type { Database } from '../db/database.ts';
import { makeWords } from './recordStore.ts';

const PART = 5_000;

/**
 * Words by which the list of goods finds an item are kept beside it: those that have none yet get them, part by part.
 */
export async function makeItemWords(database: Database): Promise<void> {
  for (;;) {
    const made = await database.write((sql) => makeWords(sql, PART));
    if (made < PART) return;
  }
}
