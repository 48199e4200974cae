import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { rawPrinter, type RawPrinter } from '../devices/printer/testing/rawPrinter.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
let raw: RawPrinter;
beforeAll(async () => {
  raw = await rawPrinter();
  shop = await openShop();
  till = await Till.open(() => shop.url);
});
afterAll(async () => {
  await till.close();
  await shop.end();
  await raw.stop();
});

const BADGE = 'nav a[href="/printer"] .n';

async function sell(): Promise<void> {
  await till.click('nav a[href="/counter"]');
  await till.enter('LES-30');
  await till.shows('[data-test="to-pay"]', '32.00');
  await till.keys(Key.F9);
  await till.see('#handed');
  await till.keys(Key.F9);
  await till.shows('[data-test="change"]', '0.00');
}

describe('a receipt printer on the network', () => {
  it('is set up, and prints a test page', async () => {
    await till.signIn('8024');
    await openDrawer(till);
    await till.go('/setup/printers');
    await till.choose('Where receipts come out', 'On the network');
    await till.fill('Address of the printer', '127.0.0.1');
    await till.fill('Port', String(raw.port));
    await till.press('Keep and print a test page');
    await till.read('A test page is on its way to the printer of till 1.');
    await expect.poll(() => raw.papers.join('')).toContain('Test page of till 1');
    expect(await till.findings()).toEqual([]);
  });

  it('says at the till that it is out of paper, and prints the receipt once it has some', async () => {
    raw.set({ paperOut: true });
    await sell();
    await till.read('The printer is out of paper. Nothing is lost');
    await till.shows(BADGE, '1');
    await till.click('nav a[href="/printer"]');
    await till.read('Waiting for the printer');
    expect(await till.findings()).toEqual([]);
    raw.set({ paperOut: false });
    await till.count(BADGE, 0);
    await till.read('All is printed');
    expect(raw.papers.filter((paper) => paper.includes('32.00'))).toHaveLength(1);
  });

  it('that was cut off asks whether the receipt came out, and prints it again only when told', async () => {
    raw.set({ cutAfter: 200 });
    await sell();
    await till.read('may not have come out whole');
    await till.click('nav a[href="/printer"]');
    await till.read('Did it come out?');
    expect(await till.findings()).toEqual([]);
    const before = raw.papers.length;
    await till.press('Print it again');
    await till.count(BADGE, 0);
    await expect.poll(() => raw.papers.length).toBe(before + 1);
  });

  it('leaves nothing behind', async () => {
    expect(await shop.verify()).toContain('0 differences');
  });
});
