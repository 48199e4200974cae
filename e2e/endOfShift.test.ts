import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { count, openDrawer } from './handsOnDrawer.ts';
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

async function cashOut(amount: string, reason: string): Promise<void> {
  await till.go('/counter');
  await till.press('Till jobs');
  await till.press('Cash in or out');
  await till.see('#cash-amount');
  await till.keys(amount);
  await till.focus('#cash-reason');
  await till.keys(reason, Key.ENTER);
  await till.read(`Cash out: ${amount}.`);
}

async function closeWith(pieces: Record<string, number>, words: string): Promise<void> {
  await till.go('/drawer');
  await till.see('.sheet');
  await count(till, pieces);
  await till.keys(Key.F9);
  await till.read(words);
  await till.keys(Key.F9);
  await till.see('[data-test="kept"]');
  await till.keys(Key.F9);
  await till.read('Sign and close');
  await till.keys(Key.F9);
  await till.read('is closed');
}

describe('the end of the shift', () => {
  it('says so where other drawers and earlier shifts cannot be asked for', async () => {
    await till.press('Counter');
    await till.away(async () => {
      await till.press('Drawer');
      await till.read('The server does not answer.');
    });
    expect(await till.findings()).toEqual([]);
  });

  it('finds the cash-out that is missing, records it with one key, and compares again', async () => {
    // A habit: tea and milk in each of the shifts before.
    for (let shift = 1; shift <= 3; shift++) {
      await cashOut('6.40', 'Tea and milk');
      await closeWith(
        { '100.00': 1, '50.00': 1, '20.00': 2, '1.00': 3, '0.25': 2, '0.10': 1 },
        'The drawer fits.',
      );
      await till.go('/drawer');
      await till.see('.sheet');
      await count(till, { '20.00': 5, '10.00': 5, '1.00': 50 });
      await till.keys(Key.F9);
      await till.read('drawer open since');
    }
    await till.go('/drawer');
    await till.see('.sheet');
    await count(till, { '100.00': 1, '50.00': 1, '20.00': 2, '1.00': 3, '0.25': 2, '0.10': 1 });
    await till.keys(Key.F9);
    await till.shows('[data-test="difference"]', '−6.40');
    await till.read('“Tea and milk” was taken out in 3 of the last 3 shifts');
    expect(await till.findings()).toEqual([]);
    await till.alt('1');
    await till.read('Recorded. The drawer is compared again.');
    await till.read('The drawer fits.');
    await till.shows('[data-test="difference"]', '0.00');
  });

  it('hands the drawer over without closing it', async () => {
    await till.keys(Key.ESCAPE);
    await till.press('Hand over …');
    await till.press('Hand over');
    await till.read('To whom? Choose a name.');
    await till.click('form[aria-label="Hand over"] .v-select');
    await till.click('.v-list-item[role=option]');
    await till.click('form[aria-label="Hand over"] button[type="submit"]');
    await till.read('The drawer is handed over with 193.60.');
  });

  it('is closed with a note for the next, a witness, and the report says it all', async () => {
    await count(till, { '100.00': 1, '50.00': 1, '20.00': 2, '1.00': 2, '0.25': 2, '0.10': 1 });
    await till.keys(Key.F9);
    await till.read('The drawer is 1.00 short.');
    await till.keys(Key.F9);
    await till.see('[data-test="kept"]');
    await till.keys(Key.F9);
    await till.fill('Note for the next shift (optional)', 'Quarters are low');
    await till.fill('Witness (optional)', 'Maren K.');
    await till.keys(Key.F9);
    await till.read('Shift 4 is closed, 1.00 short.');
    await till.shows('nav a[href="/drawer"] .n', '1');
    await till.read('Witness: Maren K.');
    await till.read('Handed over');
    expect(await till.findings()).toEqual([]);
  });

  it('can be explained later, and is in the history with its chart', async () => {
    await till.fill('What it was', 'A stamp for a parcel');
    await till.press('Note and book it');
    await till.read('Noted and booked.');
    await till.read('A stamp for a parcel');
    await till.press('All shifts');
    await till.count('tbody tr', 4);
    expect(await till.findings()).toEqual([]);
    await till.press('Together');
    await till.see('.apexcharts-canvas');
    await till.read('4 × Cash out: Tea and milk');
  });

  it('is in the books, which balance, and only managers see them', async () => {
    await till.go('/books');
    await till.read('Trial balance');
    await till.see('nav a.on[href="/journal"]');
    await till.see('[data-test="debit"]');
    expect(await till.text('[data-test="debit"]')).toBe(await till.text('[data-test="credit"]'));
    expect(await till.findings()).toEqual([]);
    await till.press('Entries');
    await till.read('Correction, till 1, shift 4');
    await till.press('Day');
    await till.shows('[data-test="day-total"]', '0.00');
    expect(await shop.verify()).toContain('0 differences.');
  });
});
