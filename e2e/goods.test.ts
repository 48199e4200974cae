import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ownEan13 } from '../demo/barcodes.ts';
import { count } from './hand.ts';
import { payExact } from './handsOnCounter.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { openShop, type TestShop } from './testShop.ts';
import { Till } from './till.ts';

let shop: TestShop;
let till: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  await till.signIn('3690', 1);
  await openDrawer(till);
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

const rows = '.list tbody tr';
const field = '.list [data-search] input';
const category = "//label[normalize-space(.) = 'Category']/ancestor::*[contains(@class, 'v-field')][1]";
const KAZOO = ownEan13(23, 4711);
/** Goes to the list and looks for something: typing takes the place of what was looked for before. */
async function find(words: string): Promise<void> {
  await till.click('nav a[href="/goods"]');
  await till.see(field);
  await till.focus(field);
  await till.selectAll();
  await till.keys(words);
}

/** Whether the middle of a row can be seen. */
const inSight = (row: string): Promise<boolean> =>
  till.driver.executeScript<boolean>(
    `const row = document.querySelector(arguments[0]);
     const { left, top, height } = row.getBoundingClientRect();
     return row.contains(document.elementFromPoint(left + 20, top + height / 2));`,
    row,
  );

/** Presses a cell of a table beneath what it says. */
async function pressBeneath(css: string): Promise<void> {
  const cell = await till.see(css);
  const { height } = await cell.getRect();
  await till.driver
    .actions()
    .move({ origin: cell, y: Math.floor(height / 2) - 3 })
    .click()
    .perform();
}

