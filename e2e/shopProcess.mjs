// Opens one shop after the other, as it is told: the database's program is compiled once for all of them.
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { serverFile, WEB_FOLDER } from '../setup/steps.mjs';

// As long as somebody holds it, every shop takes it as it is, and as quick as it has become.
globalThis.databaseProgram = await WebAssembly.compile(
  await readFile(fileURLToPath(import.meta.resolve('@electric-sql/pglite/pglite.wasm'))),
);
const { readSettings, serve, verifyShop } = await import(serverFile('main.js'));
const { fillNewDemo, DEMO_CHANNEL_KEY } = await import(serverFile('fill.js'));

let serving;

const DOES = {
  async start(environment) {
    const settings = readSettings({ MONDREL_WEB_SHOP_KEY: DEMO_CHANNEL_KEY, ...environment });
    serving = await serve(settings, { webFolder: WEB_FOLDER, fill: fillNewDemo });
    const { url, webShop, hub } = serving;
    return { url, webShop, hub };
  },
  stop: () => serving.stop(),
  verify: async (environment) => (await verifyShop(readSettings(environment))).lines.join('\n'),
};

process.on('message', async ({ id, what, environment }) => {
  try {
    process.send({ id, answer: await DOES[what](environment) });
  } catch (error) {
    process.send({ id, error: error instanceof Error ? error.stack : String(error) });
  }
});
process.on('disconnect', () => process.exit(0));
