import anyAscii from 'any-ascii';
import { writeOtherScripts } from '../../core/words.ts';
import type { Settings } from '../settings.ts';
import type { Database } from './database.ts';
import { migrate, type BeforeMigrating } from './migrate.ts';
import { openPglite } from './pglite/engine.ts';

// What is kept is found by plain letters, in whatever script it is written.
writeOtherScripts(anyAscii);

/**
 * Opens the database that the settings name, up to date.
 * @param onStep told in words what is being done when it takes long
 * @param onBroken told when nothing can be stored any more
 * @param beforeMigrating done before data of an earlier version are changed; `null` for a copy that nobody needs
 * afterwards
 */
export async function openDatabase(
  settings: Pick<Settings, 'dataFolder' | 'databaseUrl'>,
  onStep: (what: string) => void,
  onBroken: (message: string) => void,
  beforeMigrating: BeforeMigrating | null,
): Promise<Database> {
  const prepare = (database: Database) =>
    migrate(database, (name) => onStep(`Preparing the database: ${name}`), beforeMigrating);
  if (!settings.databaseUrl) return openPglite({ folder: settings.dataFolder, prepare, onBroken });
  const { openPostgres } = await import('./postgres/engine.ts');
  return openPostgres({ url: settings.databaseUrl, prepare, onBroken });
}
