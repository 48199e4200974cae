import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDrawer } from './handsOnDrawer.ts';
import { openShop, type TestShop } from './testShop.ts';
import { Till } from './till.ts';

/** A gift card of the made-up shop with 200.00 on it, and one that was lost. */
const GIFT_CARD = '44100771409';
const LOST_CARD = '44100771425';

let shop: TestShop;
let till: Till;
/** The terminal on the counter, as customers see it. */
let terminal: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  await till.signIn('8024');
  await openDrawer(till);
  terminal = await Till.open(() => shop.url);
  await terminal.go('/terminal/T-1001');
  await terminal.read('Ready');
});
afterAll(async () => {
  await till.close();
  await terminal.close();
  await shop.end();
});

/** Rings up a clarinet and begins to take payment. */
async function ringUp(number = 'CLA-0220'): Promise<void> {
  await till.enter(number);
  await till.count('.row', 1);
  await till.keys(Key.F9);
  await till.see('.ways');
}

const way = (name: string) => till.click(`//button[contains(@class, 'list-row')][contains(., '${name}')]`);

/** Asks the terminal for what is left. @param roundUp whether the customer is asked to round up, which is done once */
async function askTerminal({ roundUp = true } = {}): Promise<void> {
  await till.alt('2');
  await till.read('Counter', '.way.on');
  await till.keys(Key.F9);
  await till.see('.wait');
  if (roundUp) await terminal.press('No');
  await terminal.read('Tap, insert or swipe');
}

const bank = (words: string) => terminal.press(words);

