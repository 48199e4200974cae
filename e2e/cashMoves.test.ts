import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
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
  await till.enter('MET-C');
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

const approve = async () => {
  await till.see('#second-pin');
  await till.keys('3690', Key.ENTER);
};

describe('cash that moves without a sale', () => {
  it('goes out with a reason and an approval, while the basket stays', async () => {
    await till.press('Till jobs');
    await till.press('Cash in or out');
    await till.see('#cash-amount');
    expect(await till.findings()).toEqual([]);
    await till.keys('12.50', Key.ENTER);
    await till.read('Say why: it is recorded and printed.');
    await till.press('Post and parcels');
    await till.focus('#cash-amount');
    await till.keys(Key.ENTER);
    await approve();
    await till.read('Cash out: 12.50. The slip is printing.');
    await till.count('.row', 1);
  });

  it('goes into the safe without one, never more than there is', async () => {
    await till.press('Cash in or out');
    await till.press('Safe drop');
    await till.focus('#cash-amount');
    await till.keys('500');
    await till.press('Too much in the drawer');
    await till.focus('#cash-amount');
    await till.keys(Key.ENTER);
    await till.read('Only 187.50 is expected to be in the drawer.');
    await till.focus('#cash-amount');
    await till.selectAll();
    await till.keys('50', Key.ENTER);
    await till.read('Safe drop: 50.00. The slip is printing.');
  });

  it('opens the drawer for nothing but a reason', async () => {
    await till.press('Drawer, no sale');
    await till.see('#opening-reason');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ENTER);
    await till.read('Say why: it is recorded and printed.');
    await till.press('Change for a customer');
    await till.focus('#opening-reason');
    await till.keys(Key.ENTER);
    await approve();
    await till.read('The drawer is open.');
    await till.count('.row', 1);
  });

  it('is suggested when too much is in the drawer and nobody waits', async () => {
    await till.enter('3*CLA-0220');
    await till.count('.row', 2);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.see('[data-test="change"]');
    await till.keys(Key.F9);
    await till.read('Take some of it to the safe before the next customer.');
    expect(await till.findings()).toEqual([]);
    await till.press('Safe drop');
    await till.see('#cash-amount');
    await till.read('Too much in the drawer');
    await till.keys(Key.ESCAPE);
  });

  it('shows in what is expected, on slips, and ties out', async () => {
    await till.click('nav a[href="/printer"]');
    await till.count('figure', 4);
    await till.read('Post and parcels');
    await till.read('Maren K.');
    await till.click('nav a[href="/drawer"]');
    await till.read('−12.50');
    await till.read('−50.00');
    expect(await shop.verify()).toContain('0 differences.');
  });
});
