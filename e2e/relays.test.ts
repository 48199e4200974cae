import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { count } from './hand.ts';
import { putCustomer } from './handsOnCounter.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
let other: Till;
/** The partner, at the page of the hub. */
let partner: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  other = await Till.open(() => shop.url);
  partner = await Till.open(() => shop.hub);
  await till.signIn('1357', 1);
  await openDrawer(till);
  await other.signIn('2468', 3);
});
afterAll(async () => {
  await till.close();
  await other.close();
  await partner.close();
  await shop.end();
});

const to = (page: 'counter' | 'waiting') => till.click(`nav a[href="/${page}"]`);
async function type(id: string, text: string): Promise<void> {
  await till.click(`#${id}`);
  await till.selectAll();
  await till.keys(text);
}
/** The partner says something about an order. */
async function say(number: string, kind: string, words = ''): Promise<void> {
  await partner.wait(async () => {
    await partner.go('/');
    return (await partner.text('main')).includes(number);
  });
  await partner.click(`[aria-label="Words for ${number}"]`);
  if (words) await partner.keys(words);
  await partner.click(`#order-${number} button[value="${kind}"]`);
  await partner.read('Orders passed on');
}
/** Takes an order for Dunmere that a partner carries out, up to its payment. */
async function takeRelay(): Promise<void> {
  await to('counter');
  await till.press('Till jobs');
  await till.press('Pass an order on');
  await till.see('#relay-goods');
  await type('relay-goods', 'A set of violin strings');
  await type('relay-price', '50');
  await type('relay-recipient', 'Wilma Corrin');
  await type('relay-street', 'Mill Lane 3');
  await type('relay-postcode', '51200');
  await type('relay-city', 'Dunmere');
}

