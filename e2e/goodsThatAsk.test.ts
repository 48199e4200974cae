import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { checkDigit } from '../core/goods/barcode.ts';
import { ownEan13 } from '../demo/barcodes.ts';
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

const empty = async () => {
  await till.click('.tape footer .stop');
  await till.read('Nothing rung up yet');
};
/** The cell that arrows have come to. */
const onCell = async () => (await till.driver.switchTo().activeElement().getAttribute('aria-label')) ?? '';
const reaches = (words: string) => till.wait(async () => (await onCell()).includes(words), undefined, words);

describe('an item that asks', () => {
  it('shows its variants by size and colour with the stock in each cell, all by keyboard', async () => {
    await till.enter('BAG-GU');
    await till.see('[role="grid"]');
    expect(await till.findings()).toEqual([]);
    await till.count('[data-cell]', 15);
    await till.keys(Key.ARROW_RIGHT, Key.ARROW_DOWN, Key.ARROW_DOWN);
    await reaches('3/4, wine');
    await till.keys(Key.ARROW_LEFT, Key.ARROW_UP);
    await reaches('1/2, navy');
    await till.keys(Key.ENTER);
    await till.read('Padded bag, guitar, 1/2, navy', '.tape');
    await till.read('None in stock here', '.tape');
    await till.read('at Depot', '.tape');
  });

  it('takes the quantity that was typed before to the variant, and leaves nothing when it is left', async () => {
    await till.enterFound('3*guitar strap');
    await till.see('[data-cell]');
    await till.keys(Key.ENTER);
    await till.shows('.row.on .q', '3');
    await till.enter('STP-SX');
    await till.see('[data-cell]');
    await till.keys(Key.ESCAPE);
    await till.count('[data-cell]', 0);
    await till.count('.row', 2);
    await empty();
  });

  it('takes a serial number by scanning it, by choosing it, or as it is typed, each once', async () => {
    await till.enter('2*CLA-0510');
    await till.read('1 of 2');
    await till.scan('CLA05101002');
    await till.read('2 of 2');
    expect(await till.findings()).toEqual([]);
    await till.click('[aria-label="In stock"] li:first-child button');
    await till.count('.row', 2);
    await till.read('No. CLA05101002', '.tape');
    await till.enter('CLA-0510');
    await till.see('#question:focus');
    // A few keys that come fast are no scanner's.
    await till.keys('CL');
    await till.strike('A05101002', 0.02);
    await till.keys(Key.ENTER);
    await till.read('CLA05101002 is in the basket already');
    await till.enter('CLA-0510');
    await till.see('#question:focus');
    // A number that the shop does not have is taken on purpose only.
    await till.keys('HAND-ME-DOWN', Key.ENTER);
    await till.read('Not in stock under this number');
    await till.keys(Key.ENTER);
    await till.read('No. HAND-ME-DOWN', '.tape');
    await empty();
  });

  it('does not take for missing what cannot be looked up, and looks again once the server answers', async () => {
    await till.away(async () => {
      await till.enter('CLA-0510');
      await till.see('#question:focus');
      await till.read('Looking up what is in stock');
      await till.keys('CLA05101002', Key.ENTER);
      await till.read('Whether it is in stock cannot be looked up now');
    });
    await till.see('[aria-label="In stock"] li');
    await till.keys(Key.ENTER);
    await till.read('No. CLA05101002', '.tape');
    await till.away(async () => {
      await till.press('Item');
      await till.read('Looking it up', '.panel.item');
    });
    await till.read('In stock', '.panel.item');
    await till.keys(Key.ESCAPE);
    await empty();
  });

  it('asks for the length, a note, the age', async () => {
    await till.enter('CAB-CUT');
    await till.read('How many m?');
    await till.keys('2.345', Key.ENTER);
    await till.read('at most 2 decimals');
    await till.selectAll();
    await till.keys('2.5', Key.ENTER);
    await till.shows('.row.on .q', '2.5 m');
    await till.enter('ENG');
    await till.read('Which words?');
    await till.keys('For Lou', Key.ENTER);
    await till.read('For Lou', '.tape');
    await till.enter('CAR-RK');
    await till.read('Sold from 18 years on.');
    await till.read('March 2, 2008');
    await till.keys(Key.ESCAPE);
    await till.count('.row', 2);
    await till.enter('CAR-RK');
    await till.read('Sold from 18 years on.');
    await till.keys(Key.ENTER);
    await till.read('Age checked', '.tape');
    await empty();
  });

  it('keeps what is scanned meanwhile until its question is answered', async () => {
    await till.enter('REP-OPEN');
    await till.see('#question:focus');
    await till.scan(ownEan13(22, 3));
    await till.read('answer the question first');
    await till.read('Rung up after this: 1', '.behind');
    await till.read('Recital bundle', '.behind');
    expect(await till.findings()).toEqual([]);
    // Also when the page is loaded anew while it waits: both ask again, in the same order.
    await till.driver.navigate().refresh();
    await till.see('#question');
    await till.read('Recital bundle', '.behind');
    await till.keys('45', Key.ENTER);
    await till.count('.row', 4);
    await till.count('.behind', 0);
    await till.read('Recital bundle', '.tape');
    await empty();
  });

  it('keeps what was chosen by words meanwhile, also when the page is loaded anew', async () => {
    await till.enter('REP-OPEN');
    await till.see('#question:focus');
    await till.focus('[name="entry"]');
    await till.enterFound('recital bundle');
    await till.read('Recital bundle', '.behind');
    await till.driver.navigate().refresh();
    await till.see('#question:focus');
    await till.read('Recital bundle', '.behind');
    await till.keys('45', Key.ENTER);
    await till.count('.row', 4);
    await till.read('Recital bundle', '.tape');
    await empty();
  });

  it('reads the weight or the price inside a label, and takes each label by itself', async () => {
    const code = (digits: string) => digits + checkDigit(digits);
    await till.scan(code('270041701250'));
    await till.shows('.row.on .q', '1.25 kg');
    await till.shows('.row.on .a', '22.50');
    await till.scan(code('280005200640'));
    await till.read('Second-hand music', '.tape');
    await till.shows('.row.on .a', '6.40');
    await till.keys('+');
    await till.read('scan each label');
    await till.scan(code('280005200640'));
    await till.count('.row', 3);
  });

  it('sells all of it, and ties out', async () => {
    await till.enter('CLA-0510');
    await till.see('#question:focus');
    await till.keys('CLA05101002', Key.ENTER);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.read('Receipt 1-0001', '.out');
    await till.read('CLA05101002', '.paper');
    expect(await shop.verify()).toContain('0 differences.');
    await shop.start();
    await till.go('/counter');
    await till.ready();
  });
});

