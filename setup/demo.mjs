// npm run demo [-- --fresh] [--new]: the made-up shop, from nothing to a page that can be opened; with `--new` on its
// first day, without a past.
import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, installPackages, ROOT, serverFile, WEB_FOLDER } from './steps.mjs';

const folder = join(ROOT, 'data', 'demo');
if (process.argv.includes('--fresh'))
  rmSync(process.env.MONDREL_DATA ?? folder, { recursive: true, force: true });

installPackages();
await build('server');
const pages = build('web');
const first = !existsSync(join(process.env.MONDREL_DATA ?? folder, 'db'));
if (first && !process.env.DATABASE_URL)
  console.log('Laying down the shop, which takes a few seconds the first time …');

const [{ run }, { fillDemo, fillNewDemo }] = await Promise.all([
  import(serverFile('main.js')),
  import(serverFile('fill.js')),
]);
try {
  const { url, house } = await run(folder, {
    webFolder: WEB_FOLDER,
    onStep: (what) => console.log(what),
    fill: process.argv.includes('--new') ? fillNewDemo : fillDemo,
    ready: pages,
  });
  console.log(`\nOstler Lane Music is open: ${url}\n`);
  for (const { name, role, pin } of house.demoPins) console.log(`  PIN ${pin}  ${name}, ${role}`);
  console.log('\nStop with Ctrl+C. `npm run demo -- --fresh` starts over.');
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
