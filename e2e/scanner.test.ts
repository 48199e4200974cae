import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, it } from 'vitest';
import { checkDigit } from '../core/goods/barcode.ts';
import { demoGoods } from '../demo/goods.ts';
import { Till } from './till.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let till: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  await till.signIn('1357');
  await openDrawer(till);
});
afterAll(async () => {
  await till.close();
  await shop.end();
});

const goods = demoGoods();
/** The code as it is printed on the item: 12 digits for the kind that is stored with a zero in front. */
function codeOf(number: string): string {
  const code = goods.find((item) => item.number === number)?.codes[0] ?? '';
  return code.startsWith('0') ? code.slice(1) : code;
}

describe('a scanner', () => {
  it('adds goods by EAN-13, EAN-8 and UPC-A', async () => {
    for (const number of ['CLA-0220', 'REE-BC-25', 'STR-VI-44']) await till.scan(codeOf(number));
    await till.count('.row', 3);
    await till.scan(codeOf('STR-VI-44'));
    await till.shows('.row.on .q', '2');
  });

  it('takes the quantity that was typed before', async () => {
    await till.keys('4*');
    await till.scan(codeOf('MET-P'));
    await till.shows('.row.on .q', '4');
  });

  it('says when a code is misread or unknown, and keeps the basket', async () => {
    const code = codeOf('CLA-0220');
    await till.scan(code.slice(0, -1) + ((Number(code.at(-1)) + 1) % 10));
    await till.read('the check digit does not fit');
    const body = '299999999999';
    await till.scan(`${body}${checkDigit(body)}`);
    await till.read('Unknown code');
    await till.count('.row', 4);
  });

  it('works while the cash field has the focus, and leaves its amount alone', async () => {
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.scan(codeOf('MET-C'));
    await till.count('.row', 5);
    await till.see('[data-test="to-pay"]');
  });

  it('leaves a field alone that was clicked on purpose', async () => {
    await till.keys(Key.F9);
    await till.click('#handed');
    await till.selectAll();
    await till.keys('2000', Key.ENTER);
    await till.read('change is a lot');
    await till.keys(Key.ENTER);
    await till.see('[data-test="change"]');
  });

  it('begins the next sale with the next scan', async () => {
    await till.scan(codeOf('MET-W'));
    await till.count('.row', 1);
    await till.see('[data-test="to-pay"]');
  });

  it('brings the Counter back from any page', async () => {
    await till.click('nav a[href="/journal"]');
    await till.read('Journal', 'h1');
    await till.scan(codeOf('MET-W'));
    await till.shows('.row.on .q', '2');
  });

  it('is not lost while a payment is being stored: what is scanned is in the next sale', async () => {
    await till.keys(Key.F9);
    await till.see('#handed');
    // The server's answer takes its time.
    await till.driver.executeScript(`
      const { fetch } = window;
      window.fetch = (...asked) => String(asked[0]).endsWith('/counter/sales')
        ? new Promise((answer) => { window.answerNow = () => answer(fetch(...asked)); })
        : fetch(...asked);`);
    await till.selectAll();
    await till.keys('300', Key.ENTER);
    await till.read('Storing');
    for (const number of ['MET-C', 'MET-P', 'MET-C']) await till.scan(codeOf(number));
    await till.read('comes next, as soon as this payment is stored');
    await till.driver.executeScript('window.answerNow()');
    await till.count('.row', 2);
    await till.shows('.row.on .q', '2');
    // Nobody has seen yet what goes back to the customer before.
    await till.read('Change of the sale before:');
    await till.keys(Key.ESCAPE);
    await till.count('.say', 0);
  });

  it('finds a receipt by its barcode', async () => {
    await till.scan('1-0001');
    await till.read('Return from 1-0001');
  });
});
