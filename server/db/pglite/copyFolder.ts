import { cp, mkdir, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { one, type Reader } from '../database.ts';

const LOG = 'pg_wal';
/** What belongs to the running process and must not be in a copy. */
const NOT_COPIED = /[/\\](postmaster\.pid|postmaster\.opts|pg_wal)$/;

/**
 * Copies the folder of a database that is open and goes on being written: between the two marks its log holds whole
 * pages, so that a copy that is opened goes through the log from the first mark and is right, whatever the files held
 * while they were read. The log must not be cut meanwhile. See PostgreSQL's documentation, "Making a Base Backup
 * Using the Low Level API".
 */
export async function copyFolder(folder: string, target: string, database: Reader): Promise<void> {
  await database.query("select pg_backup_start('mondrel', true)");
  let end: { label: string; last: string };
  try {
    await cp(folder, target, { recursive: true, filter: (path) => !NOT_COPIED.test(path) });
  } finally {
    end = one(
      await database.query<{ label: string; last: string }>(
        'select labelfile as label, pg_walfile_name(lsn) as last from pg_backup_stop(false)',
      ),
    );
  }
  // Of the log, what lies between the marks: files are named in their order.
  const first = /\(file ([\dA-F]+)\)/.exec(end.label)?.[1] ?? '';
  await mkdir(join(target, LOG, 'archive_status'), { recursive: true });
  for (const name of await readdir(join(folder, LOG))) {
    if (/^[\dA-F]{24}$/.test(name) && name >= first && name <= end.last)
      await cp(join(folder, LOG, name), join(target, LOG, name));
  }
  await writeFile(join(target, 'backup_label'), end.label);
}
