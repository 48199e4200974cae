import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Till } from './till.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

describe('every main view is free of serious findings', () => {
  it('the sign-in page', async () => {
    await till.go('/');
    await till.see('#pin');
    expect(await till.findings()).toEqual([]);
  });

  it('opening the drawer', async () => {
    await till.signIn('1357');
    await till.go('/drawer');
    await till.see('.sheet');
    expect(await till.findings()).toEqual([]);
    await till.go('/counter');
    await till.ready();
    await openDrawer(till);
  });

  it.each(['light', 'dark'])(
    'Counter, payment, receipt, Journal, Drawer, printer, terminal and display in the %s look',
    async (look) => {
      await till.driver.executeScript(`localStorage.setItem('mondrel.theme', '${look}')`);
      await till.go('/counter');
      await till.ready();
      await till.enter('CLA-0220');
      await till.enter('99*REE-OB-S');
      await till.count('.row', 2);
      expect(await till.findings()).toEqual([]);
      await till.keys('clarinet');
      await till.see('#found li');
      expect(await till.findings()).toEqual([]);
      await till.keys(Key.ESCAPE, Key.F9);
      await till.see('#handed');
      expect(await till.findings()).toEqual([]);
      await till.keys(Key.F9);
      await till.read('printed');
      expect(await till.findings()).toEqual([]);
      await till.go('/journal');
      await till.click('.rows .list-row');
      await till.see('.lines');
      expect(await till.findings()).toEqual([]);
      await till.press('Receipt');
      await till.see('.paper');
      expect(await till.findings()).toEqual([]);
      await till.go('/drawer');
      await till.see('.sheet');
      for (let step = 0; step < 4; step++) {
        await till.see(`.steps li:nth-child(${step + 1}).on`);
        expect(await till.findings()).toEqual([]);
        await till.keys(...(step < 3 ? [Key.F9] : []));
      }
      await till.go('/printer');
      await till.see('figure');
      expect(await till.findings()).toEqual([]);
      await till.go('/terminal/T-1001');
      await till.see('main button');
      expect(await till.findings()).toEqual([]);
      await till.go('/display/1');
      await till.see('main.display');
      expect(await till.findings()).toEqual([]);
    },
  );

  it.each([
    [1280, 800],
    // A small screen less what the browser takes of it.
    [1024, 700],
    [768, 1024],
  ])('nothing sticks out sideways at %i × %i', async (width, height) => {
    await till.resize({ width, height });
    for (const [path, there] of [
      ['/counter', '.column'],
      ['/journal', '.view .head'],
      ['/drawer', '.sheet .row'],
      ['/printer', '.printer'],
    ] as const) {
      await till.go(path);
      await till.see(there);
      expect(await till.sticksOut(), path).toBeLessThanOrEqual(1);
    }
  });
});
