import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { count } from './hand.ts';
import { putCustomer } from './handsOnCounter.ts';
import { openDrawer } from './handsOnDrawer.ts';
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

const file = (name: string, lines: readonly string[]): string => {
  const path = join(mkdtempSync(join(tmpdir(), 'mondrel-bank-')), name);
  writeFileSync(path, lines.join('\r\n'));
  return path;
};

/** Opens the page of a customer through the list of people. */
async function open(words: string, name: string): Promise<void> {
  await till.click('nav a[href="/people"]');
  await till.click('.list [data-search] input');
  await till.selectAll();
  await till.keys(words);
  await till.read(name, 'tr.on');
  await till.keys(Key.ENTER);
  await till.shows('h1', name);
}

/** What stands behind a link, as text. */
const linked = async (css: string): Promise<string> =>
  till.driver.executeAsyncScript<string>(
    'const [link, done] = arguments; fetch(link.href).then((answer) => answer.text()).then(done);',
    await till.see(css),
  );

describe('house accounts', () => {
  it('are charged in two actions after payment began; the receipt says what is owed', async () => {
    await till.enter('REC-SO');
    await putCustomer(till, 'Agnes Tull');
    await till.read('89.00 owed');
    await till.keys(Key.ESCAPE);
    await till.read('owes 89.00', '.customer');
    await till.keys(Key.F9);
    await till.see('#handed');
    const actions = await count(till, async (hand) => {
      await hand.press('On account');
      await till.read('May still go on it');
      await hand.key(Key.ENTER);
      await till.read('Next sale');
    });
    expect(actions).toBeLessThanOrEqual(2);
    await till.read('House account', '.paper');
    await till.read('Owed before', '.paper');
    await till.keys(Key.F9);
  });

  it('go over their limit only with an approval, and are filled in with what may go on them', async () => {
    await open('uma fenw', 'Uma Fenwick');
    await till.press('Came by bank');
    await till.keys(Key.ESCAPE);
    await till.click('.account .acts .v-btn:last-child');
    await till.read('Account of Uma Fenwick');
    await till.fill('Limit', '10.00');
    await till.keys(Key.ENTER);
    await till.read('The account is changed.');
    await till.click('nav a[href="/counter"]');
    await till.enter('REC-SO');
    await putCustomer(till, 'Uma Fenwick');
    await till.keys(Key.ESCAPE);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.press('On account');
    await till.shows('[data-test="free"]', '10.00');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.ENTER);
    await till.read('10.00 taken');
    await till.keys(Key.ENTER);
    await till.see('[data-test="change"], [data-test="paid"]');
    await till.keys(Key.F9);
  });

  it('keep the part that was typed while somebody else changes the account', async () => {
    await till.enter('REC-SO');
    await putCustomer(till, 'Uma Fenwick');
    await till.keys(Key.ESCAPE);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.press('On account');
    await till.read('May still go on it');
    await till.selectAll();
    await till.keys('2');
    const office = await Till.beside(till, '/people');
    await office.run(async () => {
      await open('uma fenw', 'Uma Fenwick');
      await till.click('.account .acts .v-btn:last-child');
      await till.read('Account of Uma Fenwick');
      await till.fill('Limit', '31.00');
      await till.keys(Key.ENTER);
      await till.read('The account is changed.');
    });
    await office.close();
    await till.shows('[data-test="free"]', '21.00');
    await till.keys('.5', Key.ENTER);
    await till.read('2.50 taken');
    await till.keys(Key.ENTER);
    await till.see('[data-test="change"], [data-test="paid"]');
    await till.keys(Key.F9);
  });

  it('take money in at the till, in five actions from the card', async () => {
    await open('uma fenw', 'Uma Fenwick');
    const card = await till.text('.cards .num');
    await till.click('nav a[href="/counter"]');
    const actions = await count(till, async (hand) => {
      hand.actions += 1;
      await till.scan(card);
      await till.read('Uma Fenwick is on the sale.');
      await hand.key(Key.F4);
      await till.read('Money in');
      await hand.key('m');
      await till.see('.panel .big-field:focus');
      await hand.key(Key.ENTER);
      await till.see('#handed');
      await till.read('On account, Uma Fenwick', '.tape');
      await hand.key(Key.ENTER);
      await till.read('Next sale');
    });
    expect(actions).toBeLessThanOrEqual(5);
    await till.read('Owed now', '.paper');
    await till.keys(Key.F9);
  });

  it('of a company ask each buyer for a reference', async () => {
    await till.enter('REC-SO');
    await putCustomer(till, 'Dorian Pell');
    await till.read('Account of Ferrisport Schools');
    await till.keys(Key.ESCAPE);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.press('On account');
    await till.read('Order number');
    await till.keys(Key.ENTER);
    await till.read('Order number is missing.');
    await till.keys(Key.TAB, 'Order 4711', Key.ENTER);
    await till.read('Next sale');
    await till.read('Ferrisport Schools, Order 4711', '.paper');
    await till.keys(Key.F9);
  });

  it('have a statement for the last month in four actions, as sheets and as a list', async () => {
    await till.click('nav a[href="/counter"]');
    const actions = await count(till, async (hand) => {
      await hand.click('nav a[href="/people"]');
      await till.see('.list [data-search] input');
      await till.selectAll();
      await hand.type('marit');
      await till.read('Marit Solvane', 'tr.on');
      await hand.key(Key.ENTER);
      await till.shows('h1', 'Marit Solvane');
      await hand.press('Statement');
      await till.read('Statement of Ferrisport Schools');
    });
    expect(actions).toBeLessThanOrEqual(4);
    await till.read('Nothing happened in these days.');
    await till.press('This month');
    await till.read('Order 4711');
    await till.read('Dorian Pell', 'tbody');
    expect(await till.findings()).toEqual([]);
    expect((await linked('a[href*="statement.pdf"]')).startsWith('%PDF')).toBe(true);
    expect(await linked('a[href*="statement.csv"]')).toContain('Order 4711');
    await till.press('Mail it');
    await till.read('The statement goes to marit.solvane@mail.example.');
  });

  it('are opened on the page of a customer, with buyers; what is wrong stands at its field', async () => {
    await open('bo farr', 'Bo Farrant');
    await till.press('Open a house account');
    await till.fill('Limit', 'much');
    await till.keys(Key.ENTER);
    await till.read('Type a limit.');
    await till.fill('Limit', '300.00');
    await till.click('#buyer-search');
    await till.keys('kai lind');
    await till.foundIn('buyer');
    await till.click('#buyer-0');
    await till.read('Kai Lindqvarn', '.account li');
    expect(await till.findings()).toEqual([]);
    await till.press('Open it');
    await till.read('Bo Farrant has a house account.');
    await till.read('Kai Lindqvarn may buy on it.');
    await till.press('Owed from before');
    await till.fill('Amount', '40.00');
    await till.keys(Key.ENTER);
    await till.read('From before', '.account');
    await till.press('Write off');
    await till.fill('Amount', '50.00');
    await till.fill('Why', 'Agreed');
    await till.keys(Key.ENTER);
    await till.read('Only 40.00 is owed.');
    await till.fill('Amount', '15.00');
    await till.keys(Key.ENTER);
    await till.read('Written off', '.account');
  });

  it('take money in from the page of a customer, for the charges that were picked', async () => {
    await open('bo farr', 'Bo Farrant');
    await till.click('.account input[type="checkbox"]');
    await till.press('Money in');
    await till.read('For the charge picked.');
    await till.keys(Key.ENTER);
    await till.see('#handed');
    await till.read('On account, Bo Farrant', '.tape');
    await till.keys(Key.ENTER);
    await till.read('Next sale');
    await till.read('Owed now', '.paper');
    await till.keys(Key.F9);
  });

  it('find lines of the bank, each once, and are paid by them', async () => {
    await till.click('nav a[href="/people"]');
    await till.click('a[href="/people/accounts"]');
    await till.read('Ferrisport Schools', 'table');
    expect(await till.findings()).toEqual([]);
    await till.click('a[href="/people/bank"]');
    await till.read('No line waits');
    const list = file('bank.csv', [
      'Date,Amount,Payer,Reference',
      '2026-03-01,89.00,Chapel treasurer,House account A-0002',
      '2026-03-01,12.34,Nobody known,?',
    ]);
    await (await till.see('input[type="file"]')).sendKeys(list);
    await till.read('Read: 2 new.');
    await till.read('A-0002');
    expect(await till.findings()).toEqual([]);
    await till.press('St Orrin Chapel Choir');
    await till.read('89.00 is on the account of St Orrin Chapel Choir.');
    await (await till.see('input[type="file"]')).sendKeys(list);
    await till.read('Read: 0 new, 2 there already.');
    await till.press('Not for an account');
    await till.read('No line waits');
  });

  it('are stated all at once into one file', async () => {
    await till.click('a[href="/people/accounts"]');
    await till.press('Statements');
    await till.press('Make them');
    await till.read('statements, PDF');
    expect((await linked('a[href*="all.pdf"]')).startsWith('%PDF')).toBe(true);
  });

  it('get what comes back, and pay out what is over', async () => {
    await open('uma fenw', 'Uma Fenwick');
    await till.press('Came by bank');
    await till.fill('Amount', '25.00');
    await till.keys(Key.ENTER);
    await till.read('In their favour', '.account');
    await till.press('Pay it out');
    await till.read('Paid out to Uma Fenwick', '.tape');
    await till.keys(Key.F9);
    await till.read('To give back');
    await till.keys(Key.F9);
    await till.read('Next sale');
    await till.keys(Key.F9);
    expect(await shop.verify()).toContain('0 differences.');
  });
});
