import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ownEan13 } from '../demo/barcodes.ts';
import { payExact } from './handsOnCounter.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { openShop, type TestShop } from './testShop.ts';
import { Till } from './till.ts';

let shop: TestShop;
let till: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  await till.signIn('1357', 1);
  await openDrawer(till);
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

describe('a customer on the sale', () => {
  it('is found while typing and put on with Enter; group prices apply at once', async () => {
    await till.enter('REC-SO');
    await till.shows('[data-test="to-pay"]', '37.52');
    await till.keys(Key.F4);
    await till.see('#customer-search');
    await till.keys('marit');
    await till.read('Ferrisport Schools');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ENTER);
    await till.read('214.50');
    await till.read('Schools and choirs');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ESCAPE);
    await till.shows('[data-test="to-pay"]', '31.90');
    await till.read('Schools and choirs', '.tape');
    await till.read('Marit Solvane');
  });

  it('stays through a reload, and is named when the basket is held', async () => {
    await till.driver.navigate().refresh();
    await till.ready();
    await till.read('Marit Solvane');
    await till.shows('[data-test="to-pay"]', '31.90');
    await till.keys(Key.F8);
    await till.see('#hold-name');
    await till.holds('#hold-name', 'Marit Solvane');
    await till.keys(Key.ESCAPE);
    await payExact(till);
    await till.read('Schools and choirs', '.paper');
  });

  it('has visits, which are rung up again with one key', async () => {
    await till.keys(Key.F9, Key.F4);
    await till.see('#customer-search');
    await till.keys('marit');
    await till.read('Ferrisport Schools');
    await till.keys(Key.ENTER);
    await till.read('Recorder, soprano');
    await till.read('Receipt 1-0001');
    await till.keys('1');
    await till.count('.row', 1);
    await till.shows('[data-test="to-pay"]', '31.90');
    await till.keys(Key.F4);
    await till.press('Receipt 1-0001');
    await till.read('Sale 1-0001');
    await till.click('nav a[href="/counter"]');
  });

  it('comes by scanning the card, and goes again', async () => {
    await till.keys(Key.F4);
    await till.press('Take off');
    await till.read('No customer on the sale');
    await till.shows('[data-test="to-pay"]', '37.52');
    await till.scan(ownEan13(24, 1));
    await till.read('Priya Hallow is on the sale.');
    await till.scan(ownEan13(24, 2));
    await till.read('was replaced and counts no more');
    await till.read('Priya Hallow');
  });

  it('is created with two fields, and not twice by mistake', async () => {
    await till.keys(Key.F4);
    await till.press('Another one');
    await till.see('#customer-search');
    await till.keys('Mo Tindall');
    await till.read('No customer found.');
    await till.keys(Key.ENTER);
    await till.see('.new input');
    expect(await till.findings()).toEqual([]);
    await till.click('.new input[inputmode="email"]');
    await till.keys('priya.hallow@mail.example', Key.ENTER);
    await till.read('Priya Hallow is known already: same mail address.');
    await till.keys('s', Key.ENTER);
    await till.count('.panel', 0);
    await till.read('Mo Tindall');
    await payExact(till);
    expect(await shop.verify()).toContain('0 differences.');
  });
});
