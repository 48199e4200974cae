import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { chmod, cp, mkdir, mkdtemp, open, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { create, extract } from 'tar';
import type { Database } from '../db/database.ts';
import { openDatabase } from '../db/open.ts';
import { copyIsThere, putCopyBack } from '../db/copy.ts';
import { databaseBeside } from '../db/postgres/beside.ts';
import { verify } from '../books/verify.ts';
import type { Difference } from '../books/verify.ts';
import type { Settings } from '../settings.ts';

/** What a backup says of itself. */
interface About {
  format: 1;
  engine: Database['engine'];
  /** ISO 8601. */
  at: string;
}

const ABOUT = 'about.json';
/** What lies beside the database and belongs to it: without the key nobody can sign in. */
const KEYS = 'keys';
const FILE_MODE = 0o600;
/** Quickly packed: the shop sells meanwhile. The usual way takes twice the work for a seventh less on the disk. */
const PACKED = { level: 1 };

/** Thrown where a backup cannot be put back. */
export class CannotRestore extends Error {}

/**
 * Writes everything that the shop keeps into one file, while it goes on selling. The file is there only when it is
 * whole.
 * @param file where it goes; what is there is replaced
 */
export async function makeBackup(
  database: Database,
  dataFolder: string,
  file: string,
  at: Date,
): Promise<void> {
  await mkdir(dirname(file), { recursive: true, mode: 0o700 });
  const making = await mkdtemp(`${file}.making-`);
  const packed = `${making}.packed`;
  try {
    await database.copyTo(making);
    const keys = join(dataFolder, KEYS);
    if (existsSync(keys)) await cp(keys, join(making, KEYS), { recursive: true });
    const about: About = { format: 1, engine: database.engine, at: at.toISOString() };
    await writeFile(join(making, ABOUT), JSON.stringify(about));
    await create({ file: packed, gzip: PACKED, cwd: making, portable: true }, ['.']);
    await chmod(packed, FILE_MODE);
    await reachDisk(packed);
    await rename(packed, file);
    await reachDisk(dirname(file));
  } finally {
    await rm(making, { recursive: true, force: true });
    await rm(packed, { force: true });
  }
}

async function reachDisk(path: string): Promise<void> {
  const handle = await open(path, 'r');
  await handle.sync();
  await handle.close();
}

/**
 * Puts a backup where there are no data yet, to be gone on with. Its numbers begin another history: a mail that was
 * sent after the backup was made has no number in common with one that is sent now, and no till takes its copy of the
 * catalogue for one of this shop.
 * @throws CannotRestore where data are there already, or it is none, or was made on the other engine
 */
export async function restoreBackup(
  file: string,
  settings: Pick<Settings, 'dataFolder' | 'databaseUrl'>,
): Promise<void> {
  await putBackupBack(file, settings);
  await inCopy(settings, (database) =>
    database.write((sql) => sql.query('update shop set mail_id = gen_random_uuid()')),
  );
}

/** Does something with data that were put back. @throws Error where they cannot be used */
async function inCopy<T>(
  settings: Pick<Settings, 'dataFolder' | 'databaseUrl'>,
  work: (database: Database) => Promise<T>,
): Promise<T> {
  let broken: string | undefined;
  const database = await openDatabase(
    settings,
    () => {},
    (message) => (broken = message),
    null,
  );
  const result = await work(database);
  await database.close();
  if (broken !== undefined) throw new Error(broken);
  return result;
}

async function putBackupBack(
  file: string,
  settings: Pick<Settings, 'dataFolder' | 'databaseUrl'>,
): Promise<void> {
  const { dataFolder } = settings;
  await mkdir(dataFolder, { recursive: true, mode: 0o700 });
  const unpacked = await mkdtemp(join(dataFolder, 'restoring-'));
  try {
    await extract({ file, cwd: unpacked, strict: true }).catch((error: unknown) => {
      throw new CannotRestore(`${file} cannot be read: ${error instanceof Error ? error.message : ''}`);
    });
    const about = await readAbout(join(unpacked, ABOUT));
    if (!about) throw new CannotRestore(`${file} is no backup of Mondrel.`);
    if (about.engine === 'pglite' && settings.databaseUrl)
      throw new CannotRestore('This backup is of the embedded database: restore it without DATABASE_URL.');
    if (about.engine === 'postgres' && !settings.databaseUrl)
      throw new CannotRestore(
        'This backup is of a PostgreSQL server: set DATABASE_URL to an empty database.',
      );
    if (await copyIsThere(settings))
      throw new CannotRestore(
        'There are data already. Nothing was changed: restore into another folder or database, or move them away first.',
      );
    await putCopyBack(unpacked, settings);
    const keys = join(unpacked, KEYS);
    if (existsSync(keys)) {
      await rm(join(dataFolder, KEYS), { recursive: true, force: true });
      await rename(keys, join(dataFolder, KEYS));
    }
  } finally {
    await rm(unpacked, { recursive: true, force: true });
  }
}

async function readAbout(file: string): Promise<About | null> {
  const text = await readFile(file, 'utf8').catch(() => null);
  if (text === null) return null;
  const about = JSON.parse(text) as Partial<About>;
  return about.format === 1 && about.engine && about.at ? (about as About) : null;
}

/**
 * Reads a backup back, beside the shop, and recomputes every kept figure in it.
 * @returns what is wrong with it; nothing where it is good
 * @throws CannotRestore, or what the database says where it does not open
 */
export async function checkBackup(
  file: string,
  settings: Pick<Settings, 'databaseUrl'>,
): Promise<Difference[]> {
  const dataFolder = `${file}.check-${randomUUID()}`;
  const beside = settings.databaseUrl ? await databaseBeside(settings.databaseUrl) : undefined;
  const place = { dataFolder, databaseUrl: beside?.url };
  try {
    await putBackupBack(file, place);
    return await inCopy(place, (database) => database.ask(verify));
  } finally {
    await rm(dataFolder, { recursive: true, force: true });
    await beside?.drop();
  }
}