describe('an order that is passed on', () => {
  it('needs a customer, says what is too late before it is sent, and loses nothing that was typed', async () => {
    await takeRelay();
    await till.read('Whose order is it?');
    await till.keys(Key.ESCAPE);
    await putCustomer(till, 'Hedy Marchbanks');
    await till.keys(Key.ESCAPE);
    await takeRelay();
    await till.read('Ordered by Hedy Marchbanks');
    // Corran Music, near there, is chosen by itself, today while that is not too late.
    await till.read('Corran Music, Dunmere', '.chips .on');
    await till.holds('#relay-part', '40.00');
    await till.focus('#relay-card');
    await till.press('Far Harp Delivery');
    await till.read('Whatever goes by post');
    await till.press('Corran Music');
    await type('relay-part', '60');
    await till.click('.panel .go');
    await till.read('The partner gets no more than the customer pays.');
    await till.holds('#relay-recipient', 'Wilma Corrin');
    await type('relay-part', '40');
    await type('relay-wishes', 'Ring twice');
    expect(await till.findings()).toEqual([]);
    await till.click('.panel .go');
    await till.read('Deposit for R-0001', '.tape');
    await till.shows('[data-test="to-pay"]', '53.75');
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.shows('[data-test="change"]', '0.00');
    await till.keys(Key.F9);
  });

  it('after a refusal makes an alert on every till; it is opened, and sent again without typing (3)', async () => {
    await say('R-0001', 'refused', 'Out of strings');
    await other.read('Corran Music, R-0001: Refused', '[role="alert"]');
    await till.read('Out of strings', '[role="alert"]');
    const actions = await count(till, async (hand) => {
      await hand.press('Open');
      await till.shows('header .state', 'Refused');
      await other.count('.alert', 0);
      await till.read('Wilma Corrin');
      await hand.press('Far Harp Delivery');
      await hand.key(Key.F9);
    });
    expect(actions).toBeLessThanOrEqual(3);
    await till.shows('header .state', 'Partner has not answered');
    await till.read('Out of strings', '.detail');
    expect(await till.findings()).toEqual([]);
  });

  it('is asked about, answered, put away for all, delivered and booked', async () => {
    await say('R-0001', 'question', 'Which make?');
    await other.read('Which make?', '[role="alert"]');
    await other.press('Put away for all');
    await till.count('.alert', 0);
    await till.read('Question: Which make?', '.detail');
    await till.click('.say input');
    await till.keys('The cheaper one', Key.ENTER);
    await till.read('Said to them: The cheaper one', '.detail');
    await partner.wait(async () => {
      await partner.go('/');
      return (await partner.text('main')).includes('The cheaper one');
    });
    await say('R-0001', 'accepted');
    await till.shows('header .state', 'Accepted');
    // Its paper, scanned now, shows what was said: there is nothing to do at the Counter.
    await to('counter');
    await till.scan('R-0001');
    await till.shows('header .state', 'Accepted');
    await till.see('.foot .stop:disabled');
    await say('R-0001', 'delivered');
    await till.shows('header .state', 'Delivered, not booked');
    await till.keys(Key.F9);
    await till.read('Relay R-0001', '.panel');
    await till.keys(Key.ENTER);
    await till.read('Deposit used, R-0001', '.tape');
    await till.shows('[data-test="to-pay"]', '0.00');
    await till.keys(Key.F9);
    await till.read('Next sale');
    await till.keys(Key.F9);
  });

  it('comes from a partner as well: it is refused with words, or accepted, brought and told', async () => {
    const pass = async (goods: string) => {
      await partner.go('/');
      for (const [name, text] of [
        ['partner', 'corran'],
        ['goods', goods],
        ['part', '64'],
        ['day', '03042026'],
        ['recipient', 'Aldous Penhale'],
        ['street', 'Reed Street 8'],
        ['postcode', '40100'],
        ['city', 'Ostler'],
      ] as const) {
        await partner.click(`#passing [name="${name}"]`);
        await partner.keys(text);
      }
      await partner.click('#passing button');
      await partner.read(goods, 'main');
    };
    // What was said before is put away first.
    for (const words of ['Accepted', 'Delivered']) {
      await other.read(words, '[role="alert"]');
      await other.press('Put away for all');
    }
    await till.count('.alert', 0);
    await pass('A harp');
    await other.read('Corran Music, O-', '[role="alert"]');
    await till.read('Passed to us. A harp', '[role="alert"]');
    await till.click('.alert .go');
    await till.shows('header .state', 'A partner asks');
    await till.read('Aldous Penhale', '.detail');
    expect(await till.findings()).toEqual([]);
    await till.press('Refuse');
    await till.read('Say why: the partner reads it.');
    await till.keys('No harps before summer');
    await till.press('Refuse');
    await till.shows('header .state', 'Cancelled');
    await other.count('.alert', 0);
    await partner.wait(async () => {
      await partner.go('/');
      return (await partner.text('#order-CORRAN-1')).includes('refused, No harps before summer');
    });
    // The next one is looked at by the number that the partner calls it.
    await pass('A ukulele');
    await till.read('A ukulele', '[role="alert"]');
    await to('counter');
    await till.scan('CORRAN-2');
    await till.shows('header .state', 'A partner asks');
    await till.keys(Key.F9);
    await till.shows('header .state', 'Ready');
    await till.count('.alert', 0);
    await till.read('Owed by the partner', '.detail');
    await till.press('Ship it');
    await till.read('Order O-', '.panel');
    await till.keys(Key.ENTER);
    await till.read('Deposit used', '.tape');
    await till.shows('[data-test="to-pay"]', '0.00');
    await till.keys(Key.F9);
    await till.read('Next sale');
    await till.keys(Key.F9);
    await partner.wait(async () => {
      await partner.go('/');
      return (await partner.text('#order-CORRAN-2')).includes('delivered');
    });
  });

  it('is owed to the partner until the month is paid', async () => {
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('8024', Key.ENTER);
    await till.ready();
    await till.click('nav a[href="/setup"]');
    await till.click('.parts a[href="/setup/partners"]');
    await till.read('March 2026');
    await till.read('42.50');
    await till.read('1 passed to us');
    await till.click('table:has(caption) tr:last-child .v-btn');
    await till.read('Far Harp Delivery is settled for March 2026.');
    await till.read('paid', 'table:has(caption)');
    expect(await till.findings()).toEqual([]);
    expect(await shop.verify()).toContain('0 differences.');
  });
});
