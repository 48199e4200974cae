/** A backup that was read back and found good. */
export interface BackupFile {
  name: string;
  /** When it was made, ISO 8601. */
  at: string;
  bytes: number;
}

/** How the shop's data are kept safe. */
export interface BackupFacts {
  /** Where they are, on the computer that the application runs on. */
  folder: string;
  /** So many are kept; zero where none is made by itself. */
  kept: number;
  /** Newest first. */
  files: BackupFile[];
  running: boolean;
  /** Why the last try failed, in words. */
  trouble: string | null;
  /** The last good one is too old. */
  late: boolean;
  /** The disk with the shop's data, in bytes. */
  disk: { free: number; low: boolean };
}
