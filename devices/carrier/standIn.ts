import { randomInt } from 'node:crypto';
import { mkdir, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { CarrierDriver, ParcelRequest } from './driver.ts';
import { trackingNumber } from './trackingNumber.ts';

/** What the carrier has written down of a parcel. */
interface Registered extends ParcelRequest {
  tracking: string;
}

const NOT_REACHED = 'The carrier cannot be reached.';

/**
 * A carrier of its own: writes each parcel down in a folder, once per reference. While the folder holds a file
 * `closed`, it cannot be reached.
 */
export function carrierStandIn(folder: string): CarrierDriver {
  return {
    async register(parcel) {
      await mkdir(folder, { recursive: true });
      const files = await readdir(folder);
      if (files.includes('closed')) throw new Error(NOT_REACHED);
      const file = `${parcel.reference}.json`;
      if (files.includes(file)) {
        return (JSON.parse(await readFile(join(folder, file), 'utf8')) as Registered).tracking;
      }
      const registered: Registered = { ...parcel, tracking: trackingNumber(randomInt(100_000_000)) };
      await writeFile(join(folder, `${file}.new`), JSON.stringify(registered, null, 2));
      await rename(join(folder, `${file}.new`), join(folder, file));
      return registered.tracking;
    },
  };
}
