import { formatTenths } from '../locale.ts';

/** When a backup is due without anybody asking for it, in hours since the last good one. */
const EVERY_H = 24;
const AFTER_CLOSING_H = 4;
/** Managers are told when the last good one is older than this. */
const LATE_H = 48;
/** So long after one failed it is tried again. */
const AGAIN_AFTER_H = 1;
const HOUR_MS = 3_600_000;

export interface BackupMoment {
  now: Date;
  /** When the last good backup was made. */
  last: Date | null;
  /** When something was sold last. */
  sold: Date | null;
  /** Whether a drawer is open. */
  drawerOpen: boolean;
  /** When one was tried last and failed. */
  failed: Date | null;
}

/** Once a day, and when the last drawer of the day is closed: that day should not be on one disk alone. */
export function backupDue({ now, last, sold, drawerOpen, failed }: BackupMoment): boolean {
  const since = (then: Date) => (now.getTime() - then.getTime()) / HOUR_MS;
  if (failed && since(failed) < AGAIN_AFTER_H) return false;
  if (!last) return true;
  const hours = since(last);
  if (hours >= EVERY_H) return true;
  return hours >= AFTER_CLOSING_H && !drawerOpen && sold !== null && sold > last;
}

/** @param since when the application was first started on these data, where there is no backup yet */
export const backupLate = (now: Date, last: Date | null, since: Date): boolean =>
  (now.getTime() - (last ?? since).getTime()) / HOUR_MS >= LATE_H;

const MB = 1_000_000;
const LEAST_FREE = 500 * MB;

/** Whether a disk is so full that it must be said: three more backups, or half a gigabyte, should always fit. */
export const diskLow = (freeBytes: number, backupBytes: number): boolean =>
  freeBytes < Math.max(LEAST_FREE, 3 * backupBytes);

/** How a size is said: `340 MB`, `1.2 GB`. */
export const sizeInWords = (bytes: number): string =>
  bytes >= 1000 * MB
    ? `${formatTenths(bytes / (1000 * MB))} GB`
    : `${Math.max(1, Math.round(bytes / MB))} MB`;
