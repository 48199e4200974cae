import { existsSync } from 'node:fs';
import { rename } from 'node:fs/promises';
import { join } from 'node:path';
import type { Settings } from '../settings.ts';

type Place = Pick<Settings, 'dataFolder' | 'databaseUrl'>;

/** The embedded database, below the data folder and in a copy of it. */
export const DB_FOLDER = 'db';

/** Whether there are data where a copy would go. */
export async function copyIsThere({ dataFolder, databaseUrl }: Place): Promise<boolean> {
  if (!databaseUrl) return existsSync(join(dataFolder, DB_FOLDER));
  const { isEmpty } = await import('./postgres/dump.ts');
  return !(await isEmpty(databaseUrl));
}

/** Puts what `Database.copyTo` wrote into a place without data. */
export async function putCopyBack(copy: string, { dataFolder, databaseUrl }: Place): Promise<void> {
  if (!databaseUrl) return rename(join(copy, DB_FOLDER), join(dataFolder, DB_FOLDER));
  const { load } = await import('./postgres/dump.ts');
  await load(databaseUrl, copy);
}
