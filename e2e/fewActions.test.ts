import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { formatMoney, parseMoney, sum } from '../core/money.ts';
import { count, Hand } from './hand.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { orderAtWebShop } from './webShop.ts';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
let other: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  other = await Till.open(() => shop.url);
});
afterAll(async () => {
  await till.close();
  await other.close();
  await shop.end();
});

/** Pays what is in the basket with the exact amount in cash. */
async function payExact(hand: Hand): Promise<void> {
  await hand.key(Key.F9);
  await hand.till.see('#handed');
  await hand.key(Key.F9);
  await hand.till.shows('[data-test="change"]', '0.00');
}

async function tick(label: string): Promise<void> {
  const box = await till.see(`//label[normalize-space(.) = '${label}']`);
  await box.click();
}

describe('few actions', () => {
  it('are enough to open a drawer as it was left (2)', async () => {
    await till.signIn('8024');
    await till.go('/setup/returns');
    await tick('A drawer may be opened as it was left, without counting');
    await tick('The drawer may be counted as one total at the end');
    await till.press('Save');
    await till.read('Returns and the end of the shift are set.');
    // The day before: opened with a count, and closed with the float left in it.
    await till.go('/drawer');
    await openDrawer(till);
    await till.go('/drawer');
    await till.see('#count-total:focus');
    await till.keys('200', Key.F9);
    await till.read('It fits: plan the bag');
    await till.keys(Key.F9);
    await till.shows('[data-test="kept"]', '200.00');
    await till.keys(Key.F9);
    await till.read('Sign and close');
    await till.keys(Key.F9);
    await till.read('is closed');
    await till.click('nav a[href="/counter"]');
    const actions = await count(till, async (hand) => {
      await hand.key(Key.F9);
      await till.read('200.00', '.two .go');
      await hand.key(Key.F9);
      await till.read('drawer open since');
    });
    expect(actions).toBeLessThanOrEqual(2);
  });

  it('take exact cash (2)', async () => {
    await till.click('nav a[href="/counter"]');
    await till.enter('LES-30');
    await till.shows('[data-test="to-pay"]', '32.00');
    const actions = await count(till, async (hand) => {
      await payExact(hand);
    });
    expect(actions).toBeLessThanOrEqual(2);
    await till.keys(Key.F9);
  });

  it('sell to a new customer, with the receipt by mail and a note (12)', async () => {
    const actions = await count(till, async (hand) => {
      hand.actions += 1;
      await till.enter('MET-C');
      await till.count('.row', 1);
      await hand.key(Key.F4);
      await till.see('#customer-search');
      await hand.type('Mo Tindall');
      await till.read('No customer found.');
      await hand.key(Key.ENTER);
      await till.see('.new input[inputmode="email"]:focus');
      await hand.type('mo.tindall@reader.example');
      await hand.key(Key.ENTER);
      await till.count('.panel', 0);
      await hand.press('Note for the sale');
      await till.see('#work-first');
      await hand.type('Collected by Sam');
      await hand.key(Key.ENTER);
      await till.count('.panel', 0);
      await hand.key(Key.F9);
      await till.see('#handed');
      await hand.key(Key.F9);
      await till.see('[data-test="change"]');
      await hand.press('Mail it to');
      await till.read('The receipt goes to mo.tindall@reader.example.');
    });
    expect(actions).toBeLessThanOrEqual(12);
    await till.keys(Key.F9);
  });

  it('find that sale again by its note, or by the address (2)', async () => {
    for (const words of ['collected sam', 'mo.tindall@reader']) {
      await till.click('nav a[href="/counter"]');
      const actions = await count(till, async (hand) => {
        await hand.click('nav a[href="/journal"]');
        await till.see('.find input:focus');
        await hand.type(words);
        await till.read('1-0002', 'ol');
      });
      expect(actions).toBeLessThanOrEqual(2);
    }
  });

  it('hold a basket and take it up at another till (4)', async () => {
    await other.signIn('2468', 2);
    await till.click('nav a[href="/counter"]');
    await till.enter('MET-C');
    await till.count('.row', 1);
    const here = await count(till, async (hand) => {
      await hand.key(Key.F8);
      await till.see('#hold-name');
      await hand.key(Key.ENTER);
      await till.count('.row', 0);
    });
    await other.shows('.rail .n', '1');
    const there = await count(other, async (hand) => {
      await hand.click('nav a[href="/waiting"]');
      await other.read('Take up on this till');
      await hand.key(Key.F9);
      await other.count('.row', 1);
    });
    expect(here + there).toBeLessThanOrEqual(4);
  });

  it("give a member's discount on the basket (3)", async () => {
    await till.click('nav a[href="/counter"]');
    await till.enter('MET-C');
    await till.count('.row', 1);
    await till.keys(Key.F4);
    await till.see('#customer-search');
    await till.keys('ines wether');
    await till.foundIn('customer');
    await till.keys(Key.ENTER, Key.ESCAPE);
    await till.count('.panel', 0);
    const actions = await count(till, async (hand) => {
      await hand.click('.tape footer .chips .chip');
      await till.see('#discount-size');
      await hand.press('Teacher');
      await hand.key(Key.F9);
      await till.read('Teacher', '.tape');
      await till.count('.panel', 0);
    });
    expect(actions).toBeLessThanOrEqual(3);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.see('[data-test="change"]');
  });

  it('set a basket aside with a deposit in cash, for somebody who is known (8)', async () => {
    await till.keys(Key.F9);
    await till.enter('CAR-KIT-TR');
    await till.count('.row', 1);
    const actions = await count(till, async (hand) => {
      await hand.key(Key.F4);
      await till.see('#customer-search');
      await hand.type('hedy');
      await till.foundIn('customer');
      await hand.key(Key.ENTER);
      await till.read('Hedy', '#customer-title');
      await hand.key(Key.F7);
      await till.see('#layaway-deposit:focus');
      await hand.key(Key.ENTER);
      await till.read('Deposit for L-0001', '.tape');
      await payExact(hand);
    });
    expect(actions).toBeLessThanOrEqual(8);
  });

  it('take a part for a layaway in cash (4)', async () => {
    const actions = await count(till, async (hand) => {
      hand.actions += 1;
      await till.scan('L-0001');
      await till.see('#promise-amount:focus');
      await hand.key(Key.ENTER);
      await till.read('Deposit for L-0001', '.tape');
      await payExact(hand);
    });
    expect(actions).toBeLessThanOrEqual(4);
  });

  it('hand over a layaway that is paid (4)', async () => {
    await till.scan('L-0001');
    await till.see('#promise-amount:focus');
    const left = await till.text('.panel .facts dd:last-of-type');
    await till.selectAll();
    await till.keys(left, Key.ENTER);
    await till.read('Deposit for L-0001', '.tape');
    await payExact(new Hand(till));
    const actions = await count(till, async (hand) => {
      hand.actions += 1;
      await till.scan('L-0001');
      await till.see('.panel .goods input:focus');
      await hand.key(Key.ENTER);
      await till.read('Deposit used, L-0001', '.tape');
      await hand.key(Key.F9);
      await till.read('Next sale');
    });
    expect(actions).toBeLessThanOrEqual(4);
    await till.keys(Key.F9);
  });

  it('order a basket to be collected, paid in cash, customer included (8), and hand it over (4)', async () => {
    await till.enter('CAR-SO');
    await till.count('.row', 1);
    const placed = await count(till, async (hand) => {
      await hand.key(Key.F4);
      await till.see('#customer-search');
      await hand.type('hedy');
      await till.foundIn('customer');
      await hand.key(Key.ENTER);
      await till.read('Hedy', '#customer-title');
      await hand.key(Key.F3);
      await till.see('.order-ways .chip:focus');
      await hand.key(Key.F9);
      await till.read('Deposit for O-0001', '.tape');
      await payExact(hand);
    });
    expect(placed).toBeLessThanOrEqual(8);
    const handed = await count(till, async (hand) => {
      hand.actions += 1;
      await till.scan('O-0001');
      await till.see('.panel .goods input:focus');
      await hand.key(Key.ENTER);
      await till.read('Deposit used, O-0001', '.tape');
      await hand.key(Key.F9);
      await till.read('Next sale');
    });
    expect(handed).toBeLessThanOrEqual(4);
    await till.keys(Key.F9);
  });

  it('recall a web order without its deposit by scan, have it approved, and be paid exactly (6)', async () => {
    await openDrawer(other);
    const reference = await orderAtWebShop(shop, { pay: 'fails' });
    const actions = await count(other, async (hand) => {
      hand.actions += 1;
      await other.scan(reference);
      await other.see('#excuse-reason:focus');
      await hand.key(Key.ENTER);
      await other.see('#second-pin:focus');
      await hand.type('3690');
      await hand.key(Key.ENTER);
      await other.read('Practice pad', '.tape');
      // With the metronome that was taken up here.
      await other.shows('[data-test="to-pay"]', '83.74');
      await payExact(hand);
    });
    expect(actions).toBeLessThanOrEqual(6);
    await other.keys(Key.F9);
  });

  it('close without a difference, counted as one total (5)', async () => {
    await till.click('nav a[href="/drawer"]');
    await till.see('#count-total:focus');
    // A count that is none goes no further, and pieces that are counted are not wiped by a total.
    await till.keys('much', Key.F9);
    await till.read('Type what is in the drawer, for example 523.50.');
    await till.press('Start the count again');
    await till.click('[aria-label="One 20.00 more"]');
    await till.count('#count-total', 0);
    await till.click('[aria-label="One 20.00 less"]');
    await till.focus('#count-total');
    const amounts = await till.driver.executeScript<string[]>(
      "return [...document.querySelectorAll('.body .facts dd')].map((one) => one.innerText)",
    );
    const expected = formatMoney(sum(amounts.map((amount) => parseMoney(amount) ?? 0)));
    const actions = await count(till, async (hand) => {
      await hand.type(expected);
      await hand.key(Key.F9);
      await till.read('It fits: plan the bag');
      await hand.key(Key.F9);
      await till.see('[data-test="kept"]');
      await hand.key(Key.F9);
      await till.read('Sign and close');
      await hand.key(Key.F9);
      await till.read('is closed');
    });
    expect(actions).toBeLessThanOrEqual(5);
    await till.read('Counted as one total', '.paper');
    expect(await shop.verify()).toContain('0 differences.');
  });
});
