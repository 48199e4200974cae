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

const [{ run }, { fillDemo, fillNewDemo, DEMO_CHANNEL_KEY, DEMO_WEB_ORDERS }] = await Promise.all([
  import(serverFile('main.js')),
  import(serverFile('fill.js')),
]);
// The web shop and the relay hub are next door, where nothing else is said.
const port = Number(process.env.PORT ?? 4180);
process.env.MONDREL_WEB_SHOP ??= String(port === 0 ? 0 : port + 1);
process.env.MONDREL_HUB ??= String(port === 0 ? 0 : port + 2);
process.env.MONDREL_WEB_SHOP_KEY ??= DEMO_CHANNEL_KEY;
try {
  const { url, webShop, hub, house } = await run(folder, {
    webFolder: WEB_FOLDER,
    onStep: (what) => console.log(what),
    fill: process.argv.includes('--new') ? fillNewDemo : fillDemo,
    webOrders: process.argv.includes('--new') ? [] : DEMO_WEB_ORDERS,
    ready: pages,
  });
  console.log(`\nOstler Lane Music is open: ${url}\n`);
  for (const { name, role, pin } of house.demoPins) console.log(`  PIN ${pin}  ${name}, ${role}`);
  console.log(`\nOrders from elsewhere are placed at the web shop: ${webShop}`);
  console.log(`Somebody is the partner of the shop at the relay hub: ${hub}`);
  console.log('\nStop with Ctrl+C. `npm run demo -- --fresh` starts over.');
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
