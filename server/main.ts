import { logRejections } from './rejections.ts';
import { readSettings } from './settings.ts';
import { serve, type ServeOptions, type Serving } from './serve.ts';

export { verifyShop } from './verifyShop.ts';
export { serve } from './serve.ts';
export { CannotRestore, makeBackup, checkBackup, restoreBackup } from './backups/archive.ts';
export { backUpBeforeMigrating } from './backups/backups.ts';
export { InUseError } from './db/database.ts';
export { openDatabase } from './db/open.ts';
export { readSettings } from './settings.ts';

/**
 * Serves until the process is told to stop. SIGTERM and SIGINT stop it cleanly.
 * @param defaultFolder where data goes unless MONDREL_DATA says otherwise
 */
export async function run(defaultFolder: string, options: ServeOptions): Promise<Serving> {
  // What the shop keeps is read by the application only.
  process.umask(0o077);
  const serving = await serve(readSettings(process.env, defaultFolder), options);
  logRejections(serving.house.log);
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    void serving.stop().then(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  return serving;
}
