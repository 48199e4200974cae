import { Key } from 'selenium-webdriver';
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

async function fill(label: string, text: string): Promise<void> {
  const path = `//label[normalize-space(.)="${label}"]/ancestor::*[contains(@class, "v-field")][1]//input`;
  await till.driver.findElement({ xpath: path }).click();
  await till.selectAll();
  await till.keys(text);
}

describe('Setup', () => {
  it('is in sight for a manager only', async () => {
    await till.signIn('1357');
    await till.count('nav a[href="/setup"]', 0);
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('8024', Key.ENTER);
    await till.ready();
    await till.click('nav a[href="/setup"]');
    await till.read('Keep the changes');
    expect(await till.findings()).toEqual([]);
  });

  it('changes the usual float, and says what is wrong next to it', async () => {
    await fill('Usual float', 'much');
    await till.press('Keep the changes');
    await till.read('Type an amount, for example 200.00.');
    await fill('Usual float', '150');
    await till.press('Keep the changes');
    await till.read('The shop is changed.');
    await till.click('nav a[href="/drawer"]');
    await till.read('150.00');
    await till.click('nav a[href="/setup"]');
  });

  it('adds a person, who can sign in', async () => {
    await till.read('Staff');
    await fill('Name of a new person', 'Ines P.');
    await fill('PIN', '1357');
    await till.press('Add person');
    await till.read('somebody else has this one');
    await fill('PIN', '6060');
    await till.press('Add person');
    await till.read('Ines P. can sign in.');
  });

  it('takes a right from a role, and never the last one to set up', async () => {
    await till.click('[aria-label="cashier: See the journal and reprint receipts"]');
    await till.driver.wait(
      async () =>
        !(await till.driver
          .findElement({ css: '[aria-label="cashier: See the journal and reprint receipts"]' })
          .isSelected()),
    );
    await till.click('[aria-label="manager: Set up the shop"]');
    await till.read('Then nobody could set up the shop any more.');
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('6060', Key.ENTER);
    await till.ready();
    await till.click('nav a[href="/journal"]');
    await till.read('Ines P. may not do this');
  });

  it('sets a rate of tax from a day on, and takes it back', async () => {
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('8024', Key.ENTER);
    await till.ready();
    await till.click('nav a[href="/setup"]');
    await till.read('Sales tax', '.setup');
    await till.press('Change the rate');
    await fill('Rate in %', '8');
    await till.press('Set the rate');
    await till.read('From which day on?');
    await till.driver.executeScript(
      "const day = document.querySelector('input[type=date]'); day.value = '2026-04-01'; day.dispatchEvent(new Event('input', { bubbles: true }));",
    );
    await till.press('Set the rate');
    await till.read('Sales tax is 8 % from 2026-04-01 on.');
    await till.read('from midnight, 2026-04-01');
    await till.press('Take back');
    await till.read('Sales tax stays as it is.');
    expect(await till.findings()).toEqual([]);
  });
});
