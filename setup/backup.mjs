// npm run backup -- FILE [shop]: a copy of everything in one file, also while the application runs; it is read back
// and checked.
import { randomUUID } from 'node:crypto';
import { copyFileSync, existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { build, installPackages, ROOT, serverFile } from './steps.mjs';

const [file, shop = 'shop'] = process.argv.slice(2);
if (!file) {
  console.error('Say where the backup goes: npm run backup -- FILE [shop]');
  process.exit(2);
}
installPackages();
await build('server');
const { backUpBeforeMigrating, checkBackup, InUseError, makeBackup, openDatabase, readSettings } =
  await import(serverFile('main.js'));
const target = resolve(file);
const PAUSE_MS = 200;
/** So many pauses after which the application has heard. */
const HEARD_AFTER = 100;
const NO_ANSWER = 'Something works on the data and answers nothing: wait for it, or stop it first.';

try {
  const settings = readSettings(process.env, join(ROOT, 'data', shop));
  if (!settings.databaseUrl && !existsSync(join(settings.dataFolder, 'db')))
    throw new Error(`There is no shop in ${settings.dataFolder}.`);
  const database = await openDatabase(
    settings,
    () => {},
    (message) => console.error(message),
    backUpBeforeMigrating(settings, { now: () => new Date() }),
  ).catch((error) => {
    if (error instanceof InUseError) return null;
    throw error;
  });
  if (database) {
    await makeBackup(database, settings.dataFolder, target, new Date());
    await database.close();
    const wrong = await checkBackup(target, settings);
    for (const { check, what, kept, recomputed } of wrong)
      console.log(`${check}: ${what} is kept as ${kept}, its events make ${recomputed}`);
    if (wrong.length > 0) throw new Error('The backup was read back and does not tie out.');
  } else {
    copyFileSync(join(settings.backups, await askApplication(settings.backups)), target);
  }
  console.log(`${target} is there. It was read back, and every figure in it ties out.`);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}

/** The application that runs makes it. @returns the name of the file in its folder of backups */
async function askApplication(folder) {
  const id = randomUUID();
  const wish = join(folder, `${id}.wish`);
  const done = join(folder, `${id}.done`);
  if (!existsSync(folder)) throw new Error(NO_ANSWER);
  writeFileSync(wish, '');
  for (let tries = 0; !existsSync(done); tries++) {
    if (tries > HEARD_AFTER && existsSync(wish)) {
      rmSync(wish);
      throw new Error(NO_ANSWER);
    }
    await pause(PAUSE_MS);
  }
  const { name, error } = JSON.parse(readFileSync(done, 'utf8'));
  rmSync(done);
  if (!name) throw new Error(error);
  return name;
}
