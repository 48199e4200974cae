// npm start: an empty shop; the first page asks for its name, currency, tax and first manager.
import { join } from 'node:path';
import { prepare, ROOT, serverFile, WEB_FOLDER } from './steps.mjs';

try {
  await prepare();
  const { run } = await import(serverFile('main.js'));
  const { url } = await run(join(ROOT, 'data', 'shop'), {
    webFolder: WEB_FOLDER,
    onStep: (what) => console.log(what),
  });
  console.log(`Mondrel is open: ${url}`);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
