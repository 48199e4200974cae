import { openPglite } from '../db/pglite/engine.ts';
import { openPostgres } from '../db/postgres/engine.ts';
import { readSettings } from '../settings.ts';

/** Tries to open data that another process works on, and says what happened. */
export async function tryToOpen(): Promise<void> {
  const { dataFolder: folder, databaseUrl: url } = readSettings(process.env);
  const common = { prepare: async () => {}, onBroken: () => {} };
  try {
    await (url ? openPostgres({ url, ...common }) : openPglite({ folder, ...common }));
    console.log('opened');
    process.exit(0);
  } catch (error) {
    console.log(error instanceof Error ? error.message : error);
  }
}
