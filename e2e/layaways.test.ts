import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { payExact, putCustomer } from './handsOnCounter.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
let other: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  other = await Till.open(() => shop.url);
  await till.signIn('1357', 1);
  await openDrawer(till);
  await other.signIn('3690', 2);
  await openDrawer(other);
});
afterAll(async () => {
  await till.close();
  await other.close();
  await shop.end();
});

async function toPay(on: Till, amount: string): Promise<void> {
  await on.shows('[data-test="to-pay"]', amount);
}

describe('a layaway', () => {
  it('needs a customer, and says so where the goods stay', async () => {
    await till.enter('MET-C');
    await till.count('.row', 1);
    await till.keys(Key.F7);
    await till.read('Whose are the goods?');
    await till.press('Choose the customer');
    await till.see('.panel input:focus');
    await till.keys(Key.ESCAPE);
    await till.count('.row', 1);
  });

  it('is refused next to what is wrong, and loses nothing that was typed', async () => {
    await putCustomer(till, 'Hedy Marchbanks');
    await till.keys(Key.F7);
    await till.see('#layaway-deposit:focus');
    await till.holds('#layaway-deposit', '9.68');
    await till.selectAll();
    await till.keys('5', Key.ENTER);
    await till.read('That is less than the least deposit.', '#layaway-deposit-wrong');
    await till.holds('#layaway-deposit', '5');
    await till.selectAll();
    await till.keys('500', Key.ENTER);
    await till.read('That is more than the goods cost.', '#layaway-deposit-wrong');
    expect(await till.findings()).toEqual([]);
  });

  it('is made with its deposit in cash, by keyboard (8 actions at most)', async () => {
    await till.selectAll();
    await till.keys('20', Key.ENTER);
    await till.read('L-0001 is set aside.');
    await toPay(till, '20.00');
    await payExact(till);
    await till.click('nav a[href="/journal"]');
    await till.click("//button[contains(., 'Deposit for L-0001')]");
    await till.press('Receipt');
    await till.read('L-0001: paid so far');
  });

  it('is paid off by scanning its paper: a part in four actions', async () => {
    await till.click('nav a[href="/counter"]');
    await till.scan('L-0001');
    await till.see('#promise-amount:focus');
    await till.read('Hedy Marchbanks', '.panel');
    await till.keys(Key.ENTER);
    await till.count('.row', 1);
    await payExact(till);
    // More than is left is refused, next to the amount.
    await till.scan('L-0001');
    await till.see('#promise-amount:focus');
    await till.selectAll();
    await till.keys('99', Key.ENTER);
    await till.read('is left to pay', '#promise-amount-wrong');
    await till.keys(Key.ESCAPE);
  });

  it('gets more goods, and they are taken out again', async () => {
    await till.enter('CAR-CG');
    await till.count('.row', 1);
    await putCustomer(till, 'Hedy Marchbanks');
    await till.keys(Key.F7);
    await till.press('Add to L-0001');
    await till.press('Set aside');
    await till.read('The goods are set aside with L-0001.');
    await till.count('.row', 0);
    await till.click('nav a[href="/waiting"]');
    await till.read('Goods added');
    await till.click("//tr[td[contains(., 'Cork grease')]]//button");
    await till.read('Goods taken out');
    await till.count('.detail .word', 0);
    await till.click('nav a[href="/counter"]');
  });

  it('goes on after a reload, and after the server was killed before its deposit was paid', async () => {
    await till.enter('CAR-SO');
    await till.count('.row', 1);
    await putCustomer(till, 'Bo Farrant');
    await till.keys(Key.F7);
    await till.see('#layaway-deposit:focus');
    await till.keys(Key.ENTER);
    await till.read('Deposit for L-0002');
    await shop.kill();
    await shop.start();
    await till.go('/counter');
    await till.read('Deposit for L-0002');
    await payExact(till);
    await till.click('nav a[href="/waiting"]');
    await till.read('Bo Farrant');
  });

  it('is in the list of what waits, on every till, with what happened', async () => {
    await other.click('nav a[href="/waiting"]');
    await other.read('Hedy Marchbanks');
    await other.fill('Number, customer, goods', 'hedy');
    await other.count('.rows .list-row', 1);
    await other.click('.rows .list-row');
    await other.read('Deposit paid');
    await other.read('Maren', '.who');
    expect(await other.findings()).toEqual([]);
    // What is put aside on another till meanwhile does not come beneath the hand.
    await till.click('nav a[href="/counter"]');
    await till.enter('MET-P');
    await till.count('.row', 1);
    await till.keys(Key.F8);
    await till.see('#hold-name');
    await till.keys('Sam', Key.F8);
    await till.read('Sam waits as W-0001');
    await other.shows('.rail .n', '1');
    await other.read('Deposit paid', '.detail');
    await till.enter('W-0001');
    await till.read('Sam is on this till now.');
    await till.keys(Key.DELETE);
    await till.count('.row', 0);
    await other.fill('What was said or done', 'rang about it');
    await other.press('Customer was told');
    await other.read('rang about it', '.detail');
    await other.read('Customer told', '.rows');
    // How far it is can be said in words of the shop, too.
    await other.press('Being engraved');
    await other.shows('header .state', 'Customer told, Being engraved');
    await other.read('Customer told, Being engraved', '.rows');
    await other.press('At the workshop');
    await other.shows('header .state', 'Customer told, At the workshop');
  });

  it('is handed over on another till with what is left to pay', async () => {
    await other.press('Hand over');
    await other.see('.panel .goods input:focus');
    await other.keys(Key.ENTER);
    await other.count('.row', 2);
    await other.read('Deposit used, L-0001');
    await other.wait(async () => Number(await other.text('[data-test="to-pay"]')) > 0);
    await payExact(other);
    await other.click('nav a[href="/waiting"]');
    await other.press('Over as well');
    await other.read('Handed over');
    // The first till has heard of it.
    await till.click('nav a[href="/counter"]');
    await till.scan('L-0001');
    await till.read('Handed over', '.panel');
    await till.keys(Key.ESCAPE);
  });

  it('that is paid leaves in four actions at most: no money is asked for', async () => {
    await till.scan('L-0002');
    await till.see('#promise-amount:focus');
    await till.selectAll();
    const left = await till.text('.panel .facts dd:last-of-type');
    await till.keys(left, Key.ENTER);
    await till.count('.row', 1);
    await payExact(till);
    await till.scan('L-0002');
    await till.see('.panel .goods input:focus');
    await till.keys(Key.ENTER);
    await till.read('Hand over', '.next-step');
    await toPay(till, '0.00');
    await till.keys(Key.F9);
    await till.read('Next sale');
  });

  it('is cancelled: the deposit goes back less the fee', async () => {
    await other.click('nav a[href="/counter"]');
    await other.keys(Key.F9);
    await other.enter('CAR-CG');
    await other.count('.row', 1);
    await putCustomer(other, 'Otto Grenvale');
    await other.keys(Key.F7);
    await other.see('#layaway-deposit:focus');
    await other.selectAll();
    await other.keys('3', Key.ENTER);
    await other.read('Deposit for L-0003');
    await payExact(other);
    // A cashier keeps less than the agreed fee only when somebody approves it, and more nobody does.
    await till.click('nav a[href="/counter"]');
    await till.keys(Key.ESCAPE);
    await till.scan('L-0003');
    await till.see('#promise-amount:focus');
    await till.press('Cancel it');
    await till.press('No longer wanted');
    for (const [fee, wanted] of [
      ['4', 'At most 3.00, as it was agreed.'],
      ['1', 'Keep less than the agreed fee'],
    ] as const) {
      await till.focus('#promise-fee');
      await till.selectAll();
      await till.keys(fee, Key.ENTER);
      await till.read(wanted);
    }
    await till.see('#second-pin:focus');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ESCAPE);
    await till.read('Layaway L-0003', '.panel');
    await till.keys(Key.ESCAPE);
    await other.scan('L-0003');
    await other.see('#promise-amount:focus');
    await other.press('Cancel it');
    await other.see('#promise-reason:focus');
    await other.keys(Key.ENTER);
    await other.read('Say why', '#promise-reason-wrong');
    await other.press('No longer wanted');
    await other.focus('#promise-fee');
    await other.selectAll();
    await other.keys('1', Key.ENTER);
    await other.read('Deposit given back, L-0003');
    await toPay(other, '2.00');
    await other.keys(Key.F9);
    await other.see('//aside//*[contains(., "Give")]');
    await other.keys(Key.F9);
    await other.read('Next sale');
    await other.scan('L-0003');
    await other.read('Cancelled', '.panel');
    await other.keys(Key.ESCAPE);
  });

  it('of which two tills want the last piece is told to the second', async () => {
    for (const on of [till, other]) {
      await on.click('nav a[href="/counter"]');
      await on.enter('STA-ORCH');
      await on.count('.row', 1);
      await putCustomer(on, 'Bo Farrant');
      await on.keys(Key.F7);
      await on.see('#layaway-deposit:focus');
    }
    await till.keys(Key.ENTER);
    await till.read('is set aside.');
    await other.keys(Key.ENTER);
    await other.read('is not here, or promised to others', '.panel');
    await other.press('Goods still to come');
    await other.focus('#layaway-deposit');
    await other.keys(Key.ENTER);
    await other.read('is set aside.');
  });

  it('has its terms in Setup', async () => {
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.signIn('8024', 1);
    await till.go('/setup/layaway');
    await till.fill('Least deposit', '120');
    await till.press('Save');
    await till.read('Type a rate from 0 to 100 %.');
    await till.fill('Least deposit', '30');
    await till.fill('Terms on the paper of a layaway', 'Ours until it is paid for.');
    await till.press('Save');
    await till.read('Layaways are set.');
    expect(await till.findings()).toEqual([]);
  });
});
