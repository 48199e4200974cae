import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { payExact, putCustomer, ringUp } from './handsOnCounter.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
let quay: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  quay = await Till.open(() => shop.url);
  await till.signIn('1357', 1);
  await openDrawer(till);
  await quay.signIn('2468', 3);
  await openDrawer(quay);
});
afterAll(async () => {
  await till.close();
  await quay.close();
  await shop.end();
});

const to = (on: Till, page: 'counter' | 'waiting') => on.click(`nav a[href="/${page}"]`);

/** The server ends at once, and comes back. */
async function powerCut(): Promise<void> {
  await shop.kill();
  await shop.start();
  await till.go('/counter');
  await till.ready();
}

async function order(on: Till): Promise<void> {
  await on.keys(Key.F3);
  await on.see('.order-ways .chip:focus');
}

describe('an order', () => {
  it('needs a customer, and says so where the goods stay', async () => {
    await ringUp(till, 'MET-C');
    await till.keys(Key.F3);
    await till.read('Whose order is it?');
    await till.keys(Key.ESCAPE);
    await till.count('.row', 1);
  });

  it('by keyboard: placed with two keys, paid, picked, told, and handed over by scanning its paper', async () => {
    await putCustomer(till, 'Hedy Marchbanks');
    // What places have is asked for until it is known.
    await till.away(async () => {
      await till.keys(Key.F3);
      await till.read('The server does not answer.');
    });
    await till.see('.order-ways .chip:focus');
    await till.keys(Key.F9);
    await till.read('O-0001 is placed');
    await till.read('Deposit for O-0001');
    await till.shows('[data-test="to-pay"]', '48.38');
    await payExact(till);
    await to(till, 'waiting');
    await till.read('to be picked at Ostler Lane');
    await till.read('All picked', 'footer .go');
    await till.keys(Key.F9);
    await till.shows('header .state', 'Ready');
    await till.read('Ready, customer told');
    await till.read('Hand over', 'footer .go');

    await to(till, 'counter');
    await till.scan('O-0001');
    await till.read('Order O-0001', '.panel');
    await till.keys(Key.F9);
    await till.read('Deposit used, O-0001');
    await till.shows('[data-test="to-pay"]', '0.00');
    await till.keys(Key.F9);
    await till.read('O-0001');
    await to(till, 'waiting');
    await till.read('Nothing on hold');
  });

  it('by mouse: one thing taken along, one shipped as a gift; what is wrong is said where it is, and nothing is lost', async () => {
    await to(till, 'counter');
    await ringUp(till, 'MET-C', 'CAR-SO');
    await putCustomer(till, 'Otto Grenvale');
    await till.press('Back');
    await till.press('Order');
    await till.see('.order-ways .chip');
    await till.click('.order-line:nth-of-type(1) .chip:nth-of-type(1)');
    await till.click('.order-line:nth-of-type(2) .chip:nth-of-type(3)');
    await till.press('Place the order');
    await till.read('Street and number are missing.');
    await till.fill('Recipient', 'Wilma Corrin');
    await till.keys(Key.TAB, 'Mill Lane 3', Key.TAB, '51200', Key.TAB, 'Dunmere');
    await till.keys(Key.TAB, '555-0188', Key.TAB, 'Leave it with the neighbour', Key.TAB, Key.SPACE);
    await till.read('To The country, 0.15 kg: 6.90');
    await till.press('Place the order');
    await till.read('O-0002 is placed');
    await till.read('Deposit for O-0002');
    await till.count('.row', 2);
    await payExact(till);

    await to(till, 'waiting');
    await till.read('to Wilma Corrin');
    await till.press('All picked at Ostler Lane');
    await till.shows('header .state', 'Ready');
    await till.press('Make the label');
    await till.read('Open the label');
    const label = await till.driver.executeScript<string>(
      `return fetch(document.querySelector('a[href$="label.pdf"]').href)
         .then((one) => one.text()).then((text) => text.slice(0, 5))`,
    );
    expect(label).toBe('%PDF-');
    await powerCut();
    await to(till, 'waiting');
    await till.read('Wilma Corrin');
    await till.press('Packing slip');
    await till.read('packing slip of O-0002 is printed');
    await till.press('Ship it');
    await till.read('Order O-0002', '.panel');
    await till.keys(Key.F9);
    await till.read('Deposit used, O-0002');
    await till.keys(Key.F9);
    await to(till, 'waiting');
    await till.press('Over as well');
    await till.read('Shipped');
  });

  it('from another place: short there, found elsewhere, sent, taken in and told', async () => {
    await to(till, 'counter');
    await ringUp(till, 'MET-C');
    await putCustomer(till, 'Hedy Marchbanks');
    await order(till);
    await till.click('.order-line > .word');
    await till.read('Quayside', '.sources');
    await till.press('Stock');
    await till.press('Quayside');
    await till.read('from Quayside');
    await till.keys(Key.F9);
    await till.read('Deposit for O-0003');
    await payExact(till);

    await to(quay, 'waiting');
    await quay.press('To pick');
    await quay.read('O-0003');
    await quay.read('to be picked at Quayside');
    await quay.click('.picks .how-many');
    await quay.selectAll();
    await quay.keys('0', Key.ENTER);
    await quay.shows('header .state', 'Short');
    await quay.press('Elsewhere');
    await quay.press('At Ostler Lane');
    await quay.read('to be picked at Ostler Lane');

    // Back to where it was said to be short: somebody has found it after all.
    await quay.press('Elsewhere');
    await quay.press('At Quayside');
    await quay.read('to be picked at Quayside');
    await quay.press('All picked at Quayside');
    await quay.press('Send from Quayside to Ostler Lane');
    await quay.read('on the way from Quayside');

    await to(till, 'waiting');
    await till.read('on the way from Quayside');
    await till.scan('O-0003');
    await till.read('on the way', '.panel');
    await till.keys(Key.ESCAPE);
    await to(till, 'waiting');
    await till.read('It has arrived', 'footer .go');
    await till.keys(Key.F9);
    await till.shows('header .state', 'Ready');
    await quay.shows('header .state', 'Ready');
  });

  it('can be collected at another time, by somebody else; a time at which nobody is there is refused', async () => {
    await till.press('Change this');
    await till.fill('Time', '22:00');
    await till.press('Keep it');
    await till.read('It is open from');
    await till.fill('Time', '16:30');
    await till.fill('Who else may collect', 'her brother');
    await till.press('Keep it');
    await till.read('4:30 PM');
    await till.read('her brother');
  });

  it('that was placed and not paid is kept through a power cut, on top of the list', async () => {
    await to(till, 'counter');
    await ringUp(till, 'CAR-SO');
    await putCustomer(till, 'Bo Farrant');
    await order(till);
    await till.keys(Key.F9);
    await till.read('Deposit for O-0004');
    await powerCut();
    await to(till, 'counter');
    await till.read('Deposit for O-0004');
    await till.press('Clear');
    await till.count('.row', 0);
    await to(till, 'waiting');
    await till.read('Bo Farrant');
    await till.read('No deposit yet');
    await till.press('Cancel it');
    await till.fill('Why', 'No longer wanted');
    await till.keys(Key.ENTER);
    await till.read('O-0004 is cancelled');
  });

  it('is taken as the shop sets it: when it is paid, what shipping costs, where the places are', async () => {
    const manager = await Till.open(() => shop.url);
    try {
      await manager.signIn('8024', 2);
      await manager.go('/setup/orders');
      await manager.choose('Paid when an order is placed', 'Nothing before the handover');
      await manager.press('Another zone');
      await manager.press('Save');
      await manager.read('Type a weight and an amount in each row.');
      await manager.fill('Fee', '3.00');
      await manager.click('.zone-form:last-of-type .named .v-btn');
      await manager.press('Save');
      await manager.read('Orders are set.');
      await manager.go('/setup/places');
      await manager.click('[aria-label="Address and hours of Quayside"]');
      await manager.fill('Town', 'Ferrisport Harbour');
      await manager.fill('Latitude', 'north');
      await manager.press('Keep Quayside');
      await manager.read('Degrees, for example 42.03.');
      await manager.fill('Latitude', '42.02');
      await manager.fill('Tuesday, from', 'noon');
      await manager.press('Keep Quayside');
      await manager.read('A time looks like 14:30.', '.day:has(.v-input--error)');
      await manager.fill('Tuesday, from', '930');
      await manager.press('Keep Quayside');
      await manager.read('2 Quayside 40140 Ferrisport Harbour');
      await manager.go('/setup/changes');
      await manager.read('Quayside: address');
      await manager.read('9:30 AM–');
      await manager.read('Nothing before the handover');
    } finally {
      await manager.close();
    }
    await to(till, 'counter');
    await ringUp(till, 'CAR-SO');
    await putCustomer(till, 'Hedy Marchbanks');
    await order(till);
    await till.keys(Key.F9);
    await till.read('O-0005 is placed');
    await till.count('.row', 0);
  });

  it('has no page on which somebody who cannot see is lost', async () => {
    await to(till, 'counter');
    await ringUp(till, 'MET-C');
    await putCustomer(till, 'Hedy Marchbanks');
    await order(till);
    await till.press('Ship all of it');
    await till.see('#ship-street');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ESCAPE);
    await till.press('Clear');
    await to(till, 'waiting');
    await till.read('O-0003');
    expect(await till.findings()).toEqual([]);
    await till.press('Change this');
    expect(await till.findings()).toEqual([]);
    for (const size of [
      { width: 1024, height: 768 },
      { width: 1280, height: 800 },
    ]) {
      await till.resize(size);
      const sticksOut = await till.driver.executeScript<boolean>(
        "const one = document.querySelector('.detail'); return one.scrollWidth > one.clientWidth",
      );
      expect(sticksOut, `at ${size.width}`).toBe(false);
    }
  });
});
