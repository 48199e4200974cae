import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDrawer } from './handsOnDrawer.ts';
import { movesWhile } from './moves.ts';
import { openShop, type TestShop } from './testShop.ts';
import { Till } from './till.ts';

let shop: TestShop;
let till: Till;
let other: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  other = await Till.open(() => shop.url);
  await till.signIn('8024', 1);
  await other.signIn('2468', 2);
  await openDrawer(till);
  await openDrawer(other);
});
afterAll(async () => {
  await till.close();
  await other.close();
  expect(await shop.verify()).toContain('0 differences.');
  await shop.end();
});

/** Types into a field by its label, over what is there. */
async function fill(label: string, text: string): Promise<void> {
  await till.click(
    `//label[contains(normalize-space(.), "${label}")]/ancestor::*[contains(@class, "v-field")]//input`,
  );
  await till.selectAll();
  await till.keys(text);
}

/** Takes an entry of the list that is open. */
async function choose(words: string): Promise<void> {
  await till.click(`//*[contains(@class, "v-list-item")][@role="option"][contains(., "${words}")]`);
  await till.keys(Key.ESCAPE);
}

/** Two clip-on metronomes, the cheapest free. */
async function writeMetronomeHour(): Promise<void> {
  await fill('Name, printed', 'Metronome hour');
  await fill('of these goods', 'Metronome, clip');
  await choose('Metronome, clip-on');
  await fill('Units', '2');
}

const cash = async (at: Till) => {
  await at.keys(Key.F9);
  await at.see('.owed');
  await at.keys(Key.F9);
  await at.see('[data-test="change"], [data-test="paid"]');
};

describe('offers at the Counter', () => {
  it('say what is missing, one key adds it, and the line says why it costs less', async () => {
    await till.enter('REE-BC-25');
    await till.enter('REE-BC-30');
    await till.read('1 more of Reeds or Strings', '.nudges');
    // What the third would have cost, with its tax.
    await till.read('−3.76', '.nudges');
    expect(await till.findings()).toEqual([]);
    await till.keys(Key.F2);
    await till.read('Three packs, the cheapest free', '.tape');
    // 10.50 less 3.50, and 7.5 % tax.
    await till.shows('[data-test="to-pay"]', '7.53');
  });

  it('take a code that is typed, say what it lacks, and reduce as soon as it is there', async () => {
    await till.enter('springterm');
    await till.read('40.00 more on Printed music or Stands', '.nudges');
    await till.read('nothing off', '.given');
    await till.enter('STA-ORCH');
    await till.read('−5.00', '.given');
    await till.read('Spring term', '.tape');
    // 7.00 and 54.00, and tax.
    await till.shows('[data-test="to-pay"]', '65.58');
    await cash(till);
    await till.keys(Key.ENTER);
    await till.press('Journal');
    await till.press('65.58');
    await till.read('Spring term', '.lines');
    await till.press('Counter');
  });

  it('tell of a reward that points pay for; one key uses it', async () => {
    await till.enter('CAR-KIT-CL');
    await till.keys(Key.F4);
    await till.see('#customer-search');
    await till.keys('priya');
    await till.foundIn('customer');
    await till.keys(Key.ENTER);
    await till.read('Band Circle', '.groups');
    await till.keys(Key.ESCAPE);
    await till.read('1,240 beats', '.customer');
    await till.read('500 beats pay for it', '.nudges');
    // What is suggested goes a moment after the prices: nothing else moves because of it.
    const moves = await movesWhile(till, async () => {
      await till.keys(Key.F2);
      await till.read('Care kit for beats', '.given');
      await till.shows('[data-test="to-pay"]', '0.00');
      await till.count('.nudges', 0);
    });
    expect(moves.filter((words) => words.startsWith('Take off'))).toEqual([]);
    await till.press('Take off');
    await till.read('500 beats pay for it', '.nudges');
    await till.press('Pay with beats');
    await till.read('There are 1,240 beats', '.panel');
    await till.press('Clear');
    await till.count('.row', 0);
    await till.count('.panel', 0);
  });
});