describe('taking payment', () => {
  it('splits a sale over a gift card, a card and cash, all by keyboard', async () => {
    await ringUp();
    await till.alt('3');
    await till.see('[name="value-number"]');
    await till.keys(GIFT_CARD, Key.TAB);
    await till.shows('[data-test="balance"]', '200.00');
    await till.keys(Key.F9);
    await till.read('0.00 left on it', '.taken');
    await till.shows('[data-test="left"]', '261.18');

    await till.alt('2');
    await till.selectAll();
    await till.keys('100', Key.F9);
    await till.see('.wait');
    await terminal.press('No');
    await terminal.read('Tap, insert or swipe');
    await terminal.press('Insert');
    await terminal.read('PIN');
    for (const digit of '1234') await terminal.click(`//button[normalize-space(.) = '${digit}']`);
    await terminal.press('OK');
    await terminal.read('Approved');
    await till.shows('[data-test="left"]', '161.18');

    await till.keys('180', Key.ENTER);
    await till.shows('[data-test="change"]', '18.82');
    await till.read('Harbour ·· 4821', '.change');
    await till.read('approval', '.paper');
  });

  it('says why a card was declined, and loses nothing', async () => {
    await ringUp('REE-BC-25');
    await bank('Declines: not enough money');
    await askTerminal();
    await terminal.press('Tap');
    await terminal.read('Not enough money');
    await till.read('Declined: Not enough money on the card.', '.taken');
    await till.shows('[data-test="left"]', '3.76');
    await bank('Approves a part');
    await askTerminal();
    await terminal.press('Tap');
    await till.shows('[data-test="left"]', '1.88');
    await bank('Approves');
    await askTerminal({ roundUp: false });
    await terminal.press('Swipe');
    await terminal.see('canvas');
    await terminal.draw('canvas');
    await terminal.press('OK');
    await till.shows('[data-test="paid"]', '3.76');
  });

  it('calls the terminal off, and is called off by the customer', async () => {
    await ringUp('REE-BC-25');
    await askTerminal();
    await till.keys(Key.ESCAPE);
    await till.read('Called off at the till', '.taken');
    await askTerminal();
    await terminal.press('Stop');
    await till.read('Stopped on the terminal', '.taken');
    // Goods that are scanned meanwhile are not lost: they are refused in words.
    await askTerminal();
    await till.scan('CLA-0220');
    await till.read('the card terminal is being asked');
    await terminal.press('Tap');
    await till.shows('[data-test="paid"]', '3.76');
  });

  it('finds the money again when the connection was lost and the page was loaded anew', async () => {
    await ringUp('REE-BC-25');
    await askTerminal();
    await bank('Connection lost');
    await till.read('It is not known yet whether the card was charged');
    await terminal.press('Tap');
    await terminal.read('Approved');
    await till.driver.navigate().refresh();
    await till.read('It is not known yet whether the card was charged');
    await bank('Good connection');
    await till.shows('[data-test="paid"]', '3.76');
  });

  it('goes on without an answer; what was taken after all goes back', async () => {
    await ringUp('REE-BC-25');
    await askTerminal();
    await bank('Connection lost');
    await till.read('It is not known yet');
    await terminal.press('Tap');
    await till.press('Go on without the answer');
    await till.read('the money goes back by itself', '.taken');
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.see('[data-test="change"]');
    await bank('Good connection');
    await till.click('nav a[href="/journal"]');
    await till.press('Card payments');
    await till.read('Sent back', '.list');
  });

  it('waits for a bank that is slow', async () => {
    await till.click('nav a[href="/counter"]');
    await ringUp('REE-BC-25');
    await bank('The answer comes late');
    await askTerminal();
    await terminal.press('Tap');
    await till.read('The bank is asked', '.wait');
    await terminal.press('The bank answers now');
    await till.shows('[data-test="paid"]', '3.76');
  });

  it('takes cheques with their number, foreign cash and a part in cash; refuses too much', async () => {
    await ringUp('CLA-0220');
    await way('Cheque');
    await till.keys(Key.F9);
    await till.read('Cheque number is missing');
    await till.selectAll();
    await till.keys('9999', Key.TAB, '118');
    await till.keys(Key.F9);
    await till.read('Only 461.18 is left to pay');
    await till.click('.way.on .big-field');
    await till.selectAll();
    await till.keys('200', Key.F9);
    await till.read('Cheque 118', '.taken');
    await way('Canadian dollars');
    await till.keys('100');
    await till.read('72.00', '.worth');
    await till.keys(Key.F9);
    await till.shows('[data-test="left"]', '189.18');
    await till.press('Undo');
    await till.read('Give 200.00 back');
    await till.shows('[data-test="left"]', '389.18');
    await way('Cash');
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.shows('[data-test="paid"]', '461.18');
  });

  it('takes cash that was typed as a part when another means is chosen, and drops nothing', async () => {
    await ringUp('CLA-0220');
    await till.selectAll();
    await till.keys('100');
    await way('Cheque');
    await till.read('Cash', '.taken');
    await till.shows('[data-test="left"]', '361.18');
    await way('Cash');
    await till.see('#handed');
    await till.selectAll();
    await till.keys('400');
    await till.click('//*[contains(@class, "way")]//button[contains(., "Cheque")]');
    await till.read('Take the cash first, or empty the field.');
    await till.keys(Key.F9);
    await till.shows('[data-test="change"]', '38.82');
    await till.keys(Key.ENTER);
  });

  it('gives back what was taken when the basket is emptied', async () => {
    await ringUp('REE-BC-25');
    await till.selectAll();
    await till.keys('2', Key.F9);
    await till.read('is missing', '.way.on');
    await till.keys(Key.F9);
    await till.shows('[data-test="left"]', '1.76');
    await till.keys(Key.ESCAPE);
    await till.press('Clear');
    await till.count('.row', 0);
    await till.keys(Key.F9);
    await till.read('2.00 too much was taken');
    await till.press('Undo');
    await till.read('Give 2.00 back');
    await till.see('[data-test="to-pay"]');
  });

  it('takes a voucher, a transfer and a card on another terminal, each with its reference', async () => {
    await ringUp('CLA-0220');
    for (const [name, amount, reference] of [
      ['Harbour Fair voucher', '20', 'HF-77'],
      ['Bank transfer', '300', 'T-2026-3'],
      ['Card, other terminal', '141.18', '998877'],
    ] as const) {
      await way(name);
      await till.see('.way.on .big-field');
      await till.selectAll();
      await till.keys(amount, Key.TAB, reference, Key.F9);
      await till.read(reference);
    }
    await till.shows('[data-test="paid"]', '461.18');
    await till.read('Card, other terminal 998877', '.paper');
  });

  it('keys a card on the terminal when the customer is not there, and refuses a wrong number', async () => {
    await ringUp('REE-BC-25');
    await till.alt('2');
    await till.click('.way.on .check-field input');
    await till.keys(Key.F9);
    await till.see('.wait');
    await terminal.see('#card-number');
    await terminal.click('#card-number');
    await terminal.keys('4000000000000001', Key.ENTER);
    await terminal.read('The number is not right');
    await terminal.selectAll();
    // A made-up number with a right check digit.
    await terminal.keys('4000000000000002', Key.ENTER);
    await till.shows('[data-test="paid"]', '3.76');
    await till.read('keyed, card not present', '.paper');
  });

  it('splits evenly', async () => {
    await ringUp('CLA-0220');
    await till.press('Split evenly');
    await till.click(`//div[contains(@class, 'split')]//button[normalize-space(.) = '3']`);
    await till.shows('#handed', '');
    await till.holds('#handed', '153.73');
    await till.keys(Key.F9);
    await till.shows('[data-test="left"]', '307.45');
    await till.holds('#handed', '153.73');
    await till.keys(Key.F9);
    await till.shows('[data-test="left"]', '153.72');
    await till.keys(Key.F9);
    await till.see('[data-test="paid"]');
  });

  it('rounds up for the fund, also when the customer says so in their own window', async () => {
    const display = await Till.beside(till, '/display/1');
    await till.enter('REE-BC-25');
    await display.run(() => till.read('Marshgrass reed'));
    // Where it was opened before an update, it takes the till's pages over.
    const edition = "document.querySelector('meta[name=edition]').content";
    await display.run(() => till.driver.executeScript(`${edition} = 'earlier'`));
    await till.keys(Key.F9);
    await till.see('.round');
    await display.run(async () => {
      await till.wait(async () => (await till.driver.executeScript(`return ${edition}`)) !== 'earlier');
      await till.press('Yes');
    });
    await till.shows('[data-test="left"]', '4.00');
    await till.keys(Key.F9);
    await till.see('[data-test="change"]');
    await till.read('0.24 given', '.change');
    await display.run(() => till.read('Thank you'));
    await display.close();
  });
});

