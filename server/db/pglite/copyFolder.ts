import { cp, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { one, type Reader } from '../database.ts';

const LOG = 'pg_wal';
/** What belongs to the running process and must not be in a copy. */
const NOT_COPIED = /[/\\](postmaster\.pid|postmaster\.opts|pg_wal)$/;

/**
 * Copies the folder of a database that is open and goes on being written: between the two marks its log holds whole pages,
 * so that a copy that is opened goes through the log from the first mark and is right, whatever the files held while they
 * were read. The log must not be cut meanwhile. See PostgreSQL's documentation, "Making a Base Backup Using the Low Level API".
 */
export async function copyFolder(folder: string, target: string, database: Reader): Promise<void> {
  await database.query("select pg_backup_start('mondrel', true)");
  let label: string | undefined;
  try {
    await cp(folder, target, { recursive: true, filter: (path) => !NOT_COPIED.test(path) });
  } finally {
    label = one(
      await database.query<{ labelfile: string }>('select labelfile from pg_backup_stop(false)'),
    ).labelfile;
  }
  await rm(join(target, LOG), { recursive: true, force: true });
  await cp(join(folder, LOG), join(target, LOG), { recursive: true });
  await writeFile(join(target, 'backup_label'), label);
}
