// npm run verify [-- shop]: recomputes every kept figure from the events behind it. Stop the application first.
import { join } from 'node:path';
import { build, installPackages, ROOT, serverFile } from './steps.mjs';

installPackages();
await build('server');
const {
  backUpBeforeMigrating,
  CHECK_COUNT,
  openDatabase,
  readSettings,
  terminalStandIn,
  verify,
  verifyTerminals,
} = await import(serverFile('main.js'));
try {
  const settings = readSettings(process.env, join(ROOT, 'data', process.argv[2] ?? 'demo'));
  const database = await openDatabase(
    settings,
    () => {},
    (message) => console.error(message),
    backUpBeforeMigrating(settings, { now: () => new Date() }),
  );
  const terminals = terminalStandIn(join(settings.dataFolder, 'terminals'), () => new Date());
  const witnessed = await verifyTerminals(database, terminals);
  const differences = [...(await database.ask(verify)), ...witnessed.differences];
  await database.close();
  for (const serial of witnessed.unasked) console.log(`Terminal ${serial} could not be asked.`);
  for (const { check, what, kept, recomputed } of differences) {
    console.log(`${check}: ${what} is kept as ${kept}, its events make ${recomputed}`);
  }
  console.log(
    `${CHECK_COUNT + 1} checks, ${differences.length} difference${differences.length === 1 ? '' : 's'}.`,
  );
  process.exit(differences.length === 0 ? 0 : 1);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(2);
}