describe('gift cards', () => {
  it('are sold, and pay from then on', async () => {
    await till.press('Till jobs');
    await till.press('Gift card');
    await till.see('#gift-number');
    await till.press('Make up a number');
    await till.keys(Key.TAB);
    await till.click('#gift-amount');
    await till.keys('40');
    const number = await till.wait(() => till.value('#gift-number'));
    await till.keys(Key.F9);
    await till.shows('[data-test="to-pay"]', '40.00');
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.see('[data-test="change"]');
    // Scanned while paying, it pays.
    await ringUp('CLA-0220');
    await till.scan(number);
    await till.shows('[data-test="balance"]', '40.00');
    await till.keys(Key.F9);
    await till.read('0.00 left on it', '.taken');
    await till.keys(Key.F9);
    await till.see('[data-test="paid"]');
    // Scanned at any other time, it says what is on it.
    await till.scan(GIFT_CARD);
    await till.shows('[data-test="balance"]', '0.00');
    await till.keys(Key.ESCAPE);
  });

  it('that were lost are refused, and moved to a new card', async () => {
    await ringUp('CLA-0220');
    await till.alt('3');
    await till.see('[name="value-number"]');
    await till.keys(LOST_CARD, Key.TAB);
    await till.read('was reported lost and is frozen');
    await till.keys(Key.ESCAPE);
    await till.click('nav a[href="/journal"]');
    await till.press('Gift cards');
    await till.read('outstanding');
    await till.press(LOST_CARD);
    await till.read('Found: use it again');
    await till.press('Move');
    await till.read('moved in');
    await till.shows('.side [data-test="balance"]', '80.00');
  });

  it('of paper come in by a list that says which line is wrong', async () => {
    await till.press('Import');
    await till.click('.panel textarea');
    await till.keys('OLM-0401,20.00');
    await till.keys(Key.ENTER, 'OLM-0401,5.00');
    await till.press('Import all');
    await till.read('Line 2, OLM-0401');
    // Whoever is called away meanwhile finds the lines again.
    await till.press('Cancel');
    await till.press('Import');
    await till.press('Put it back');
    await till.holds('.panel textarea', 'OLM-0401,20.00\nOLM-0401,5.00');
    await till.click('.panel textarea');
    await till.selectAll();
    await till.keys('OLM-0401,20.00');
    await till.press('Import all');
    await till.read('The certificates can be used.');
    await till.read('OLM0401', '.list');
  });

  it('are found from any page of the list on, and opened by keyboard', async () => {
    const lines = Array.from({ length: 110 }, (_, at) => `PAP-${1000 + at},5.00`);
    const list = join(mkdtempSync(join(tmpdir(), 'mondrel-list-')), 'certificates.csv');
    writeFileSync(list, lines.join('\r\n'));
    await till.press('Import');
    await (await till.see('input[type="file"]')).sendKeys(list);
    await till.press('Import all');
    await till.read('PAP1109', '.list');
    await till.press('Next');
    await till.read('2 of 2');
    await till.click('.list [data-search] input');
    await till.keys('OLM0401');
    await till.read('OLM0401', 'tr.on');
    await till.keys(Key.ENTER);
    await till.shows('.side [data-test="balance"]', '20.00');
    expect(await till.findings()).toEqual([]);
    await till.resize({ width: 768, height: 1024 });
    expect(await till.sticksOut()).toBe(0);
    await till.resize({ width: 1280, height: 800 });
    // Escape clears what is typed for the Counter first.
    await till.click('[name="entry"]');
    await till.keys('zz', Key.ESCAPE);
    await till.holds('[name="entry"]', '');
    await till.see('.side');
    await till.keys(Key.ESCAPE);
    await till.count('.side', 0);
  });

  it('of paper are added one by one', async () => {
    await till.press('Add a certificate');
    await till.fill('Number on the paper', 'OLM-0402');
    await till.press('Add it');
    await till.read('Type an amount');
    await till.fill('Worth', '12.50');
    await till.keys(Key.F9);
    await till.read('The certificate can be used.');
    await till.holds('.side input', '');
    await till.press('Close');
    await till.fill('Number, customer or mail', 'OLM0402');
    await till.read('12.50', 'tr.on');
  });
});

