import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { describe, expect, inject, it } from 'vitest';
import { restoreBackup } from '../backups/archive.ts';
import { databaseBeside } from '../db/postgres/beside.ts';
import { verify } from '../books/verify.ts';
import { serve } from '../serve.ts';
import { readSettings } from '../settings.ts';
import { browserOf, openDrawer } from './browser.ts';
import { TEST_NOW } from './globalSetup.ts';
import { ENGINE, pay, ringUp } from './testHouse.ts';

/** Backups of earlier versions, by version and engine. They are never made anew: each release adds one. */
const FOLDER = join(import.meta.dirname, 'earlier');
const backups = readdirSync(FOLDER).filter((name) => name.endsWith(`-${ENGINE}.backup`));

describe('data of earlier versions', () => {
  it.each(backups)('open, tie out and sell on: %s', async (name) => {
    const folder = mkdtempSync(join(tmpdir(), 'mondrel-earlier-'));
    const { postgres } = inject('prepared');
    const beside =
      ENGINE === 'postgres' ? await databaseBeside(postgres.replace('DATABASE', 'postgres')) : undefined;
    const settings = readSettings({
      MONDREL_DATA: folder,
      DATABASE_URL: beside?.url,
      PORT: '0',
      MONDREL_NOW: TEST_NOW,
      MONDREL_BACKUPS_KEPT: '0',
    });
    await restoreBackup(join(FOLDER, name), settings);
    const serving = await serve(settings, { webFolder: '/nowhere', log: pino({ level: 'silent' }) });
    const { database } = serving.house;
    expect(await database.ask(verify)).toEqual([]);
    const browser = browserOf(() => serving.url);
    await browser.signIn('8024', 1);
    await openDrawer(browser);
    const sale = await ringUp({ house: serving.house }, ['REE-BC-25', 'CLA-0220']);
    expect(await pay(browser, sale)).toMatchObject({ status: 200 });
    expect(await database.ask(verify)).toEqual([]);
    await serving.stop();
    await beside?.drop();
    rmSync(folder, { recursive: true, force: true });
  });

  it('are kept for the test', () => {
    expect(backups.length).toBeGreaterThan(0);
  });
});