describe('writing an offer', () => {
  it('says in words what is being written, shows it in baskets, and names what is wrong', async () => {
    await till.press('Offers');
    await till.press('Write an offer');
    await till.read('Any 3 of anything: the cheapest is free.', '.words');
    await till.press('Keep it');
    await till.read('Name it: the name is printed as the reason.');
    await writeMetronomeHour();
    await till.read('Any 2 of Metronome, clip-on: the cheapest is free.', '.words');
    await till.read('Applies', '.example');
    await till.read('“Practice corner”', '.conflict');
    expect(await till.findings()).toEqual([]);
    await till.press('Mon');
    await till.read('Mondays.', '.words');
  });

  it('tries it at the till without being live and without leaving a sale', async () => {
    // What is written is not kept: that is asked first.
    const counter = await till.see('nav a[href="/counter"]');
    await counter.click();
    await till.read('“A new offer” is not kept yet.');
    await till.press('Leave it');
    await till.enter('MET-C');
    await till.enter('MET-C');
    await till.shows('[data-test="to-pay"]', '96.75');
    await till.press('Offers');
    await till.press('Write an offer');
    await writeMetronomeHour();
    await till.press('Try at this till');
    await till.read('Practice: Metronome hour');
    await till.shows('[data-test="to-pay"]', '48.38');
    await till.keys(Key.F9);
    await till.read('This basket is for practice');
    await till.keys(Key.F8);
    await till.read('neither kept nor paid');
    await till.count('#hold-name', 0);
    await till.press('Leave practice');
    await till.shows('[data-test="to-pay"]', '96.75');
    // Locking the till leaves practice as well: the basket is there for whoever comes.
    await till.press('Offers');
    await till.press('Write an offer');
    // Whoever comes back from trying it finds it as it was written.
    await till.read('Any 2 of Metronome, clip-on: the cheapest is free.', '.words');
    await till.press('Try at this till');
    await till.read('Practice: Metronome hour');
    await till.click('[aria-label="Lock this till"]');
    await till.see('#pin');
    await till.keys('8024', Key.ENTER);
    await till.ready();
    await till.shows('[data-test="to-pay"]', '96.75');
    await till.press('Clear');
  });

  it('keeps it, rehearses it, switches it on and off; tills follow at once', async () => {
    await till.press('Offers');
    await till.press('Write an offer');
    await till.read('Any 2 of Metronome, clip-on: the cheapest is free.', '.words');
    await fill('Times in all', '1');
    await till.press('Keep it');
    await till.read('Kept.');
    // What is kept is not offered again; what was written before it and left still is.
    await till.press('Offers');
    await till.press('Write an offer');
    await till.press('Let it go');
    await till.count('.before', 0);
    await till.press('Offers');
    // An arrow and Enter open what the hand was not on.
    await till.fill('Name, or what it gives', 'metronome hour');
    await till.count('.list tbody tr', 1);
    await till.keys(Key.ENTER);
    await till.press('Rehearse');
    await till.press('12 weeks');
    await till.press('Run it');
    await till.read('Would have applied', '.figures');
    await till.read('of 0 baskets', '.figures');
    // Today is a day, too.
    await fill('Until', '03022026');
    await till.keys(Key.TAB);
    await till.press('Run it');
    await till.read('of 1 basket,', '.figures');
    await till.press('Back to the offer');
    await other.enter('MET-C');
    await other.enter('MET-C');
    await other.shows('[data-test="to-pay"]', '96.75');
    await till.press('Switch it on');
    await other.shows('[data-test="to-pay"]', '48.38');
  });

  it('whose last use is wanted at two tills goes to one; the other is told before it takes money', async () => {
    await till.press('Counter');
    await till.enter('MET-C');
    await till.enter('MET-C');
    await till.shows('[data-test="to-pay"]', '48.38');
    await other.shows('[data-test="to-pay"]', '48.38');
    await till.keys(Key.F9);
    await till.see('.owed');
    // The other till hears at once that it is held.
    await other.shows('[data-test="to-pay"]', '96.75');
    await till.keys(Key.ESCAPE);
    await other.shows('[data-test="to-pay"]', '48.38');
    await till.keys(Key.F9);
    await till.see('.owed');
    await till.keys(Key.F9);
    await till.see('[data-test="change"], [data-test="paid"]');
    await other.shows('[data-test="to-pay"]', '96.75');
  });

  it('is not undone from another window: what was changed there is looked at first, what was typed stays', async () => {
    await till.keys(Key.ENTER);
    await till.press('Offers');
    await till.press('Metronome hour');
    await till.shows('#offer-title', 'Metronome hour');
    const at = new URL(await till.driver.getCurrentUrl()).pathname;
    const beside = await Till.beside(till, at);
    await fill('Name, printed', 'Metronome afternoon');
    await beside.run(async () => {
      await till.press('Sun');
      await till.press('Keep it');
      await till.read('Kept');
    });
    await till.press('Keep it');
    await till.read('Isolde R. has changed this offer meanwhile.');
    await till.read('Sundays', '.words');
    await till.press('Keep it');
    await till.shows('#offer-title', 'Metronome afternoon');
    await till.read('Sundays', '.words');
    await beside.close();
  });
});
