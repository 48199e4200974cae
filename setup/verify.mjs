// npm run verify [-- shop]: recomputes every kept figure from the events behind it. Stop the application first.
import { join } from 'node:path';
import { build, installPackages, ROOT, serverFile } from './steps.mjs';

installPackages();
await build('server');
const { readSettings, verifyShop } = await import(serverFile('main.js'));
try {
  const settings = readSettings(process.env, join(ROOT, 'data', process.argv[2] ?? 'demo'));
  const { lines, differences } = await verifyShop(settings);
  for (const line of lines) console.log(line);
  process.exit(differences === 0 ? 0 : 1);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(2);
}