describe('what is set up', () => {
  it('pairs a terminal by the code that it shows', async () => {
    await terminal.go('/terminal');
    await terminal.press('Unpack a new terminal');
    await terminal.read('Sign in here first');
    await terminal.signIn('8024', 3);
    await terminal.go('/terminal');
    await terminal.press('Unpack a new terminal');
    const code = await (await terminal.see('[data-test="pairing-code"]')).getText();
    await till.click('nav a[href="/setup"]');
    await till.click('.parts a[href="/setup/terminals"]');
    await till.see('#terminals-title');
    await till.fill('Name of the terminal', 'Tent');
    await till.fill('Code that it shows', '000000');
    await till.press('Pair it');
    await till.read('No terminal shows this code.');
    await till.fill('Code that it shows', code);
    await till.press('Pair it');
    await till.read('Tent is paired.');
    await terminal.read('Ready');
  });

  it('shows the receipt while its words are written', async () => {
    await till.click('.parts a[href="/setup/receipts"]');
    await till.fill('At the end of receipts', 'Come again soon.');
    await till.read('Come again soon.', '.sight');
    await till.press('Keep the receipts');
    await till.read('Receipts look like this from now on.');
  });

  it('sends a receipt by mail, and refuses what is no address', async () => {
    await till.click('nav a[href="/counter"]');
    await till.keys(Key.F9);
    await till.see('.ways');
    await till.keys(Key.F9);
    await till.see('.change');
    await till.press('E-mail');
    await till.click('.send input[type="email"]');
    await till.keys('nobody', Key.ENTER);
    await till.read('This is no mail address.');
    await till.selectAll();
    await till.keys('ada@reader.example', Key.ENTER);
    await till.read('goes to ada@reader.example');
  });
});