describe('Goods', () => {
  it('are found by words or number, and opened with the keyboard alone', async () => {
    await till.click('nav a[href="/goods"]');
    await till.count(rows, 50);
    expect(await till.findings()).toEqual([]);
    // What the arrows chose stays in sight, beneath the headings.
    for (const [key, times] of [
      [Key.ARROW_DOWN, 30],
      [Key.ARROW_UP, 29],
    ] as const) {
      await till.keys(...Array<string>(times).fill(key));
      await till.wait(() => inSight('tr.on'));
    }
    await till.keys(' ');
    await till.read('1 picked', '.head');
    const [, all = ''] = /([\d,]+) items/.exec(await till.text('.head')) ?? [];
    await till.press(`Pick all ${all}`);
    await till.read(`${all} picked`, '.head');
    await till.press('Pick none');
    await till.see('.head .go[href="/goods/new"]');
    await find('met-c');
    await till.read('Metronome, clip-on', 'tr.on');
    await till.keys(Key.ENTER);
    await till.shows('h1', 'Metronome, clip-on');
    // Or by a press anywhere in its row, only not beside the box that picks it.
    await till.driver.navigate().back();
    await till.read('Metronome, clip-on', 'tr.on');
    await pressBeneath('tr.on td:has(.check-field)');
    await pressBeneath('tr.on td:last-child');
    await till.shows('h1', 'Metronome, clip-on');
    await till.read('Who changed what');
    expect(await till.findings()).toEqual([]);
    await till.resize({ width: 1024, height: 768 });
    expect(await till.sticksOut()).toBe(0);
    await till.resize({ width: 1280, height: 800 });
  });

  it('are added one after the other, by scan, and sold at once', async () => {
    await find('zzz');
    await till.read('Nothing fits');
    await till.scan(KAZOO);
    await till.read(`Nothing has the code ${KAZOO}.`);
    await till.press('New item');
    await till.shows('h2', 'New items, one after the other');
    await till.keys('Kazoo, tin', Key.TAB, '2.50', Key.ENTER);
    await till.read('Which category?');
    expect(await till.findings()).toEqual([]);
    await till.click(category);
    await till.keys('Small winds', Key.TAB);
    await till.fill('On hand at Ostler Lane', '12');
    await till.keys(Key.ENTER);
    await till.read('Kazoo, tin can be sold on every till.');
    // The next one lies on the same shelf: scan, name, price, Enter.
    const actions = await count(till, async (hand) => {
      hand.actions += 1;
      await till.scan(ownEan13(23, 4712));
      await till.see('input[id]:focus');
      await hand.type('Kazoo, brass');
      await hand.key(Key.TAB);
      await hand.type('4.20');
      await hand.key(Key.ENTER);
      await till.read('Kazoo, brass can be sold on every till.');
    });
    expect(actions).toBeLessThanOrEqual(5);
    // A code that is known opens its item.
    await till.scan(KAZOO);
    await till.shows('h1', 'Kazoo, tin');
    await till.read('Was here before');
    await till.click('nav a[href="/counter"]');
    await till.scan(KAZOO);
    await till.read('Kazoo, tin', '.row');
    await till.shows('[data-test="to-pay"]', '2.69');
    await payExact(till);
    await till.keys(Key.F9);
  });

  it('are added over a slow line: what is typed and scanned before an answer has come is where it belongs', async () => {
    await find('zzz');
    await till.read('Nothing fits');
    await till.scan(ownEan13(23, 4715));
    await till.button('New item');
    await till.far(600, async () => {
      await till.press('New item');
      await till.shows('h2', 'New items, one after the other');
      await till.keys('Nose flute, wood');
      await till.fill('Price', '3.10');
      await till.click(category);
      await till.keys('Small winds', Key.TAB);
      await till.fill('On hand at Ostler Lane', '2');
      await till.keys(Key.ENTER);
      await till.scan(ownEan13(23, 4716));
      await till.read('Nose flute, wood can be sold on every till.');
      await till.holds('#item-code', ownEan13(23, 4716));
      await till.keys('Nose flute, bone');
      await till.fill('Price', '5.20');
      await till.keys(Key.ENTER);
      await till.read('Nose flute, bone can be sold on every till.');
    });
    await till.scan(ownEan13(23, 4716));
    await till.shows('h1', 'Nose flute, bone');
  });

  it('are changed in place: what is wrong stands at its field, and who changed what is kept', async () => {
    await find('kazoo tin');
    await till.count(rows, 1);
    await till.keys(Key.ENTER);
    await till.shows('h1', 'Kazoo, tin');
    await till.press('Change');
    await till.fill('Price', 'much');
    await till.keys(Key.F9);
    await till.read('Type an amount.');
    // The hand is where something is wrong.
    await till.selectAll();
    await till.keys('2.90');
    await till.fill('Number', 'met-c');
    await till.keys(Key.F9);
    await till.read('MET-C means Metronome, clip-on already.');
    await till.fill('Number', 'kaz-tin');
    await till.scan('EXTRA-CODE-1');
    await till.read('EXTRA-CODE-1', '.panel');
    await till.keys(Key.F9);
    await till.count('.panel', 0);
    await till.read('KAZ-TIN');
    await till.read('Price: 2.50 2.90');
    await till.read('Maren K.');
    await till.scan('EXTRA-CODE-1');
    await till.shows('h1', 'Kazoo, tin');
  });

  it('are changed in two windows at once, and what was done in each is kept', async () => {
    await find('kazoo tin');
    await till.count(rows, 1);
    await till.keys(Key.ENTER);
    await till.shows('h1', 'Kazoo, tin');
    const at = new URL(await till.driver.getCurrentUrl()).pathname;
    await till.press('Change');
    await till.fill('Name', 'Kazoo, of tin');
    const beside = await Till.beside(till, at);
    await beside.run(async () => {
      await till.press('Change');
      await till.fill('Price', '3.10');
      await till.keys(Key.F9);
      await till.count('.panel', 0);
    });
    await beside.close();
    await till.keys(Key.F9);
    await till.read('Kazoo, tin was changed by somebody else meanwhile.', '.panel');
    await till.keys(Key.F9);
    await till.shows('h1', 'Kazoo, of tin');
    await till.read('Price: 2.90 3.10');
    await till.press('Change');
    await till.fill('Name', 'Kazoo, tin');
    await till.fill('Price', '2.90');
    await till.keys(Key.F9);
    await till.shows('h1', 'Kazoo, tin');
  });

  it('get a price from a day on, and stock that is put right with a reason', async () => {
    await till.press('Price from a day on');
    await till.fill('Price', '3.40');
    await till.keys(Key.F9);
    await till.read('From which day?');
    await till.fill('From', '04/01/2026');
    await till.keys(Key.TAB, Key.F9);
    await till.read('Kazoo, tin costs 3.40 from');
    await till.read('Prices to come');
    await till.press('Take away');
    await till.count('.panel', 0);
    await till.press('Put stock right');
    await till.press('Missing −');
    await till.keys(Key.F9);
    await till.read('How many?');
    await till.keys('2');
    await till.read('Then 9 are there');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ENTER);
    await till.read('Kazoo, tin: stock is put right.');
    await till.read('Missing', '.page-lists');
    await till.read('−2', '.page-lists');
  });

  it('are changed many at once, and what that does is said before', async () => {
    await find('kazoo');
    await till.count(rows, 2);
    await till.click('[aria-label="Pick the whole page"]');
    await till.read('2 picked');
    await till.press('Change them');
    await till.shows('aside h2', 'Change 2 items at once');
    await till.press('By a part');
    await till.press('Show the effect');
    await till.read('How much?');
    await till.fill('By', '10');
    await till.press('….95');
    await till.press('Show the effect');
    await till.read('Price 4.20 4.95');
    expect(await till.findings()).toEqual([]);
    await till.press('Change 2 items');
    await till.read('2 items changed, on every till.');
    await till.count('aside', 0);
    await till.read('4.95', rows);
    await find('kazoo brass');
    await till.count(rows, 1);
    await till.keys(Key.ENTER);
    await till.shows('h1', 'Kazoo, brass');
    await till.read('Price: 4.20 4.95');
  });

  it('get labels: those whose price has changed are printed in three steps', async () => {
    await find('kazoo');
    await till.count(rows, 2);
    await till.click('[aria-label="Pick the whole page"]');
    await till.press('Labels');
    await till.read('Print 2');
    expect(await till.findings()).toEqual([]);
    await till.press('Other labels');
    await till.fill('Beside each other', '9');
    await till.press('Print 2');
    await till.read('So many do not fit beside each other on the sheet.');
    await till.fill('Beside each other', '3');
    const [own = ''] = await till.driver.getAllWindowHandles();
    const closeSheet = async () => {
      await till.wait(async () => (await till.driver.getAllWindowHandles()).length === 2);
      const sheet = (await till.driver.getAllWindowHandles()).find((one) => one !== own) ?? '';
      await till.driver.switchTo().window(sheet);
      await till.driver.close();
      await till.driver.switchTo().window(own);
    };
    await till.press('Print 2');
    await till.read('2 labels are on the sheet.');
    await closeSheet();
    await find('kazoo brass');
    await till.count(rows, 1);
    await till.keys(Key.ENTER);
    await till.press('Change');
    await till.fill('Price', '5.50');
    await till.keys(Key.F9);
    await till.read('Price: 4.95 5.50');
    await till.click('nav a[href="/goods"]');
    const actions = await count(till, async (hand) => {
      await hand.press('Labels: 1 due');
      await hand.press('Print 1');
      await till.read('1 label is on the sheet.');
    });
    expect(actions).toBeLessThanOrEqual(3);
    await closeSheet();
  });

  it('come from a list that is looked through before anything is written', async () => {
    const manager = await Till.open(() => shop.url);
    await manager.signIn('8024', 3);
    await manager.click('nav a[href="/goods"]');
    await manager.press('Import');
    const file = join(mkdtempSync(join(tmpdir(), 'mondrel-list-')), 'goods.csv');
    writeFileSync(
      file,
      [
        'Number;Name;Category;Price;On hand',
        'OCA-1;Ocarina, clay;Small winds;14,50;6',
        'MET-C;;;46,00;',
        'OCA-2;Ocarina, wood;Small winds;dear;',
      ].join('\r\n'),
    );
    await (await manager.see('input[type="file"]')).sendKeys(file);
    await manager.read('Write 2');
    await manager.read('“dear” is no price.');
    await manager.read('Price: 45.00 → 46.00');
    expect(await manager.findings()).toEqual([]);
    await manager.press('Write 2');
    await manager.read('It is in.');
    await manager.click('nav a[href="/goods"]');
    await manager.see(field);
    await manager.focus(field);
    await manager.selectAll();
    await manager.keys('ocarina');
    await manager.count(rows, 1);
    await manager.read('14.50', rows);
    await manager.close();
    // A till that was open meanwhile sells it.
    await till.click('nav a[href="/counter"]');
    await till.see('.next-step');
    await till.enter('OCA-1');
    await till.read('Ocarina, clay', '.row');
    await till.press('Clear');
  });

  it('come in families: made by what they differ in, with a code scanned, sold as variants, and more of them later', async () => {
    await till.click('nav a[href="/goods"]');
    await till.press('New item');
    await till.press('A family');
    await till.shows('h2', 'A new family');
    await till.press('Make it');
    await till.read('Size, colour, or what is it?');
    expect(await till.findings()).toEqual([]);
    await till.fill('Name', 'Beret');
    await till.fill('Price', '18.00');
    await till.click(category);
    await till.keys('Hats', Key.TAB);
    await till.fill('Number, with which theirs begin', 'beret');
    await till.fill('What do they differ in?', 'Size');
    await till.fill('Size: values, with commas between', 'Small, Large');
    await till.keys(Key.ENTER);
    await till.count('.goods-lines tbody tr', 2);
    await till.fill('And in what else?', 'Colour');
    await till.fill('Colour: values, with commas between', 'Red');
    await till.keys(Key.ENTER);
    await till.read('Large, Red');
    const code = ownEan13(23, 4720);
    await till.scan(code);
    await till.wait(
      async () =>
        (await (await till.see('[aria-label="Code of Small, Red"]')).getAttribute('value')) === code,
    );
    await till.fill('Number of Large, Red', 'MET-C');
    await till.press('Make all 2');
    await till.read('MET-C means Metronome, clip-on already.');
    await till.fill('Number of Large, Red', 'BERET-L');
    expect(await till.findings()).toEqual([]);
    await till.resize({ width: 1024, height: 768 });
    expect(await till.sticksOut()).toBe(0);
    await till.resize({ width: 1280, height: 800 });
    await till.press('Make all 2');
    await till.shows('h1', 'Beret');
    await till.press('Add variants');
    await till.click("//label[starts-with(., 'Size: values')]/ancestor::*[contains(@class, 'v-field')][1]");
    await till.keys('Huge', Key.ENTER);
    await till.read('Huge, Red');
    await till.press('Make them');
    await till.read('Beret, Huge, Red', '.page-lists');
    await till.click('nav a[href="/counter"]');
    await till.scan(code);
    await till.read('Beret, Small, Red', '.row');
    await till.press('Clear');
  });

  it('come in bundles: several under one code, each with its price', async () => {
    await till.click('nav a[href="/goods"]');
    await till.press('New item');
    await till.press('A bundle');
    await till.shows('h2', 'A new bundle');
    await till.press('Make it');
    await till.read('What is in it?');
    await till.fill('Name', 'Buskers’ set');
    await till.fill('Number', 'busk');
    await till.click(category);
    await till.keys('Hats', Key.TAB);
    await till.scan(KAZOO);
    await till.read('Kazoo, tin', '.goods-lines');
    await till.fill('What is in it: name, number, or scan the code', 'beret large red');
    await till.count('.offered li', 1);
    await till.keys(Key.ENTER);
    await till.count('.goods-lines tbody tr', 2);
    await till.fill('Quantity of Kazoo, tin', '2');
    expect(await till.findings()).toEqual([]);
    await till.press('Make it');
    await till.shows('h1', 'Buskers’ set');
    await till.press('Change what is in it');
    await till.fill('Quantity of Kazoo, tin', '3');
    await till.press('Keep it');
    await till.read('3 × ', '.page-lists');
    await till.click('nav a[href="/counter"]');
    await till.see('.next-step');
    await till.enter('BUSK');
    await till.read('Kazoo, tin', '.row');
    await till.read('Beret, Large, Red');
    await till.press('Clear');
  });

  it('have pictures: made smaller, turned, put in order', async () => {
    await find('busk');
    await till.count(rows, 1);
    await till.keys(Key.ENTER);
    await till.press('Pictures');
    const folder = mkdtempSync(join(tmpdir(), 'mondrel-picture-'));
    const [wide, none] = [join(folder, 'wide.png'), join(folder, 'none.jpg')];
    writeFileSync(wide, PNG.sync.write(new PNG({ width: 2000, height: 1000 })));
    writeFileSync(none, 'no picture at all');
    await (await till.see('input[type="file"]')).sendKeys(none);
    await till.read('No picture that can be shown: none.jpg.');
    await (await till.see('input[type="file"]')).sendKeys(wide);
    const size = () =>
      till.driver.executeScript<string>(
        "const one = document.querySelector('.pictures img'); return one ? `${one.naturalWidth} ${one.naturalHeight}` : ''",
      );
    await till.wait(async () => (await size()) === '1200 600');
    expect(await till.findings()).toEqual([]);
    await till.press('Turn it');
    await till.wait(async () => (await size()) === '600 1200');
    await till.press('Take away');
    await till.count('.pictures img', 0);
    await till.press('Done');
    await till.shows('h1', 'Buskers’ set');
  });

  it('are put right above the limit of a role with an approval, and the history says so', async () => {
    await find('kaz-tin');
    await till.count(rows, 1);
    await till.keys(Key.ENTER);
    await till.press('Put stock right');
    await till.see('.panel');
    await till.fill('How many', '700');
    await till.fill('A unit costs', '1.00');
    await till.keys(Key.ENTER);
    await till.shows('.panel h2', 'Countersign');
    await till.read('Found, Kazoo, tin');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ESCAPE);
    await till.shows('.panel h2', 'Put stock right');
    await till.press('Then 709 are there');
    await till.shows('.panel h2', 'Countersign');
    await till.keys('8024', Key.ENTER);
    await till.read('Kazoo, tin: stock is put right.');
    await till.press('All of them, with filters');
    await till.read('approved by Isolde R.', rows);
    await till.count(rows, 4);
    await till.click(
      "//label[normalize-space(.) = 'What happened']/ancestor::*[contains(@class, 'v-field')][1]",
    );
    await till.click("//*[contains(@class, 'v-list-item')][normalize-space(.) = 'Sold']");
    await till.count(rows, 1);
    // What is asked for stands in the address: it is there again after loading.
    await till.driver.navigate().refresh();
    await till.count(rows, 1);
    expect(await till.findings()).toEqual([]);
    await till.resize({ width: 1024, height: 768 });
    expect(await till.sticksOut()).toBe(0);
    await till.resize({ width: 1280, height: 800 });
    await till.click(`${rows} td:last-child a`);
    await till.read('Kazoo, tin');
    expect(await till.driver.getCurrentUrl()).toContain('/journal/');
  });

  it('whose names are in another script are found by plain letters at the counter as well', async () => {
    await find('kazoo tin');
    await till.count(rows, 1);
    await till.keys(Key.ENTER);
    await till.press('Change');
    await till.fill('Name', 'Казу, жесть');
    await till.keys(Key.F9);
    await till.shows('h1', 'Казу, жесть');
    await till.click('nav a[href="/counter"]');
    for (const words of ['kazu zhest', 'казу']) {
      await till.keys(words);
      await till.read('Казу, жесть', '#found');
      await till.keys(Key.ESCAPE);
    }
  });

  it('are for those who look after them: a cashier sells', async () => {
    const cashier = await Till.open(() => shop.url);
    await cashier.signIn('1357', 2);
    await cashier.see('nav a[href="/people"]');
    await cashier.count('nav a[href="/goods"]', 0);
    await cashier.close();
    expect(await shop.verify()).toContain('0 differences.');
  });
});
