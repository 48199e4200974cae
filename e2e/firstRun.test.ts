import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, it, expect } from 'vitest';
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
    expect(await till.value('input')).toBe('Lantern Books');
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
});
