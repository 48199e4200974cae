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

const fieldOf = (label: string): string =>
  `//label[normalize-space(.)="${label}"]/ancestor::*[contains(@class, "v-field")][1]//input`;

/** Goes to a field, with what is in it selected. */
async function into(label: string): Promise<void> {
  await till.driver.findElement({ xpath: fieldOf(label) }).click();
  await till.selectAll();
}

async function fill(label: string, text: string): Promise<void> {
  await into(label);
  await till.keys(text);
}

/** Opens a part of Setup. */
const part = (address: string) => till.click(`.parts a[href="/setup/${address}"]`);

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

  it('finds a setting by its words, without knowing where it stands', async () => {
    await fill('Find a setting', 'round fund');
    await till.read('Round up for a fund', '.found');
    await till.keys(Key.ENTER);
    await till.read('Means of payment', '.part h2');
    await fill('Find a setting', 'xylem');
    await till.read('No setting is called that.');
    await till.keys(Key.ESCAPE);
    for (const [address, name] of [
      ['shop', 'Shop'],
      ['returns', 'Returns and the end of the shift'],
      ['printers', 'Receipt printers'],
      ['terminals', 'Card terminals'],
    ] as const) {
      await part(address);
      await till.read(name, '.part');
      await till.see('.part .v-field');
      const labels = await till.driver.executeScript<string[]>(
        "return [...document.querySelectorAll('.part form label')].map((one) => one.innerText.trim()).filter(Boolean)",
      );
      expect(labels.length).toBeGreaterThan(2);
      for (const label of new Set(labels)) {
        if (/^Refunds up to, /.test(label)) continue;
        await into('Find a setting');
        await till.paste(label);
        await till.read(label, '.found');
      }
      await till.keys(Key.ESCAPE);
    }
    expect(await till.findings()).toEqual([]);
  });

  it('prints a test page on the printer of a till, and says what is wrong with its address', async () => {
    await part('printers');
    await till.press('Keep and print a test page');
    await till.read('A test page is on its way to the printer of till 1.');
    await till.click('nav a[href="/printer"]');
    await till.read('42 columns', '.roll');
    await till.click('nav a[href="/setup"]');
    await part('printers');
    await till.choose('Where receipts come out', 'On the network');
    await till.press('Keep the printer');
    await till.read('Type the address of the printer');
    // What was chosen is asked about as what was typed is.
    const staff = await till.see('a[href="/setup/staff"]');
    await staff.click();
    await till.read('“Printer of till 1” is not kept yet.');
    await till.press('Leave it');
  });

  it('adds a person, who can sign in', async () => {
    await till.read('Staff', '.part h2');
    await fill('New person', 'Ines P.');
    await fill('PIN', '1357');
    await till.press('Add person');
    await till.read('somebody else has this one');
    await fill('PIN', '6060');
    await till.press('Add person');
    await till.read('Ines P. can sign in.');
  });

  it('takes a right from a role, and never the last one to set up', async () => {
    await part('rights');
    await till.click('[aria-label="cashier: See the journal and reprint receipts"]');
    await till.wait(
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
    // What is beside the journal is still there.
    await till.count('nav a[href="/journal"]', 0);
    await till.click('nav a[href="/gift-cards"]');
    await till.shows('h1', 'Gift cards');
    await till.count('nav a[href="/journal"]', 0);
  });

  it('sets a rate of tax from a day on, and takes it back', async () => {
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('8024', Key.ENTER);
    await till.ready();
    await till.click('nav a[href="/setup"]');
    await part('taxes');
    await till.read('Sales tax', '.setup');
    await till.press('Change the rate');
    await fill('Rate in %', '8');
    await till.press('Set the rate');
    await till.read('From which day on?');
    await fill('From which day on', '04012026');
    await till.keys(Key.TAB);
    await till.press('Set the rate');
    await till.read('Sales tax is 8 % from Apr 1, 2026 on.');
    await till.read('from midnight, Apr 1, 2026');
    await till.press('Take back');
    await till.read('Sales tax stays as it is.');
    expect(await till.findings()).toEqual([]);
  });

  it.each([
    [1280, 800],
    [1024, 768],
    [768, 1024],
  ])('has all its parts in sight, and nothing sticks out, at %i × %i', async (width, height) => {
    await till.resize({ width, height });
    const parts = await till.driver.executeScript<string[]>(
      "return [...document.querySelectorAll('.parts a')].map((one) => one.getAttribute('href'))",
    );
    expect(parts).toHaveLength(20);
    for (const path of parts) {
      await till.click(`.parts a[href="${path}"]`);
      await till.see('.part .block');
      expect(await till.sticksOut(), path).toBeLessThanOrEqual(1);
      if (width === 1024) expect(await till.findings(), path).toEqual([]);
    }
    await till.resize({ width: 1280, height: 800 });
  });

  it('undoes nothing that another one has changed meanwhile, and loses nothing that was typed', async () => {
    const minutes = 'Lock a till after so many minutes (0: never)';
    const holds = (label: string, text: string) =>
      till.wait(async () => (await till.value(fieldOf(label))) === text, undefined, `${label} holds ${text}`);
    const other = await Till.beside(till, '/setup/shop');
    const lockAfter = (text: string) =>
      other.run(async () => {
        await till.see('#shop-title');
        await fill(minutes, text);
        await till.press('Keep the changes');
        await till.read('The shop is changed.');
      });
    await part('shop');
    await till.see('#shop-title');
    await fill('Usual float', '175');
    await lockAfter('8');
    // What nobody has touched follows; what was typed stays.
    await holds(minutes, '8');
    await holds('Usual float', '175');
    await fill(minutes, '6');
    await lockAfter('9');
    await till.press('Keep the changes');
    await till.read('This was changed meanwhile. Nothing was done.');
    await till.read('Lock a till after so many minutes: 8 → 9 (Isolde R.)');
    await holds(minutes, '6');
    await till.press('Keep the changes');
    await till.read('The shop is changed.');
    await other.close();
    await part('changes');
    await till.read('175.00', '.part table');
  });

  it('makes a backup, reads it back, and lists it', async () => {
    await part('backups');
    await till.read('none yet', '.part .facts');
    await till.press('Make a backup now');
    await till.read('every figure in it ties out', 'body', 60_000);
    await till.count('.part tbody tr', 1);
    await till.read('.backup', '.part tbody');
    await till.count('nav a[href="/setup"] .n', 0);
    expect(await till.findings()).toEqual([]);
  });

  it('says who changed what', async () => {
    await part('changes');
    await till.read('Usual float', '.part table');
    await till.read('150.00', '.part table');
    expect(await till.findings()).toEqual([]);
  });

  it('is not shown to who takes the till over there, nor at its address', async () => {
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('1357', Key.ENTER);
    await till.see('.tape');
    expect(await till.text('body')).not.toContain('may not do this');
    await till.go('/setup/staff');
    await till.read('Noor A. may not do this: Set up the shop.');
    await till.see('.tape');
  });
});
