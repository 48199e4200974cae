import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { startShop } from './shop.ts';
import { Till } from './till.ts';
import { count, openDrawer } from './handsOnDrawer.ts';

const FOLDER = 'docs/screenshots';

/** Makes the pictures of the main views from the demo data, always at the same moment of the same day. */
async function main(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-pictures-'));
  const shop = await startShop(folder, 'demo', []);
  const till = await Till.open(() => shop.url);
  const picture = async (name: string) => {
    // Rows that are asked for are pale until they come.
    await till.count('.v-data-table--loading', 0);
    await till.settled();
    // A caret that blinks would make another picture each time.
    await till.driver.executeScript("document.documentElement.style.caretColor = 'transparent'");
    await till.picture(join(FOLDER, `${name}.png`));
  };
  /** Looks at something in a long list. */
  const choose = async (number: string) => {
    const row = await till.button(number);
    await till.driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", row);
    await row.click();
  };
  try {
    await till.go('/');
    await till.see('#pin');
    await till.signIn('2468', 2);
    await till.keys(Key.F9);
    await till.see('.sheet');
    await count(till, { '20.00': 5, '10.00': 5, '1.00': 50 });
    await openDrawer(till);

    for (const entry of [
      'CLA-0220',
      '3*REE-BC-25',
      '2.5*CAB-CUT',
      'STA-FOLD-BK',
      'MUS-ST13',
      '40*CAR-RO-L',
      'LES-30',
    ])
      await till.enter(entry);
    await till.count('.row', 7);
    await till.keys('reed alto');
    await till.see('#found li');
    await till.keys(Key.ESCAPE);
    await till.see('.nudges');
    await picture('counter');
    await till.keys(Key.F4);
    await till.see('#customer-search');
    await till.keys('ines wether');
    await till.read('555-0122');
    await till.keys(Key.ENTER);
    await till.read('Last visits');
    await till.click('.tape footer .chips .chip');
    await till.see('#discount-size');
    await till.keys('5');
    await till.read('becomes');
    await till.focus('#discount-reason');
    await till.keys('Agreed price');
    await till.count('.parts li', 7);
    await till.keys(Key.ESCAPE);
    await till.click('.row:last-child button.line');
    await till.keys(Key.ARROW_UP, 'p');
    await till.see('#work-first');
    await till.keys('7.50', Key.TAB, 'Display piece', Key.ENTER);
    await till.see('#second-pin');
    await till.keys('3690', Key.ENTER);
    await till.read('approved it');
    await till.press('Egg shakers');
    await till.read('Egg shaker, wine', '.shelf');
    await till.press('Back');
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.alt('3');
    await till.see('[name="value-number"]');
    await till.keys('44100771409', Key.TAB);
    await till.see('[data-test="balance"]');
    await till.keys(Key.F9);
    await till.read('left on it', '.taken');
    await picture('payment');
    await till.alt('1');
    await till.see('#handed');
    await till.keys('1000', Key.ENTER, Key.ENTER);
    await till.see('[data-test="change"]');
    await till.read('printed', '.out');
    for (const entry of ['MET-P', 'VIO-34', 'CAR-KIT-FL']) {
      await till.enter(entry);
      await till.count('.row', 1);
      await till.keys(Key.F9);
      await till.see('#handed');
      await till.keys(Key.F9);
      await till.read('printed', '.out');
    }
    await till.keys(Key.F9);
    await till.enter('TEE');
    await till.see('[role="grid"]');
    await till.keys(Key.ENTER);
    await till.enter('3*REE-BC-25');
    await till.count('.row', 2);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.keys(Key.F9);
    await till.read('printed', '.out');
    const [receipt = ''] = /\d-\d{4}/.exec(await till.text('.out')) ?? [];
    await till.keys(Key.F9);
    await till.scan(receipt);
    await till.read(`Return from ${receipt}`);
    await till.keys('1', '2');
    await till.see('.step');
    await till.keys(Key.F9);
    await till.count('.row', 2);
    await till.keys(Key.F9);
    await till.read('The way it was paid');
    await till.keys(Key.F9);
    await till.see('[data-test="given-back"]');
    await till.keys(Key.F9);
    for (const [entry, name] of [
      ['VIO-44', 'Priya Holm'],
      ['4*TEE-NV-M', 'Youth orchestra'],
      ['MET-C', 'Sam, blue coat'],
    ] as const) {
      await till.enter(entry);
      await till.count('.row', 1);
      await till.keys(Key.F8);
      await till.see('#hold-name');
      await till.keys(name, Key.F8);
      await till.read(`${name} waits as`);
    }
    await till.click('nav a[href="/waiting"]');
    await till.read('Youth orchestra');
    await choose('L-0004');
    await till.read('Handed over in part', '.head .state');
    await picture('waiting');
    await choose('O-0005');
    await till.read('on the way from Quayside');
    await picture('order');
    await till.click('[aria-label="Put this message away"]');
    await till.click('nav a[href="/journal"]');
    await till.click('.rows li:nth-child(6) button');
    await till.see('.lines');
    await picture('sale');

    await till.click('nav a[href="/people"]');
    await till.read('Agnes Tull');
    await picture('people');
    await till.focus('.list [data-search] input');
    await till.keys('marit');
    await till.count('.list tbody tr', 1);
    await till.keys(Key.ENTER);
    await till.read('Who changed what');
    await till.read('May still go on it');
    await picture('customer');
    await till.click('nav a[href="/drawer"]');
    await till.see('.sheet');
    await count(till, {
      '100.00': 5,
      '50.00': 6,
      '20.00': 6,
      '10.00': 8,
      '5.00': 8,
      '1.00': 42,
      '0.25': 30,
      '0.10': 41,
      '0.05': 28,
      '0.01': 35,
    });
    await till.keys(Key.F9);
    await till.see('.compare');
    await till.keys(Key.F9);
    await till.see('.bag');
    await till.keys(Key.TAB, '0093');
    await till.keys(Key.F9);
    await till.read('Sign and close');
    await till.keys('Coins are running low.');
    await till.fill('Witness (optional)', 'Maren K.');
    await till.click('.keep input');
    await till.driver.executeScript("document.querySelector('.body').scrollTop = 0");
    await picture('close');
    await till.keys(Key.F9);
    await till.see('.paper');

    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('8024', Key.ENTER);
    await till.ready();
    await till.go('/figures');
    await till.see('.apexcharts-canvas');
    await picture('today');
    await till.go('/figures/compare?days=last-month&compare=weekdays');
    await till.see('.apexcharts-canvas');
    await till.read('When it is busy');
    await picture('compare');
    await till.go('/figures/reports/items?days=last-month&compare=before');
    await till.see('.list tbody tr');
    await picture('report');
    await till.go('/goods/value');
    await till.see('tfoot');
    await picture('stock');
    await till.go('/books');
    await till.see('[data-test="debit"]');
    await picture('books');
    await till.click('nav a[href="/setup"]');
    await till.read('Keep the changes');
    await picture('setup');
    await till.click('nav a[href="/offers"]');
    await till.read('Three packs, the cheapest free');
    await till.press('Rosin Mondays');
    await till.read('Rosin: 20 % off, each. Mondays.', '.words');
    await till.read('Applies', '.example');
    await picture('offer');
    await till.click('nav a[href="/goods"]');
    await till.see('.list [data-search] input');
    await till.focus('.list [data-search] input');
    await till.keys('reed');
    await till.read('Marshgrass reed, B flat clarinet, strength 2½');
    await picture('goods');
    await till.selectAll();
    await till.keys('ree-bc-25');
    await till.read('REE-BC-25', 'tr.on');
    await till.count('.list tbody tr', 2);
    await till.keys(Key.ENTER);
    await till.read('How stock moved');
    await till.see('.apexcharts-canvas');
    await picture('item');
    await till.click('nav a[href="/goods"]');
    await till.press('Orders');
    await till.click("//td//b[contains(., 'B-')]");
    await till.press('Take a delivery in');
    await till.read('Everything that was ordered is filled in.');
    await till.fill('Freight and duty', '9.80');
    await picture('delivery');
    await till.keys(Key.ESCAPE);
    await till.click('nav a[href="/goods"]');
    await till.press('Counts');
    await till.press('New count');
    await till.press('Showing what the books say');
    await till.press('Begin');
    await till.see('#count-code');
    for (const entry of ['26*MET-C', '9*STA-FOLD-BK', '18*MET-P', '3*VIO-44']) {
      await till.focus('#count-code');
      await till.keys(entry, Key.ENTER);
      await till.read(entry.replace(/.*\*/, ''), '.counting ul');
    }
    await till.press('Differences');
    await till.read('differ');
    await till.see("//button[contains(., 'Book ') and not(@disabled)]");
    await picture('count');
  } finally {
    await till.close();
    await shop.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

await main();
