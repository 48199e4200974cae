import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDrawer } from './handsOnDrawer.ts';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let one: Till;
let two: Till;
beforeAll(async () => {
  shop = await openShop();
  one = await Till.open(() => shop.url);
  two = await Till.open(() => shop.url);
  await one.signIn('1357', 1);
  await two.signIn('2468', 2);
});
afterAll(async () => {
  await one.close();
  await two.close();
  await shop.end();
});

async function hold(till: Till, item: string, name: string): Promise<void> {
  await till.enter(item);
  await till.count('.row', 1);
  await till.keys(Key.F8);
  await till.see('#hold-name');
  await till.keys(name, Key.F8);
  await till.read(`${name} waits as W-`);
  await till.count('.row', 0);
}

describe('a basket put aside', () => {
  it('is always in sight, on every till', async () => {
    await hold(one, 'CLA-0220', 'Priya');
    await one.shows('.rail .n', '1');
    await two.shows('.rail .n', '1');
  });

  it('is looked at among others, also after the page was loaded again', async () => {
    await hold(one, 'LES-30', 'Ode');
    await two.click('nav a[href="/waiting"]');
    await two.count('.list-row', 2);
    await two.read('Kestrel clarinet', '.preview');
    await two.keys(Key.ARROW_DOWN);
    await two.read('Ode', '.list-row.on');
    await two.driver.navigate().refresh();
    await two.read('Ode', '.list-row.on');
    await two.read('Lesson', '.preview');
    expect(await two.text('body')).not.toContain('nothing promised');
    await two.keys(Key.F9);
    await two.read('Ode is on this till now.');
    await two.keys(Key.DELETE);
    await two.count('.row', 0);
  });

  it('is taken up on another till with name, preview and total', async () => {
    await two.click('nav a[href="/waiting"]');
    await two.read('Priya');
    await two.read('Kestrel clarinet');
    await two.read('461.18');
    expect(await two.findings()).toEqual([]);
    await two.keys(Key.F9);
    await two.read('Priya is on this till now.');
    await two.shows('[data-test="to-pay"]', '461.18');
    await one.count('.rail .n', 0);
  });

  it('does not push aside what the till is ringing up', async () => {
    await hold(one, 'MET-C', 'Sam');
    await two.click('nav a[href="/waiting"]');
    await two.read('This till is ringing up something else');
    await two.click('nav a[href="/counter"]');
    await two.keys(Key.DELETE);
    await two.count('.row', 0);
  });

  it('goes to one of two tills, and the other is told who has it', async () => {
    await one.click('nav a[href="/waiting"]');
    await two.click('nav a[href="/waiting"]');
    await one.read('Sam');
    await two.read('Sam');
    // Both buttons are there, so that the presses come as close together as two people's can. What is drawn anew
    // meanwhile is pressed as it is then.
    for (const till of [one, two]) await till.button('Take up on this till');
    await Promise.all(
      [one, two].map((till) =>
        till.driver.executeScript(
          `[...document.querySelectorAll('button')]
            .find(({ innerText }) => innerText.includes('Take up on this till')).click()`,
        ),
      ),
    );
    const told = async (till: Till) => (await till.text('body')).includes('has taken Sam up on till');
    const got = async (till: Till) => (await till.text('body')).includes('Sam is on this till now.');
    const outcome = async (till: Till) => ((await got(till)) ? 'got' : (await told(till)) ? 'told' : 'waits');
    const both = async () => [await outcome(one), await outcome(two)].sort().join();
    await one.wait(async () => (await both()) === 'got,told');
    for (const till of [one, two]) {
      await till.click('nav a[href="/counter"]');
      await till.keys(Key.DELETE);
      await till.count('.row', 0);
    }
  });

  it('comes back by scanning its ticket', async () => {
    await hold(one, 'MET-P', 'Kai');
    await two.scan('W-0004');
    await two.read('Kai is on this till now.');
    await two.count('.row', 1);
    await two.scan('W-0004');
    await two.read('W-0004 waits no more');
  });

  it('comes back by its name in the entry field', async () => {
    await hold(one, 'MET-P', 'Kit Marløw');
    await one.count('.row', 0);
    await one.enter('kit marlow');
    await one.read('Kit Marløw is on this till now.');
    await one.count('.row', 1);
    await one.keys(Key.ARROW_UP, Key.DELETE);
    await one.count('.row', 0);
  });

  it('is shown at shift end where it is left over', async () => {
    await openDrawer(one);
    await hold(one, 'MET-P', 'Lou');
    await one.click('nav a[href="/drawer"]');
    await one.read('The held basket Lou still waits.');
    await one.read('Held baskets wait for the next shift');
  });
});
