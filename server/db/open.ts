import type { Settings } from '../settings.ts';
import type { Database } from './database.ts';
import { migrate } from './migrate.ts';
import { openPglite } from './pglite/engine.ts';

/**
 * Opens the database that the settings name, up to date.
 * @param onStep told in words what is being done when it takes long
 * @param onBroken told when nothing can be stored any more
 */
export async function openDatabase(
  settings: Settings,
  onStep: (what: string) => void,
  onBroken: (message: string) => void,
): Promise<Database> {
  const prepare = (database: Database) =>
    migrate(database, (name) => onStep(`Preparing the database: ${name}`));
  if (!settings.databaseUrl) return openPglite({ folder: settings.dataFolder, prepare, onBroken });
  const { openPostgres } = await import('./postgres/engine.ts');
  return openPostgres({ url: settings.databaseUrl, prepare, onBroken });
}
