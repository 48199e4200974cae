import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDrawer } from './handsOnDrawer.ts';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  await till.signIn('1357');
  await openDrawer(till);
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

describe('work on lines and basket', () => {
  it('adds equal goods to the line that is there', async () => {
    for (const entry of ['STA-ORCH', 'MET-C', 'STA-ORCH']) await till.enter(entry);
    await till.count('.row', 2);
    await till.shows('.row.on .q', '2');
    await till.keys('-');
    await till.read('one less of Orchestra stand');
    await till.keys(Key.ENTER);
    await till.shows('.row.on .q', '1');
  });

  it('shows an item with its stock at every place', async () => {
    await till.keys(Key.ARROW_UP, Key.ARROW_UP, 'i');
    await till.read('Orchestra stand', '.panel');
    await till.read('Depot', '.panel');
    await till.read('now', '.panel');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ESCAPE);
    await till.see('[data-test="to-pay"]');
  });

  it('asks a second person for another price, and a wrong one is refused in place', async () => {
    await till.keys(Key.ARROW_DOWN, Key.ARROW_UP, 'p');
    await till.see('#work-first');
    expect(await till.findings()).toEqual([]);
    await till.keys('50', Key.ENTER);
    await till.read('Say why: the reason is printed.');
    await till.press('Damaged');
    await till.press('Set the price');
    await till.see('#second-pin');
    expect(await till.findings()).toEqual([]);
    await till.keys('2468', Key.ENTER);
    await till.read('Teo V. may not do this either');
    await till.keys('3690', Key.ENTER);
    await till.read('Maren K. approved it.');
    await till.read('Damaged', '.row.on');
    await till.shows('[data-test="to-pay"]', '102.13');
  });

  it('leaves everything as it was when nobody approves', async () => {
    await till.press('No tax');
    await till.see('#work-first');
    await till.keys('School', Key.TAB, 'E-77', Key.ENTER);
    await till.see('#second-pin');
    await till.keys(Key.ESCAPE);
    await till.read('Not approved.');
    await till.holds('#work-second', 'E-77');
    await till.keys(Key.ENTER);
    await till.see('#second-pin');
    await till.keys('8024', Key.ENTER);
    await till.read('Without tax: School');
    await till.shows('[data-test="to-pay"]', '95.00');
  });

  it('takes notes and gift marks, all of it through a reload', async () => {
    await till.keys(Key.ARROW_DOWN, 'n');
    await till.see('#work-first');
    await till.keys('wrapped', Key.ENTER);
    await till.read('wrapped', '.row.on');
    await till.press('Gift');
    await till.read('Gift receipt', '.row.on');
    await till.press('Note for the sale');
    await till.see('#work-first');
    await till.keys('Collected by Sam.', Key.ENTER);
    await till.driver.navigate().refresh();
    await till.read('Collected by Sam.', '.tape');
    await till.read('wrapped', '.tape');
    await till.shows('[data-test="to-pay"]', '95.00');
  });

  it('clears and brings everything back', async () => {
    await till.press('Clear');
    await till.count('.row', 0);
    await till.press('Undo');
    await till.count('.row', 2);
    await till.shows('[data-test="to-pay"]', '95.00');
  });

  it('prints it all, and ties out', async () => {
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.read('printed', '.out');
    await till.read('Without tax: School, certificate E-77', '.paper');
    await till.read('−9.00', '.paper');
    await till.click('nav a[href="/printer"]');
    await till.count('figure', 2);
    await till.read('Gift receipt');
    expect(await shop.verify()).toContain('0 differences.');
  });

  it('does not take a scanned label for shortcuts on a line', async () => {
    await shop.start();
    await till.go('/counter');
    await till.ready();
    await till.enter('MET-C');
    await till.enter('STA-ORCH');
    await till.keys(Key.ARROW_UP);
    await till.wait(async () =>
      (await till.driver.switchTo().activeElement().getAttribute('class'))?.includes('line'),
    );
    await till.scan('P-777777');
    await till.read('Unknown code');
    await till.count('#work-first', 0);
    await till.count('.row', 2);
  });

  it('does something with several lines at once', async () => {
    await till.keys(Key.ESCAPE);
    await till.enter('PIC-M');
    await till.enter('LES-30');
    await till.count('.row', 4);
    await till.keys(Key.ARROW_UP);
    await till.see('.row.on button.line');
    await till.keys(' ');
    await till.count('.row.picked', 1);
    await till.keys(Key.ARROW_DOWN, ' ');
    await till.count('.row.picked', 2);
    await till.read('2 lines picked, 32.60');
    expect(await till.findings()).toEqual([]);
    await till.press('Gifts');
    await till.read('No gifts', '.tape');
    await till.click('.with-picked .stop');
    await till.count('.row', 2);
    await till.read('2 lines removed.');
    await till.press('Undo');
    await till.count('.row', 4);
    await till.read('Gift receipt', '.tape');
  });

  it('gives goods back after payment began only with an approval', async () => {
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.ESCAPE);
    await till.see('.row.on .edit');
    await till.keys(Key.DELETE);
    await till.see('#second-pin');
    await till.read('Take goods out after payment began');
    await till.keys(Key.ESCAPE);
    await till.count('.row', 4);
    await till.keys(Key.DELETE);
    await till.see('#second-pin');
    await till.keys('3690', Key.ENTER);
    await till.count('.row', 3);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.see('[data-test="change"]');
    expect(await shop.verify()).toContain('0 differences.');
  });

  it('takes goods back without their receipt only with an approval, and for goods that are taken instead', async () => {
    await shop.start();
    await till.go('/counter');
    await till.ready();
    await till.enter('STA-ORCH');
    await till.enter('-1*MET-P');
    await till.see('#second-pin');
    await till.read('Take goods back without their receipt');
    await till.keys('3690', Key.ENTER);
    await till.count('.row', 2);
    await till.read('Comes back, no receipt', '.tape');
    await till.shows('[data-test="to-pay"]', '32.25');
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.read('−29.00', '.paper');
    expect(await shop.verify()).toContain('0 differences.');
  });

  it('takes nothing that was not in sight: figures alone, and a minus that begins goods that come back', async () => {
    await till.keys(Key.ENTER);
    await till.count('.row', 0);
    await till.enter('2');
    await till.read('No item has this number', '.entry');
    await till.keys(Key.ESCAPE, '-');
    await till.read('Comes back: −1*number', '.entry');
    await till.keys('1*');
    await till.read('1 × comes back', '.entry');
    await till.keys(Key.ESCAPE);
    await till.count('.row', 0);
  });
});
