import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { count } from './hand.ts';
import { openDrawer } from './handsOnDrawer.ts';
import { movesWhile } from './moves.ts';
import { openShop, type TestShop } from './testShop.ts';
import { Till } from './till.ts';

let shop: TestShop;
let till: Till;
let desk: Till;
beforeAll(async () => {
  shop = await openShop();
  till = await Till.open(() => shop.url);
  desk = await Till.open(() => shop.url);
  await till.signIn('1357', 1);
  await openDrawer(till);
  await desk.signIn('8024', 2);
});
afterAll(async () => {
  await till.close();
  await desk.close();
  await shop.end();
});

const rows = '.list tbody tr';
const figures = 'nav a[href="/figures"]';

/** Whether a bar is partly full, and is seen to be. */
const PARTLY_FULL = `
  const part = (name) => getComputedStyle(document.querySelector('.progress .v-progress-linear__' + name));
  const [full, all] = [part('determinate'), part('background')];
  const look = ({ backgroundColor, opacity }) => backgroundColor + opacity;
  return look(full) !== look(all) && parseFloat(full.width) < parseFloat(all.width);`;

/** Sells something for cash on the first till. */
async function sell(entry: string, total: string): Promise<void> {
  await till.enter(entry);
  await till.shows('[data-test="to-pay"]', total);
  await till.keys(Key.F9);
  await till.see('#handed');
  await till.keys(Key.F9);
  await till.shows('[data-test="change"]', '0.00');
  await till.keys(Key.F9);
}

describe('Figures', () => {
  it('say what was sold today, and hear of each sale', async () => {
    await desk.click(figures);
    await desk.shows('.huge', '0.00');
    await desk.read('Nothing sold yet.');
    expect(await desk.findings()).toEqual([]);
    await sell('LES-30', '32.00');
    await desk.shows('.huge', '32.00');
    await desk.read('Lesson');
    await desk.press('As a table');
    await desk.read('10:00 AM', 'table');
    await desk.resize({ width: 1024, height: 768 });
    expect(await desk.sticksOut()).toBe(0);
    await desk.resize({ width: 1280, height: 800 });
  });

  it('move nothing under a hand when they are answered', async () => {
    await desk.far(300, async () => {
      const moves = await movesWhile(desk, async () => {
        await desk.press('Compare');
        await desk.see('[aria-label="Trend"] .apexcharts-canvas');
        await desk.see('[aria-label="When it is busy"]');
        await desk.click(figures);
        await desk.see('[aria-label="By hour"] .apexcharts-canvas');
        await desk.press('Reports');
        await desk.press('Items');
        await desk.read('Beneath each figure');
      });
      expect(moves).toEqual([]);
    });
  });

  it('lead from a figure to the sales behind it, and keep what is asked for in the address', async () => {
    await desk.go('/figures/reports/days?days=today');
    await desk.count(rows, 1);
    await desk.read('32.00', '.totals');
    expect(await desk.findings()).toEqual([]);
    await desk.focus('.list [data-search] input');
    await desk.keys(Key.ENTER);
    await desk.read('1-0001');
    await desk.driver.navigate().back();
    await desk.count(rows, 1);
    await desk.press('Last month');
    await desk.read('Nothing in these days');
    expect(await desk.driver.getCurrentUrl()).toContain('days=last-month');
    await desk.driver.navigate().refresh();
    await desk.read('Nothing in these days');
  });

  it('are put in order by a press on a heading, with the columns that are wanted', async () => {
    await sell('MET-P', '31.18');
    await desk.go('/figures/reports/items?days=today');
    await desk.count(rows, 2);
    await desk.read('Lesson', `${rows}:first-child`);
    await desk.press('Sold');
    await desk.read('MET-P', `${rows}:first-child`);
    await desk.choose('Columns', 'Cost');
    await desk.keys(Key.ESCAPE);
    await desk.read('4 of 5');
    await desk.see('a[href*=".csv"][href*="without=cost"]');
    await desk.driver.navigate().refresh();
    await desk.read('4 of 5');
    await desk.read('MET-P', `${rows}:first-child`);
    expect(await desk.findings()).toEqual([]);
  });

  it('put days beside others, by what they are made of', async () => {
    // Days along the axis as the shop writes them.
    await desk.go('/figures/compare?days=last-month');
    await desk.see(
      "//*[contains(@class, 'apexcharts-xaxis-label')][starts-with(normalize-space(.), 'Feb ')]",
    );
    await desk.go('/figures/compare?days=week&compare=before');
    await desk.read('When it is busy');
    await desk.read('Lessons');
    await desk.choose('By', 'Sales by person');
    await desk.read('Noor A.');
    expect(await desk.findings()).toEqual([]);
  });

  it('tie, and say so', async () => {
    await desk.far(300, async () => {
      await desk.go('/figures/ties?days=month');
      await desk.read('These days tie.');
      await desk.read(' checks', '.progress');
      expect(await desk.driver.executeScript<boolean>(PARTLY_FULL)).toBe(true);
    });
    await desk.read('It ties.');
    await desk.read('61.00', 'table');
    expect(await desk.findings()).toEqual([]);
  });

  it('are reached with few actions', async () => {
    const yesterday = await count(desk, async (hand) => {
      await hand.click(figures);
      await hand.click('a[href^="/figures/compare?days=yesterday"]');
      await desk.read('By', '.fields');
    });
    expect(yesterday).toBeLessThanOrEqual(2);
    const best = await count(desk, async (hand) => {
      await hand.click(figures);
      await hand.click('a[href^="/figures/reports/items"]');
      await hand.press('Last month');
      await desk.read('Nothing in these days');
      await hand.click('a[href*=".csv"]');
    });
    expect(best).toBeLessThanOrEqual(4);
    const tax = await count(desk, async (hand) => {
      await hand.click(figures);
      await desk.see('.huge');
      await hand.click('a[href="/figures/reports"]');
      await desk.see('.groups');
      await hand.click('a[href="/figures/reports/taxes"]');
      await desk.see('.totals');
      await hand.click('a[href*=".csv"]');
    });
    expect(tax).toBeLessThanOrEqual(4);
  });

  it('are not shown to those without the right', async () => {
    await till.count(figures, 0);
    await till.go('/figures');
    await till.read('may not do this');
    expect(await shop.verify()).toContain('0 differences.');
  });
});
