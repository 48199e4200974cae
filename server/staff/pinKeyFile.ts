import {
  chmodSync,
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import type { Database } from '../db/database.ts';
import { newPinSecret } from './pin.ts';
import * as store from './store.ts';

/** Only the application may read what stands in the folder and the file. */
const FOLDER_MODE = 0o700;
const FILE_MODE = 0o600;

/** Thrown where PINs cannot be looked up any more. */
export class PinKeyMissing extends Error {}

/**
 * The installation's own secret, with which PINs are looked up. It is kept in a file and not in the database: whoever
 * has a copy of the one cannot guess PINs without the other. Data of earlier versions hands it over.
 * @throws PinKeyMissing where people are known but the file is gone
 */
export async function readPinKey(database: Database, dataFolder: string): Promise<string> {
  const folder = join(dataFolder, 'keys');
  mkdirSync(dataFolder, { recursive: true, mode: FOLDER_MODE });
  chmodSync(dataFolder, FOLDER_MODE);
  const file = join(folder, 'pin.key');
  const kept = await database.ask(store.keptPinSecret);
  if (!existsSync(file)) {
    if (kept === null && (await database.ask(store.countStaff)) > 0) {
      throw new PinKeyMissing(`${file} is missing: put it back from the backup, or nobody can sign in.`);
    }
    keep(folder, file, kept ?? newPinSecret());
  }
  // It stands in the file, on the disk: the database forgets it.
  if (kept !== null) await database.write(store.dropPinSecret);
  return readFileSync(file, 'utf8').trim();
}

function keep(folder: string, file: string, secret: string): void {
  mkdirSync(folder, { recursive: true, mode: FOLDER_MODE });
  const fresh = `${file}.new`;
  const handle = openSync(fresh, 'w', FILE_MODE);
  writeSync(handle, `${secret}\n`);
  fsyncSync(handle);
  closeSync(handle);
  renameSync(fresh, file);
  const at = openSync(folder, 'r');
  fsyncSync(at);
  closeSync(at);
}
