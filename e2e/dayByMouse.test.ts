import { By, Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

async function times(clicks: number, css: string): Promise<void> {
  for (let at = 0; at < clicks; at++) await till.click(css);
}

describe('a day at one till, by mouse and touch', () => {
  it('signs in on the pad', async () => {
    await till.go('/');
    for (const digit of '1357') await till.press(digit);
    await till.press('Sign in');
    await till.ready();
    await till.read('Noor A.');
  });

  it('opens the drawer with the counting buttons', async () => {
    await till.press('Open the drawer');
    await times(2, '[aria-label="One 100.00 more"]');
    await times(3, '[aria-label="One 20.00 more"]');
    await till.click('[aria-label="One 20.00 less"]');
    await till.shows('[data-test="counted"]', '240.00');
    await till.press('Open with 240.00');
    await till.read('The drawer is open with a float of 240.00.');
  });

  it('picks found items, changes quantities and removes', async () => {
    await till.click('[name="entry"]');
    await till.keys('stand light');
    await till.see('[name="entry"][data-found-for="stand light"]');
    await till.click('#found li:nth-child(3)');
    await till.read('Stand light, two lamps', '.tape');
    await till.click('[aria-label="One more"]');
    await till.shows('.row.on .q', '2');
    await till.click('[aria-label$="type the quantity"]');
    await till.keys('1.5', Key.ENTER);
    await till.read('A whole number above zero, please.');
    await till.selectAll();
    await till.keys('3', Key.ENTER);
    await till.shows('.row.on .q', '3');
    await till.shows('[data-test="to-pay"]', '60.95');
  });

  it('takes cash by a likely amount', async () => {
    await till.press('Take payment');
    await till.press('Back to basket');
    await till.press('Take payment');
    await till.press('65.00');
    await till.shows('[data-test="change"]', '4.05');
    await till.press('Next sale');
    await till.read('Nothing rung up yet');
  });

  it('finishes once on a double click', async () => {
    await till.click('[name="entry"]');
    await till.keys('LES-45', Key.ENTER);
    // The second click of the first double click comes where “Cash taken” has just appeared: it takes nothing.
    const pay = await till.button('Take payment');
    await till.driver.actions().doubleClick(pay).perform();
    await till.see('#handed');
    const go = await till.button('Cash taken');
    await till.driver.actions().doubleClick(go).perform();
    await till.read('Receipt 1-0002');
    await till.click('nav a[href="/journal"]');
    await till.read('2 entries');
  });

  it('shows a sale in the journal and prints a copy', async () => {
    await till.click('.rows li:nth-child(2) button');
    await till.read('Stand light, two lamps', '.lines');
    await till.press('Receipt');
    await till.read('Stand light, two lamps', '.paper');
    await till.press('Print a copy');
    await till.read('goes to the printer');
    await till.click('nav a[href="/printer"]');
    await till.read('COPY');
    await till.count('figure', 3);
  });

  it('closes the shift with a drawn signature', async () => {
    await till.click('nav a[href="/drawer"]');
    await till.see('.sheet');
    await times(3, '[aria-label="One 100.00 more"]');
    await till.click('.foot .go');
    await till.read('Accept');
    await till.click('.foot .go');
    await till.see('.bag');
    await till.click('.foot .go');
    const field = await till.see('canvas');
    await till.driver
      .actions()
      .move({ origin: field, x: -100, y: 10 })
      .press()
      .move({ origin: field, x: 60, y: -20 })
      .release()
      .perform();
    await till.press('Sign and close');
    await till.read('Signed: Noor A.', '.paper');
    expect(await till.driver.findElements(By.css('.paper svg path'))).toHaveLength(1);
    expect(await shop.verify()).toContain('0 differences.');
  });
});
