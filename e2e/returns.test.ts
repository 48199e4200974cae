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
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

const approve = async () => {
  await till.see('#second-pin');
  await till.keys('3690', Key.ENTER);
};

async function sell(...numbers: string[]): Promise<void> {
  for (const number of numbers) await till.enter(number);
  await till.keys(Key.F9);
  await till.see('#handed');
  await till.keys(Key.F9);
  await till.see('[data-test="change"]');
  await till.keys(Key.F9);
}

describe('goods that come back', () => {
  it('are taken back by scanning the receipt, and refunded in cash, with the keyboard alone', async () => {
    await sell('MET-C', 'PIC-M', 'PIC-M', 'CLA-0220');
    await till.scan('1-0001');
    await till.read('Return from 1-0001');
    expect(await till.findings()).toEqual([]);
    await till.keys('1', '2');
    await till.shows('[data-test="refund"]', '49.03');
    await till.keys(Key.F9);
    await till.read('Back from 1-0001: Does not fit');
    await till.shows('[data-test="to-pay"]', '49.03');
    await till.keys(Key.F9);
    await till.read('To give back');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.F9);
    await till.shows('[data-test="given-back"]', '49.03');
    await till.keys(Key.F9);
  });

  it('never come back twice; what is left shows', async () => {
    await till.scan('1-0001');
    await till.read('came back already');
    await till.read('1 of 2 can come back');
    await till.keys('3');
    await till.shows('[data-test="refund"]', '461.17');
    // Wherever the hand is.
    await till.click('input[name="entry"]');
    await till.keys(Key.F9);
    await till.shows('[data-test="to-pay"]', '461.17');
    // More than the cashier may refund alone.
    await till.keys(Key.F9);
    await approve();
    await till.read('The way it was paid');
    await till.keys(Key.F9);
    await till.shows('[data-test="given-back"]', '461.17');
    await till.keys(Key.F9);
  });

  it('are swapped for another size in three keys', async () => {
    await till.enter('TEE');
    await till.see('[role="grid"]');
    await till.keys(Key.ENTER);
    await till.count('.row', 1);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.see('[data-test="change"]');
    await till.keys(Key.F9);
    await till.scan('1-0004');
    await till.read('Return from 1-0004');
    await till.resize({ width: 1024, height: 560 });
    expect(await till.sticksOut()).toBe(0);
    await till.resize({ width: 1280, height: 800 });
    await till.keys('s');
    await till.see('[role="grid"]');
    await till.keys(Key.ARROW_RIGHT, Key.ENTER);
    await till.count('.row', 2);
    await till.shows('[data-test="to-pay"]', '0.00');
    await till.press('Swap evenly');
    await till.read('Receipt 1-0005');
    await till.keys(Key.F9);
  });

  it('become store credit without a receipt, approved, for a known customer', async () => {
    await till.keys(Key.F6);
    await till.see('#return-item');
    await till.read('Store credit needs a customer');
    await till.keys(Key.ESCAPE);
    await till.keys(Key.F4);
    await till.see('#customer-search');
    await till.keys('marit');
    await till.read('Ferrisport Schools');
    await till.keys(Key.ENTER);
    await till.read('214.50');
    await till.keys(Key.ESCAPE);
    await till.keys(Key.F6);
    await till.press('Faulty');
    await till.press('Damaged');
    await till.focus('#return-item');
    expect(await till.findings()).toEqual([]);
    await till.keys('PIC-M', Key.ENTER);
    await approve();
    await till.read('Comes back, no receipt: Faulty');
    await till.read('−0.60', '.row');
    await till.keys(Key.F9);
    await till.read('comes back without a receipt and becomes store credit');
    await till.keys(Key.F9);
    await till.read('Store credit', '.change');
    await till.keys(Key.F9);
  });

  it('are on the page of their sale, with what came after, and tie out', async () => {
    await till.go('/journal');
    await till.fill('Number, item, customer, note, amount, card', '1-0001');
    await till.count('.rows .list-row', 1);
    await till.click('.rows .list-row');
    await till.read('What came after');
    await till.read('49.03');
    await till.read('1 came back');
    expect(await till.findings()).toEqual([]);
    await till.press('Books');
    await till.read('Tax payable · ');
  });
});

describe('a sale of the shift', () => {
  it('is voided with an approval, and stays in the journal', async () => {
    await till.go('/counter');
    await till.ready();
    await sell('MET-C');
    await till.go('/journal');
    await till.read('Metronome');
    await till.click('.rows .list-row');
    await till.press('Void …');
    await till.see('#void-reason');
    await till.keys(Key.ENTER);
    await till.read('Say why: it is recorded and printed.');
    await till.press('Rung up twice');
    await till.press('Void the sale');
    await approve();
    await till.read('is voided. The money goes back the way it came.');
    await till.read('Voided by Noor');
    expect(await till.findings()).toEqual([]);
  });

  it('is found by amount, by words and by kind', async () => {
    await till.fill('Number, item, customer, note, amount, card', '~48');
    await till.read('Voided');
    await till.fill('Number, item, customer, note, amount, card', 'no such thing');
    await till.read('Nothing fits');
    await till.press('Show everything');
    await till.count('.rows .list-row', 7);
    // Arrows look at one after the other, unless something is typed beside them.
    const looked = () => till.text('.list-row.on');
    const first = await looked();
    await till.keys(Key.ARROW_DOWN);
    await till.wait(async () => (await looked()) !== first);
    const next = await looked();
    await till.keys(Key.ARROW_UP, Key.ARROW_DOWN);
    await till.wait(async () => (await looked()) === next);
    // What is not there sends back to the list.
    for (const list of ['journal', 'waiting']) {
      await till.go(`/${list}/0190a1b2-0000-4000-8000-000000000000`);
      await till.read(list === 'journal' ? 'There is no such sale.' : 'There is nothing promised');
      await till.wait(async () => (await till.driver.getCurrentUrl()).endsWith(`/${list}`));
    }
    expect(await shop.verify()).toContain('0 differences.');
  });
});
