import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
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

describe('points', () => {
  it('are earned by the customer of the sale, and stand on the receipt', async () => {
    await till.enter('REC-SO');
    await till.keys(Key.F4);
    await till.see('#customer-search');
    await till.keys('kai lind', Key.ENTER);
    await till.read('Kai Lindqvarn', '#customer-title');
    await till.keys(Key.ESCAPE);
    const display = await Till.beside(till, '/display/1');
    await payExact(till);
    await display.run(() => till.read('34 beats earned: 34 beats in all'));
    await display.close();
    await till.read('34 beats for Kai Lindqvarn');
    await till.read('Beats earned', '.paper');
    expect(await till.findings()).toEqual([]);
  });

  it('go to whoever joins after the sale, in four steps', async () => {
    await till.keys(Key.F9);
    await till.enter('REC-SO');
    await payExact(till);
    const actions = await count(till, async (hand) => {
      await hand.press('Beats for a customer');
      await till.see('#joining-search:focus');
      await hand.type('elke salt');
      await till.read('Elke Saltonby');
      await hand.key(Key.ENTER);
      await till.read('Elke Saltonby has got 34 beats for this sale.');
    });
    expect(actions).toBeLessThanOrEqual(4);
    await till.read('34 beats for Elke Saltonby');
  });

  it('of a sale they forgot to name are given on their page, once', async () => {
    await till.keys(Key.F9);
    await till.enter('LES-30');
    await payExact(till);
    await till.read('Beats for a customer');
    await till.click('nav a[href="/people"]');
    await till.see('.list [data-search] input');
    await till.keys('hedy');
    await till.count('.list tbody tr', 1);
    await till.keys(Key.ENTER);
    await till.press('Beats of a sale they forgot to name');
    await till.see('.panel input:focus');
    await till.scan('1-0003');
    await till.read('Hedy Marchbanks has got 32 beats for this sale.');
    await till.press('Beats of a sale they forgot to name');
    await till.see('.panel input:focus');
    await till.keys('1-0001', Key.ENTER);
    await till.read('Its beats went to Kai Lindqvarn.');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ESCAPE);
  });

  it('are put right by hand, with a reason', async () => {
    await till.press('Put right by hand');
    await till.press('Take away');
    await till.fill('How many', '40');
    await till.fill('Why', 'Counted twice');
    await till.keys(Key.F9);
    await till.read('They have not so many beats.');
    await till.fill('How many', '2');
    await till.keys(Key.F9);
    await till.read('Hedy Marchbanks has lost 2 beats.');
    await till.read('by hand: Counted twice, Maren K.');
  });

  it('are taken back when goods come back', async () => {
    await till.click('nav a[href="/counter"]');
    await till.see('.next-step');
    await till.keys(Key.F9);
    await till.scan('1-0002');
    await till.read('Return from 1-0002');
    // The only line is chosen by itself.
    await till.shows('[data-test="refund"]', '37.52');
    await till.keys(Key.F9);
    await till.shows('[data-test="to-pay"]', '37.52');
    await till.keys(Key.F9);
    await till.read('To give back');
    await till.keys(Key.F9);
    await till.shows('[data-test="given-back"]', '37.52');
    await till.click('nav a[href="/people"]');
    await till.see('.list [data-search] input');
    await till.focus('.list [data-search] input');
    await till.selectAll();
    await till.keys('elke');
    await till.count('.list tbody tr', 1);
    await till.keys(Key.ENTER);
    await till.read('taken back, goods came back');
    await till.read('−34');
  });

  it('pay for goods in part, in steps, and what goes is filled in', async () => {
    await till.press('Put right by hand');
    await till.fill('How many', '500');
    await till.fill('Why', 'A present');
    await till.keys(Key.F9);
    await till.read('Elke Saltonby has got 500 beats.');
    await till.click('nav a[href="/counter"]');
    await till.see('[data-test="given-back"]');
    await till.keys(Key.F9);
    await till.enter('REC-SO');
    await till.keys(Key.F4);
    await till.see('#customer-search');
    await till.keys('elke salt', Key.ENTER);
    await till.read('Elke Saltonby', '#customer-title');
    await till.keys('p');
    await till.read('There are 500 beats: 100 beats take off 1.00. They pay at most 50 % of the goods.');
    await till.read('Take off 5.00');
    expect(await till.findings()).toEqual([]);
    await till.keys('450', Key.ENTER);
    await till.read('In steps of 100: for example 100.');
    await till.selectAll();
    await till.keys('600', Key.ENTER);
    await till.read('There are 500 beats.');
    await till.selectAll();
    await till.keys('300', Key.ENTER);
    await till.read('Paid with beats', '.row');
    await till.shows('[data-test="to-pay"]', '34.29');
  });

  it('are one till’s while it is paid: another one is told, and prices without them', async () => {
    const other = await Till.open(() => shop.url);
    await other.signIn('8024', 2);
    await openDrawer(other);
    await other.enter('REC-SO');
    await other.keys(Key.F4);
    await other.see('#customer-search');
    await other.keys('elke salt', Key.ENTER);
    await other.read('Elke Saltonby', '#customer-title');
    await other.keys(Key.ESCAPE);
    await other.press('Pay with beats');
    await other.read('Take off 5.00');
    await other.keys(Key.ENTER);
    await other.shows('[data-test="to-pay"]', '32.14');
    await till.keys(Key.F9);
    await till.see('[aria-label="Means of payment"]');
    await other.keys(Key.F9);
    await other.read('The points of this customer are used at another till.');
    await other.shows('[data-test="to-pay"]', '37.52');
    // As a whole, or taken away again: what the basket comes to follows.
    await other.press('Pay with beats');
    await other.read('Take off 5.00');
    await other.selectAll();
    await other.keys('200', Key.ENTER);
    await other.shows('[data-test="to-pay"]', '35.37');
    await other.press('Take off');
    await other.shows('[data-test="to-pay"]', '37.52');
    await other.close();
  });

  it('are gone when it is paid, and come back with the goods', async () => {
    await till.keys(Key.F9);
    await till.read('31 beats for Elke Saltonby');
    await till.read('Beats used', '.paper');
    await till.keys(Key.F9);
    await till.keys(Key.F6);
    await till.see('.panel input:focus');
    await till.scan('1-0005');
    await till.read('Return from 1-0005');
    await till.shows('[data-test="refund"]', '34.29');
    await till.keys(Key.F9);
    await till.shows('[data-test="to-pay"]', '34.29');
    await till.keys(Key.F9);
    await till.read('To give back');
    await till.keys(Key.F9);
    await till.shows('[data-test="given-back"]', '34.29');
    await till.click('nav a[href="/people"]');
    await till.see('.list [data-search] input');
    await till.focus('.list [data-search] input');
    await till.selectAll();
    await till.keys('elke');
    await till.count('.list tbody tr', 1);
    await till.keys(Key.ENTER);
    await till.read('given back, goods came back');
    await till.read('+300');
    expect(await shop.verify()).toContain('0 differences.');
  });
});
