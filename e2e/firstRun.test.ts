import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, it, expect } from 'vitest';
import { ownEan13 } from '../demo/barcodes.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
beforeAll(async () => {
  shop = await openShop('start');
  till = await Till.open(() => shop.url);
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

describe('the first run of an empty shop', () => {
  it('asks for the shop and says what is missing, keeping what was typed', async () => {
    await till.go('/');
    await till.read('A new shop');
    expect(await till.findings()).toEqual([]);
    await till.keys('Lantern Books', Key.ENTER);
    await till.read('Some fields need a look.');
    await till.read('The name of the place is missing.');
    await till.read('A PIN has 4 to 8 digits.');
    await till.read('The rate is missing.');
    await till.holds('input', 'Lantern Books');
  });

  it('sets it up and lets the manager in', async () => {
    const fill = async (label: string, text: string) => {
      const path = `//label[contains(., "${label}")]/ancestor::*[contains(@class, "v-field")][1]//input`;
      await till.driver.findElement({ xpath: path }).sendKeys(text);
    };
    await fill('Name of the place', 'Quay');
    await fill('Rate in per cent', '20');
    await till.driver
      .findElement({
        xpath: '//fieldset[3]//label[.="Name"]/ancestor::*[contains(@class, "v-field")][1]//input',
      })
      .sendKeys('Ada P.');
    await fill('PIN, 4 to 8 digits', '4711');
    await till.press('Set up the shop');
    await till.see('#pin');
    await till.read('Lantern Books');
    await till.keys('4711', Key.ENTER);
    await till.ready();
    await till.read('Ada P. · drawer closed');
  });

  it('shows the way to the first sale, which fills as things get done', async () => {
    await till.click('nav a[href="/setup"]');
    await till.read('The way to the first sale: 1 of 8 done');
    await till.click('nav a[href="/counter"]');
    await till.scan(ownEan13(29, 1));
    await till.press('Add it as a new item');
    await till.see('#new-name');
    await till.keys('Atlas of tides', Key.TAB, '20', Key.TAB, 'Books', Key.ENTER);
    await till.shows('[data-test="to-pay"]', '24.00');
    await openDrawer(till);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.see('[data-test="change"]');
    await till.click('nav a[href="/setup"]');
    await till.read('The way to the first sale: 4 of 8 done');
  });
});
