import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { fillNewDemo } from '../demo/fill.ts';
import { serve, type Serving } from '../server/serve.ts';
import { readSettings } from '../server/settings.ts';
import { startPostgres } from '../server/testing/postgresServer.ts';
import type { Figure } from './measure.ts';

/** Measures the made-up shop as it serves, on the embedded database and on a server, each new. */
export async function onBothEngines(
  measure: (serving: Serving, engine: string) => Promise<Figure[]>,
): Promise<Figure[]> {
  const postgres = await startPostgres();
  try {
    return [
      ...(await onEngine('pglite', undefined, measure)),
      ...(await onEngine('postgres', postgres.urlOf('postgres'), measure)),
    ];
  } finally {
    await postgres.stop();
  }
}

async function onEngine(
  engine: string,
  url: string | undefined,
  measure: (serving: Serving, engine: string) => Promise<Figure[]>,
): Promise<Figure[]> {
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-bench-'));
  const settings = readSettings({
    MONDREL_DATA: folder,
    PORT: '0',
    DATABASE_URL: url,
    MONDREL_BACKUPS_KEPT: '0',
  });
  const serving = await serve(settings, {
    webFolder: '/nowhere',
    fill: fillNewDemo,
    log: pino({ level: 'error' }, pino.destination(2)),
  });
  try {
    return await measure(serving, engine);
  } finally {
    await serving.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