describe('a code that nobody knows', () => {
  it('leads back to the search, or sells at an open price', async () => {
    await till.scan('X-99-4711');
    await till.read('Unknown code');
    expect(await till.findings()).toEqual([]);
    await till.press('Search by name');
    await till.enterFound('rosin light');
    await till.count('.row', 1);
    await till.scan('X-99-4711');
    await till.read('Somebody with more rights can tie the code');
    await till.press('Sell it at an open price');
    await till.see('#question:focus');
    await till.keys('12.50', Key.ENTER);
    await till.read('What is it?');
    await till.keys('Kazoo', Key.ENTER);
    await till.read('Unlisted item', '.tape');
    await till.read('Kazoo', '.tape');
    await empty();
  });

  it('is tied to an item by somebody who may, and means it on every till', async () => {
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('3690', Key.ENTER);
    await till.ready();
    await till.scan('X-99-4711');
    await till.press('Tie the code to an item');
    await till.see('#tie-search');
    await till.keys('metronome clip');
    await till.foundIn('tie');
    await till.keys(Key.ENTER);
    await till.read('X-99-4711 means Metronome, clip-on from now on.');
    await till.count('.row', 1);
    await till.scan('X-99-4711');
    await till.shows('.row.on .q', '2');
    await empty();
  });

  it('becomes a new item', async () => {
    await till.scan(ownEan13(29, 1));
    await till.press('Add it as a new item');
    await till.see('#new-name');
    await till.keys('Kazoo', Key.TAB, '2.5x', Key.TAB, 'Toys', Key.ENTER);
    await till.read('Type the price of one');
    await till.focus('#new-price');
    await till.selectAll();
    await till.keys('2.50', Key.ENTER);
    await till.read('Kazoo is among the goods from now on.');
    await till.shows('[data-test="to-pay"]', '2.69');
  });
});
