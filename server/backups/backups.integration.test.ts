import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BackupFacts, BackupFile } from '../../contract/backups.ts';
import { openDatabase } from '../db/open.ts';
import { databaseBeside } from '../db/postgres/beside.ts';
import { findShop } from '../shop/store.ts';
import { verify } from '../books/verify.ts';
import { openDrawer, openHouse, pay, ringUp, type Browser, type TestHouse } from '../testing/testHouse.ts';
import { makeBackup, restoreBackup } from './archive.ts';
import { backUpBeforeMigrating } from './backups.ts';

let test: TestHouse;
let manager: Browser;
const folder = mkdtempSync(join(tmpdir(), 'mondrel-backups-'));
const ends: (() => Promise<void>)[] = [];
beforeAll(async () => {
  test = await openHouse('demo', { MONDREL_BACKUPS: folder, MONDREL_BACKUPS_KEPT: '2' });
  manager = test.browser();
  await manager.signIn('8024', 1);
  await openDrawer(manager);
});
afterAll(async () => {
  for (const end of ends) await end();
  await test.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** A place without data on the engine under test. */
async function emptyPlace() {
  const dataFolder = mkdtempSync(join(tmpdir(), 'mondrel-place-'));
  const beside = test.databaseUrl ? await databaseBeside(test.databaseUrl) : undefined;
  ends.push(async () => {
    rmSync(dataFolder, { recursive: true, force: true });
    await beside?.drop();
  });
  return { dataFolder, databaseUrl: beside?.url };
}

const open = (place: Awaited<ReturnType<typeof emptyPlace>>) =>
  openDatabase(
    place,
    () => {},
    (message) => {
      throw new Error(message);
    },
    null,
  );

async function sell(): Promise<string> {
  const sale = await ringUp(test, ['REE-BC-25']);
  expect((await pay(manager, sale)).status).toBe(200);
  return sale.basket.id;
}

describe('a backup', () => {
  it('has everything that was sold before it began, while selling goes on, and is put back with every figure', async () => {
    const before = [await sell(), await sell()];
    let going = true;
    const beside: string[] = [];
    const selling = (async () => {
      while (going) beside.push(await sell());
    })();
    const made = await manager.ask<BackupFile>('POST', '/backups', {}, { 'idempotency-key': newId() });
    going = false;
    await selling;
    expect(made.status).toBe(200);
    expect(beside.length).toBeGreaterThan(0);

    const place = await emptyPlace();
    await restoreBackup(join(folder, made.body.name), place);
    const database = await open(place);
    const ids = (await database.ask((sql) => sql.query<{ id: string }>('select id from sale'))).map(
      ({ id }) => id,
    );
    expect(ids).toEqual(expect.arrayContaining(before));
    expect(await database.ask(verify)).toEqual([]);
    // What is numbered from here on is numbered in another history.
    const historyOf = async (one: typeof database) => (await one.ask(findShop))?.mailId;
    expect(await historyOf(database)).not.toBe(await historyOf(test.house.database));
    await database.close();
    expect(readdirSync(join(place.dataFolder, 'keys'))).toEqual(readdirSync(join(test.dataFolder, 'keys')));

    await expect(restoreBackup(join(folder, made.body.name), place)).rejects.toThrow(
      'There are data already',
    );
  });

  it('is listed for who sets up the shop, and only so many are kept', async () => {
    const { body } = await manager.ask<BackupFacts>('GET', '/backups');
    expect(body).toMatchObject({ kept: 2, running: false, trouble: null, late: false, folder });
    expect(body.files).toHaveLength(1);
    writeFileSync(join(folder, 'mondrel-2026-01-02-080000.backup'), '');
    writeFileSync(join(folder, 'mondrel-2026-01-03-080000.backup'), '');
    writeFileSync(join(folder, 'notes.txt'), 'mine');
    // Two who ask at once wait for the same one.
    const [one, other] = await Promise.all([test.house.backups.make(), test.house.backups.make()]);
    expect(other).toBe(one);
    const kept = readdirSync(folder).filter((name) => name.endsWith('.backup'));
    expect(kept).toHaveLength(2);
    expect(kept).not.toContain('mondrel-2026-01-02-080000.backup');
    expect(readdirSync(folder)).toContain('notes.txt');
    const cashier = test.browser();
    await cashier.signIn('1357', 2);
    expect((await cashier.ask('GET', '/backups')).status).toBe(403);
    expect((await cashier.ask('POST', '/backups', {}, { 'idempotency-key': newId() })).status).toBe(403);
  });

  it('is made for the command that asks while the application runs', async () => {
    const id = newId();
    writeFileSync(join(folder, `${id}.wish`), '');
    await expect.poll(() => readdirSync(folder), { timeout: 60_000 }).toContain(`${id}.done`);
    expect(readdirSync(folder)).not.toContain(`${id}.wish`);
  });

  it('that cannot be made says why, and leaves nothing half made', async () => {
    const nowhere = join(test.dataFolder, 'keys', 'pin.key', 'x.backup');
    await expect(makeBackup(test.house.database, test.dataFolder, nowhere, new Date())).rejects.toThrow();
    const target = join(folder, 'good.backup');
    await makeBackup(test.house.database, test.dataFolder, target, new Date());
    expect(readdirSync(folder).filter((name) => name.includes('.making-'))).toEqual([]);
  });

  it('that a killed server left half made is cleared away at the next start', async () => {
    const half = 'mondrel-2026-02-01-080000.backup.new.making-abc';
    mkdirSync(join(folder, half));
    writeFileSync(join(folder, half, 'about.json'), '{}');
    writeFileSync(join(folder, 'mondrel-2026-02-01-080000.backup.new'), '');
    await test.restart();
    await expect.poll(() => readdirSync(folder).filter((name) => name.includes('.new'))).toEqual([]);
  });

  it('that is none, or is damaged, is refused and changes nothing', async () => {
    const place = await emptyPlace();
    const none = join(folder, 'none.backup');
    writeFileSync(none, 'This is not a backup.');
    await expect(restoreBackup(none, place)).rejects.toThrow('none.backup');
    expect(readdirSync(place.dataFolder)).toEqual([]);
  });

  it('is made before a new version changes the data', async () => {
    const settings = { backups: folder, dataFolder: test.dataFolder };
    await backUpBeforeMigrating(settings, test.house.clock)(test.house.database, 12);
    const place = await emptyPlace();
    await restoreBackup(join(folder, 'before-version-12.backup'), place);
    const database = await open(place);
    const [{ count } = { count: 0 }] = await database.ask((sql) =>
      sql.query<{ count: number }>('select count(*)::integer as count from sale'),
    );
    expect(count).toBeGreaterThan(0);
    await database.close();
  });
});
