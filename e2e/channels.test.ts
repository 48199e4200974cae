import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDrawer } from './handsOnDrawer.ts';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';
import { orderAtWebShop } from './webShop.ts';

let shop: TestShop;
let till: Till;
/** Somebody at home, at the web shop. */
let home: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  home = await Till.open(() => shop.webShop);
  await till.signIn('1357', 1);
  await openDrawer(till);
});
afterAll(async () => {
  await till.close();
  await home.close();
  await shop.end();
});

const to = (page: 'counter' | 'waiting') => till.click(`nav a[href="/${page}"]`);
/** What the web shop shows of an order, looked at again until it says so. */
async function homeReads(reference: string, words: string): Promise<void> {
  await home.wait(async () => {
    await home.go(`/orders/${reference}`);
    return (await home.text('main')).includes(words);
  });
}

describe('an order placed at the web shop', () => {
  it('by its pages: what is wrong is said, it waits at once, and both sides say the same until it is handed over', async () => {
    await home.go('/?find=practice');
    await home.read('Practice pad, 8 inch');
    await home.click('[aria-label="How many of Practice pad, 8 inch"]');
    await home.keys('2');
    await home.press('To the order');
    await home.read('Total with tax');
    await home.read('70.74');
    await home.click('button[value="order"]');
    await home.read('Who orders?');
    await home.click('[name="name"]');
    await home.keys('Ottilie Brandreth', Key.TAB, 'ottilie@reader.example');
    await home.click('button[value="order"]');
    await home.read('Order WEB-1001');
    await home.read('Placed');

    await to('waiting');
    await till.read('WEB-1001');
    await till.read('Ordered at');
    await till.shows('.detail .facts dd:nth-of-type(2)', '70.74');
    await till.read('taken');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.F9);
    await till.shows('header .state', 'Ready');
    await homeReads('WEB-1001', 'Ready');
    // Sent once more it is the same order.
    await home.press('Send it once more');
    await home.read('2 times');
    await till.count('.rows .list-row', 1);

    await to('counter');
    await till.scan('WEB-1001');
    await till.read('Order O-0001', '.panel');
    await till.keys(Key.ENTER);
    await till.read('Deposit used, O-0001', '.tape');
    await till.shows('[data-test="to-pay"]', '0.00');
    await till.keys(Key.F9);
    await till.read('Next sale');
    await homeReads('WEB-1001', 'Handed over');
    await till.keys(Key.F9);
  });

  it('whose card was refused is handed over once somebody approves it in place, with the reason, and paid exactly', async () => {
    const reference = await orderAtWebShop(shop, { pay: 'fails' });
    await homeReads(reference, 'No deposit yet');
    await till.enter(reference);
    await till.see('#excuse-reason:focus');
    await till.read('A deposit of 8.84 is missing.');
    await till.selectAll();
    await till.keys(Key.DELETE, Key.ENTER);
    await till.read('Say why they leave without it');
    await till.press('We know the customer');
    await till.click('.panel .go');
    // Whoever does not approve leaves everything as it was.
    await till.see('#second-pin:focus');
    await till.keys(Key.ESCAPE);
    await till.see('#excuse-reason');
    await till.click('.panel .go');
    await till.see('#second-pin:focus');
    await till.keys('3690', Key.ENTER);
    await till.read('Practice pad, 8 inch', '.tape');
    await till.shows('[data-test="to-pay"]', '35.37');
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.shows('[data-test="change"]', '0.00');
    await homeReads(reference, 'Handed over');
    await till.keys(Key.F9);
    await to('waiting');
    await till.press('Over as well');
    await till.press(reference);
    await till.read('Deposit excused');
    await till.read('We know the customer');
    await till.press('All that waits');
  });

  it('is found by day and channel, and goes on without its deposit from Waiting as well', async () => {
    await orderAtWebShop(shop, { pay: 'later', name: 'Corwin Ashdale', mail: 'corwin@harbour.example' });
    await to('waiting');
    await till.press('By day');
    await till.press('Web shop');
    await till.count('.rows .list-row', 1);
    await till.press('Corwin Ashdale');
    await till.press('Go on without deposit');
    await till.press('Go on without it');
    await till.read('Say why: it is kept.');
    await till.press('The payment failed there');
    await till.press('Go on without it');
    await till.see('#second-pin:focus');
    // Nobody approves it: it stays as it is, and says nothing else.
    await till.keys(Key.ESCAPE);
    await till.shows('header .state', 'No deposit yet');
    expect(await till.text('body')).not.toContain('It is picked without');
    await till.press('Go on without it');
    await till.see('#second-pin:focus');
    await till.keys('3690', Key.ENTER);
    await till.shows('header .state', 'Placed');
    await till.press('Any day, anywhere');
    expect(await till.findings()).toEqual([]);
  });

  it('cancelled there while its goods are in the basket here: the till is told, and nothing is paid for it', async () => {
    const reference = await orderAtWebShop(shop);
    await to('counter');
    await till.scan(reference);
    await till.see('.panel .goods input:focus');
    await till.keys(Key.ENTER);
    await till.read('Deposit used', '.tape');
    await homeReads(reference, 'Placed');
    await home.press('Cancel it');
    await home.read('Cancelled');
    await home.shows('#given-back', '35.37');
    await till.keys(Key.F9);
    await till.read('was cancelled');
    await till.keys(Key.ESCAPE);
    await till.read('Practice pad', '.tape');
  });
});

describe('channels in Setup', () => {
  it('get a key that is shown once; with it the web shop orders on, and with the one before it does not', async () => {
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('8024', Key.ENTER);
    await till.ready();
    await till.click('nav a[href="/setup"]');
    await till.click('.parts a[href="/setup/channels"]');
    await till.read('Its key ends with');
    await till.press('Give it another key');
    await till.read('Its key is shown once');
    const key = await till.text('.key code');
    await home.go('/');
    await home.read('No channel has this key.');
    await home.go('/key');
    await home.click('[name="key"]');
    await home.keys('abc', Key.ENTER);
    await home.read('A key has 64 digits');
    await home.click('[name="key"]');
    await home.keys(key, Key.ENTER);
    await home.read('Alder Hollow');
    expect(await till.findings()).toEqual([]);
    await till.press('A new channel');
    await till.click(
      'form[aria-label="A new channel"] [type="submit"], .channels > div:last-child [type="submit"]',
    );
    await till.read('What is it called?');
    await till.click('.channels > div:last-child input');
    await till.keys('Market stall', Key.TAB, 'mar');
    await till.click('.channels > div:last-child [type="submit"]');
    await till.read('Market stall can send orders.');
    await till.read('Its key is shown once', '.channels > div:last-child');
  });

  it('pay out what customers paid there, less what they keep; what was not typed is said at its field', async () => {
    await till.press('Web shop');
    const form = '.channels > div:not([style*="none"]) .settle';
    await till.wait(async () => (await till.text(`${form} p .num`)) !== '0.00');
    const owed = await till.text(`${form} p .num`);
    const field = (nth: number) => till.click(`${form} .v-input:nth-of-type(${nth}) input`);
    await till.click(`${form} button`);
    await till.read('How much was settled?', form);
    await field(1);
    await till.keys(owed);
    await field(2);
    await till.selectAll();
    await till.keys('1.00');
    await till.click(`${form} button`);
    await till.read('It is in the books.');
    await till.shows(`${form} p .num`, '0.00');
    expect(await shop.verify()).toContain('0 differences.');
  });
});
