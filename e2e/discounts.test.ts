import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
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
  for (const number of ['MET-C', 'STA-ORCH', 'PIC-M']) await till.enter(number);
  await till.count('.row', 3);
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

const fieldsAre = async (size: string, reason: string) => {
  await till.focus('#discount-size');
  await till.selectAll();
  await till.keys(size);
  await till.focus('#discount-reason');
  await till.selectAll();
  await till.keys(reason);
};

describe('a discount', () => {
  it('is given on the chosen line by keyboard; what it does is said before', async () => {
    await till.keys(Key.ARROW_UP, Key.ARROW_UP);
    await till.see('.row.on button.line');
    await till.keys('d');
    await till.see('#discount-size');
    expect(await till.findings()).toEqual([]);
    await till.keys('10');
    await till.read('On Metronome, clip-on, 45.00 becomes 40.50.');
    await till.keys(Key.ENTER);
    await till.read('Say why: the reason is printed.');
    await till.press('Scratched');
    await till.keys(Key.F9);
    await till.read('−4.50', '.tape');
    await till.shows('[data-test="to-pay"]', '107.61');
  });

  it('on the whole basket is spread, with the effect on every line, and approved above the limit', async () => {
    await till.click('.tape footer .chips .chip');
    await till.see('#discount-size');
    await till.press('New price');
    await fieldsAre('80', 'Agreed price');
    await till.read('On 3 lines, 100.10 becomes 80.00.');
    await till.count('.parts li', 3);
    await till.keys(Key.F9);
    await till.see('#second-pin');
    await till.keys(Key.ESCAPE);
    await till.read('Not approved.');
    await till.keys(Key.F9);
    await till.see('#second-pin');
    await till.keys('3690', Key.ENTER);
    await till.shows('[data-test="to-pay"]', '86.00');
    await till.driver.navigate().refresh();
    await till.ready();
    await till.shows('[data-test="to-pay"]', '86.00');
  });

  it('is taken away again', async () => {
    await till.click('.tape footer .chips .chip');
    await till.press('Take away to 80.00, Agreed price');
    await till.shows('[data-test="to-pay"]', '107.61');
  });

  it('for a group asks for the customer, and shows the proof', async () => {
    await till.click('.tape footer .chips .chip');
    await till.press('Teacher');
    await till.read('Teacher is for members of Teachers.');
    await till.press('Find the customer');
    await till.see('#customer-search');
    await till.keys('ines wether');
    await till.read('555-0122');
    await till.keys(Key.ENTER);
    await till.read('Visits');
    await till.keys(Key.ESCAPE);
    await till.click('.tape footer .chips .chip');
    await till.press('Teacher');
    await till.read('Ines Wetherby belongs to Teachers');
    await till.keys(Key.F9);
    await till.read('Teacher', '.tape');
  });

  it('for a group goes with the customer, and comes back with them', async () => {
    await till.keys(Key.F4);
    await till.press('Take off');
    await till.read('Teacher went with the customer.');
    await till.keys(Key.F4);
    await till.see('#customer-search');
    await till.keys('ines wether');
    await till.read('555-0122');
    await till.keys(Key.ENTER);
    await till.read('Teacher is back on the sale.');
    await till.keys(Key.ESCAPE);
    await till.read('Teacher', '.tape');
  });

  it('for a group is given over a slow line, before it is known who they are', async () => {
    await till.click('.tape footer .chips .chip');
    await till.press('Take away');
    await till.keys(Key.F4);
    await till.press('Take off');
    await till.keys(Key.F4);
    await till.see('#customer-search');
    await till.keys('ines wether');
    await till.read('555-0122');
    await till.far(1500, async () => {
      await till.keys(Key.ENTER, Key.ESCAPE);
      await till.click('.tape footer .chips .chip');
      await till.press('Teacher');
      await till.keys(Key.F9);
      await till.read('Teacher', '.tape');
    });
  });

  it('is a tile on the shelves, and prints with its reason', async () => {
    await till.press('Till jobs');
    await till.press('Dented box');
    await till.read('5.00 off');
    await till.press('Cancel');
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.read('Scratched', '.paper');
    await till.read('Reductions', '.paper');
    expect(await shop.verify()).toContain('0 differences.');
  });
});
