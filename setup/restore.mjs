// npm run restore -- FILE [shop]: puts a backup where there are no data yet, and recomputes every kept figure.
import { join, resolve } from 'node:path';
import { build, installPackages, ROOT, runProgram, serverFile } from './steps.mjs';

const [file, shop = 'shop'] = process.argv.slice(2);
if (!file) {
  console.error('Say which backup: npm run restore -- FILE [shop]');
  process.exit(2);
}
installPackages();
await build('server');
const { readSettings, restoreBackup } = await import(serverFile('main.js'));
try {
  const settings = readSettings(process.env, join(ROOT, 'data', shop));
  await restoreBackup(resolve(file), settings);
  console.log(`The data are back in ${settings.databaseUrl ? 'the database' : settings.dataFolder}.`);
  await runProgram(process.execPath, [join(ROOT, 'setup', 'verify.mjs'), shop]);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
