import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDrawer } from './handsOnDrawer.ts';
import { openShop, type TestShop } from './testShop.ts';
import { Till } from './till.ts';

let shop: TestShop;
let till: Till;
let other: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  await till.signIn('1357');
  await openDrawer(till);
  other = await Till.open(() => shop.url);
});
afterAll(async () => {
  await till.close();
  await other.close();
  await shop.end();
});

/** The second person types their PIN. */
async function approve(): Promise<void> {
  await till.see('#second-pin:focus');
  await till.keys('3690', Key.ENTER);
  await till.read('approved it');
}

describe('what a second person approves', () => {
  it('is just that: what changed since is asked for again, with both figures', async () => {
    await till.enter('MET-C');
    await till.count('.row', 1);
    await till.keys(Key.ARROW_UP, 'p');
    await till.see('.panel input:focus');
    await till.keys('40', Key.TAB, 'Dented box', Key.ENTER);
    await approve();
    await till.read('40.00', '.row');
    await till.keys(Key.ARROW_UP, '+');
    await till.read('80.00', '.row');
    await till.keys(Key.F9);
    await till.see('.ways');
    await till.keys(Key.F9);
    await till.read('Approved: 45.00 to 40.00, 5.00. Now: 45.00 to 40.00, 10.00.');
    await approve();
    await till.keys(Key.F9);
    await till.see('.ways');
    await till.keys(Key.F9);
    await till.see('.change');
    expect(await till.findings()).toEqual([]);
  });
});

describe('a countersign', () => {
  async function ask(): Promise<void> {
    await till.focus('[name="entry"]');
    await till.enter('MET-C');
    await till.count('.row', 1);
    await till.keys(Key.ARROW_UP, 'p');
    await till.see('.panel input:focus');
    await till.keys('40', Key.TAB, 'Dented box', Key.ENTER);
    await till.see('#second-pin:focus');
  }

  it('closes with Esc wherever the hand is, with its step, and with its basket', async () => {
    await till.keys(Key.F9);
    await ask();
    expect(await till.keysShownTwice()).toEqual([]);
    await till.focus('[name="entry"]');
    await till.keys(Key.ESCAPE);
    await till.count('#second-pin', 0);
    await till.keys(Key.ESCAPE);
    await till.count('.panel', 0);
    await till.keys(Key.ARROW_UP, 'p');
    await till.see('.panel input:focus');
    await till.keys('40', Key.TAB, 'Dented box', Key.ENTER);
    await till.see('#second-pin:focus');
    // The page is left, and with it the step.
    await till.click('nav a[href="/waiting"]');
    await till.click('nav a[href="/counter"]');
    await till.count('#second-pin', 0);
    await till.keys(Key.ESCAPE);
    await till.shows('[data-test="to-pay"]', '48.38');
  });
});

describe('signing out everywhere', () => {
  it('ends the session on the other till, too', async () => {
    await other.signIn('1357', 2);
    await till.press('Keys');
    await till.press('Sign out everywhere');
    await till.see('#pin');
    await other.click('nav a[href="/journal"]');
    await other.see('#pin');
  });
});
