import { watch } from 'node:fs';
import { mkdir, readdir, rename, rm, stat, statfs, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { DateTime } from 'luxon';
import type { BackupFacts, BackupFile } from '../../contract/backups.ts';
import { backupDue, backupLate, diskLow } from '../../core/backups/due.ts';
import type { Clock } from '../clock.ts';
import type { BeforeMigrating } from '../db/migrate.ts';
import type { House } from '../house.ts';
import type { Settings } from '../settings.ts';
import { checkBackup, makeBackup } from './archive.ts';
import * as store from './store.ts';

const LOOK_EVERY_MS = 60_000;
const NAME = /^mondrel-(\d{4}-\d{2}-\d{2}-\d{6})\.backup$/;
const NAME_TIME = 'yyyy-MM-dd-HHmmss';
/** What a backup leaves behind when the process ends while it is made. */
const HALF_MADE = /^mondrel-[\d-]+\.backup\.new|^[\da-f-]{36}\.(done|unread)$/;
/** What `npm run backup` leaves in the folder, to be answered beside it. */
const WISH = /^([\da-f-]{36})\.wish$/;

/** Keeps copies of the shop: every day, when the last drawer is closed, and when somebody asks. */
export interface Backups {
  facts(): Promise<BackupFacts>;
  /**
   * Makes one now and reads it back; who asks while one is being made waits for that one. @throws Error saying why
   * not
   */
  make(): Promise<BackupFile>;
  stop(): Promise<void>;
}

/** What is done before a new version changes the data: they are put aside as they are. */
export const backUpBeforeMigrating =
  ({ backups, dataFolder }: Pick<Settings, 'backups' | 'dataFolder'>, clock: Clock): BeforeMigrating =>
  (database, applied) =>
    makeBackup(database, dataFolder, join(backups, `before-version-${applied}.backup`), clock.now());

export function startBackups(
  { database, clock, log, events }: Pick<House, 'database' | 'clock' | 'log' | 'events'>,
  settings: Settings,
): Backups {
  const { dataFolder, backups: folder, backupsKept: kept } = settings;
  let making: Promise<BackupFile> | undefined;
  let trouble: { at: Date; words: string } | null = null;
  /** Whether the disk was nearly full when it was looked at last. */
  let low = false;

  async function list(): Promise<BackupFile[]> {
    const names = (await readdir(folder).catch(() => [])).filter((name) => NAME.test(name)).toSorted();
    const files = names.toReversed().map(async (name) => {
      const { size } = await stat(join(folder, name));
      return { name, at: madeAt(name), bytes: size };
    });
    return Promise.all(files);
  }

  async function makeOne(): Promise<BackupFile> {
    const at = clock.now();
    const name = `mondrel-${DateTime.fromJSDate(at, { zone: 'utc' }).toFormat(NAME_TIME)}.backup`;
    const file = join(folder, name);
    // It has its name only once it was read back: what is listed is good.
    const fresh = `${file}.new`;
    try {
      await makeBackup(database, dataFolder, fresh, at);
      const wrong = await checkBackup(fresh, settings);
      if (wrong.length > 0)
        throw new Error(`It was read back with ${wrong.length} figures that do not tie out.`);
      await rename(fresh, file);
    } finally {
      await rm(fresh, { force: true });
    }
    const tooMany = kept > 0 ? (await list()).slice(kept) : [];
    for (const old of tooMany) await rm(join(folder, old.name), { force: true });
    const { size } = await stat(file);
    return { name, at: madeAt(name), bytes: size };
  }

  function make(): Promise<BackupFile> {
    making ??= makeOne()
      .then(
        (file) => {
          trouble = null;
          return file;
        },
        (error: unknown) => {
          trouble = { at: clock.now(), words: error instanceof Error ? error.message : String(error) };
          log.error({ err: error }, 'a backup failed');
          throw error;
        },
      )
      .finally(() => {
        making = undefined;
        events.tell({ kind: 'backups-changed' });
      });
    return making;
  }

  async function diskNow(last: BackupFile | undefined): Promise<BackupFacts['disk']> {
    const { bavail, bsize } = await statfs(dataFolder);
    const free = bavail * bsize;
    return { free, low: diskLow(free, last?.bytes ?? 0) };
  }

  async function look(): Promise<void> {
    const [last] = await list();
    const disk = await diskNow(last);
    if (disk.low !== low) events.tell({ kind: 'backups-changed' });
    low = disk.low;
    if (kept === 0) return;
    const { sold, drawerOpen, since } = await database.ask(store.backupMoment);
    // A shop that was not set up yet has nothing to lose.
    if (since === null) return;
    const moment = { now: clock.now(), last: last ? new Date(last.at) : null, sold, drawerOpen };
    if (backupDue({ ...moment, failed: trouble?.at ?? null })) await make();
  }

  /** What `npm run backup` asks for while the application runs. */
  async function grant(): Promise<void> {
    for (const wish of await readdir(folder)) {
      const id = WISH.exec(wish)?.[1];
      if (!id) continue;
      await rm(join(folder, wish), { force: true });
      const answer = await make().then(
        ({ name }) => ({ name }),
        (error: unknown) => ({ error: error instanceof Error ? error.message : String(error) }),
      );
      const unread = join(folder, `${id}.unread`);
      await writeFile(unread, JSON.stringify(answer));
      await rename(unread, join(folder, `${id}.done`));
    }
  }

  const quietly = (work: () => Promise<unknown>) => () =>
    void work().catch((error: unknown) => log.error({ err: error }, 'looking after backups failed'));
  const timer = setInterval(quietly(look), LOOK_EVERY_MS);
  timer.unref();
  const ready = mkdir(folder, { recursive: true, mode: 0o700 }).then(async () => {
    for (const name of await readdir(folder)) {
      if (HALF_MADE.test(name)) await rm(join(folder, name), { recursive: true, force: true });
    }
    const watcher = watch(folder, { persistent: false }, quietly(grant));
    watcher.on('error', (error) => log.error({ err: error }, 'the folder of backups cannot be watched'));
    quietly(grant)();
    return watcher;
  });
  ready.catch((error: unknown) => log.error({ err: error }, 'the folder of backups cannot be made'));

  return {
    make,
    async facts() {
      const files = await list();
      const [last] = files;
      const { since } = await database.ask(store.backupMoment);
      const now = clock.now();
      return {
        folder,
        kept,
        files,
        running: making !== undefined,
        trouble: trouble?.words ?? null,
        late: kept > 0 && backupLate(now, last ? new Date(last.at) : null, since ?? now),
        disk: await diskNow(last),
      };
    },
    async stop() {
      clearInterval(timer);
      await ready.then(
        (watcher) => watcher.close(),
        () => {},
      );
      await making?.catch(() => {});
    },
  };
}

function madeAt(name: string): string {
  const text = NAME.exec(name)?.[1] ?? '';
  return DateTime.fromFormat(text, NAME_TIME, { zone: 'utc' }).toJSDate().toISOString();
}
