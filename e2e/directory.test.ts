import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ownEan13 } from '../demo/barcodes.ts';
import { count } from './hand.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { openShop, type TestShop } from './testShop.ts';
import { Till } from './till.ts';

let shop: TestShop;
let till: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  await till.signIn('8024', 1);
  await openDrawer(till);
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

const rows = '.list tbody tr';
const field = '.list [data-search] input';
/** Goes to the list and looks for somebody: typing takes the place of what was looked for before. */
const find = async (words: string, wanted = 1) => {
  await till.click('nav a[href="/people"]');
  await till.see(field);
  await till.focus(field);
  await till.selectAll();
  await till.keys(words);
  await till.count(rows, wanted);
};

describe('People', () => {
  it('are found by words, groups and what they owe, and opened with the keyboard alone', async () => {
    await till.click('nav a[href="/people"]');
    await till.read('30 customers');
    expect(await till.findings()).toEqual([]);
    await till.press('Owes us');
    await till.count(rows, 2);
    await till.press('Show everybody');
    await find('ferrisport', 2);
    await till.keys(Key.ARROW_DOWN);
    await till.read('Marit Solvane', 'tr.on');
    await till.keys(Key.ENTER);
    await till.read('Known since');
    await till.shows('h1', 'Marit Solvane');
    await till.read('214.50');
    expect(await till.findings()).toEqual([]);
    await till.resize({ width: 1024, height: 768 });
    expect(await till.sticksOut()).toBe(0);
    await till.resize({ width: 1280, height: 800 });
  });

  it('are changed in place: what is wrong stands at its field, and who changed what is kept', async () => {
    await till.press('Change');
    await till.see('.panel');
    await till.fill('Birthday: day', '31');
    await till.choose('Month', 'April');
    await till.keys(Key.F9);
    await till.read('This month has no such day.');
    await till.fill('Birthday: day', '30');
    await till.keys(Key.F9);
    await till.count('.panel', 0);
    await till.read('April 30');
    await till.read('Isolde R.');
    await till.read('04-30');
  });

  it('get another card for a lost one in four steps, and the old one stops everywhere', async () => {
    // The card cannot be scanned: it is lost. They are found by name.
    await till.click('nav a[href="/people"]');
    await till.see(field);
    await till.focus(field);
    await till.selectAll();
    const actions = await count(till, async (hand) => {
      await hand.type('priya');
      await till.count(rows, 1);
      await hand.key(Key.ENTER);
      await hand.press('Replace the card');
      await till.see('#new-card:focus');
      hand.actions += 1;
      await till.scan('NEWCARD-77');
      await till.read('The old one has stopped on every till.');
    });
    expect(actions).toBeLessThanOrEqual(4);
    await till.read('NEWCARD-77');
    await till.click('nav a[href="/counter"]');
    await till.scan(ownEan13(24, 1));
    await till.read('was replaced and counts no more');
    await till.scan('NEWCARD-77');
    await till.read('Priya Hallow is on the sale.');
  });

  it('get the code that they show on their telephone by mail', async () => {
    await till.click('nav a[href="/people"]');
    await till.see(field);
    await till.focus(field);
    await till.selectAll();
    await till.keys('priya');
    await till.count(rows, 1);
    await till.keys(Key.ENTER);
    await till.press('Mail the code for their phone');
    await till.read('The code goes to');
  });

  it('come with their card; a card that is scanned here opens its customer', async () => {
    await till.click('nav a[href="/people"]');
    await till.press('New customer');
    await till.fill('Name', 'Cara Newcomer');
    // Whatever the hand is in, a card that is scanned is theirs.
    await till.scan('CARA-0001');
    await till.click('form button[type="submit"]');
    await till.shows('h1', 'Cara Newcomer');
    await till.read('CARA-0001');
    await till.scan('NEWCARD-77');
    await till.shows('h1', 'Priya Hallow');
  });

  it('that were two records become one, also on a basket', async () => {
    await till.scan('CARA-0001');
    await till.shows('h1', 'Cara Newcomer');
    await till.press('Merge with');
    await till.keys('lou bram');
    await till.foundIn('same');
    await till.click('#same-0');
    await till.read('It cannot be undone.');
    await till.press('Merge them');
    await till.read('Lou Bramblecote is found under Cara Newcomer from now on.');
    await till.read('Also found under this record: Lou Bramblecote');
    await till.read('35.00', '.figures');
    await till.press('Put on the sale');
    await till.read('35.00 credit', '.customer');
  });

  it('come from a list, once it was looked through', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'mondrel-list-')), 'customers.csv');
    writeFileSync(
      file,
      ['Full name;Telephone;Shoe size', 'Ada Tornquist;555-0301;38', ';555-0302;'].join('\r\n'),
    );
    await till.click('nav a[href="/people"]');
    await till.press('Import');
    await (await till.see('input[type="file"]')).sendKeys(file);
    await till.read('Refused: What is the name?');
    await till.read('Ada Tornquist');
    expect(await till.findings()).toEqual([]);
    await till.press('Write 1');
    await till.read('It is in.');
    await find('tornq');
    await till.read('555-0301');
  });

  it('are put into groups by a rule; a group that something stands on stays', async () => {
    await till.press('Groups');
    await till.press('Teachers');
    await till.press('Take this group away');
    await till.read('Teachers is in use.');
    await till.press('New group');
    await till.fill('Name', 'Regulars');
    await till.press('By what somebody spends');
    await till.fill('Spent at least, with tax', '500');
    await till.keys(Key.F9);
    await till.read('Whoever has spent 500.00 or more in 12 months');
    expect(await till.findings()).toEqual([]);
  });

  it('are forgotten once nothing is open', async () => {
    await find('agnes');
    await till.keys(Key.ENTER);
    await till.press('Forget them');
    await till.read('They owe 89.00.');
    await till.keys(Key.ESCAPE);
    await find('tornq');
    await till.keys(Key.ENTER);
    await till.press('Forget them');
    await till.press('Forget them for good');
    await till.read('Ada Tornquist is forgotten.');
    await till.read('Nothing fits');
    expect(await shop.verify()).toContain('0 differences.');
  });
});
