import { By, Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Till } from './till.ts';
import { openShop, type TestShop } from './testShop.ts';

let shop: TestShop;
let cashier: Till;
let supervisor: Till;
beforeAll(async () => {
  shop = await openShop();
  cashier = await Till.open(() => shop.url);
  supervisor = await Till.open(() => shop.url);
  await cashier.signIn('1357', 1);
  await supervisor.signIn('3690', 2);
});
afterAll(async () => {
  await cashier.close();
  await supervisor.close();
  await shop.end();
});

const names = (till: Till) =>
  till.driver.executeScript<string[]>(
    "return [...document.querySelectorAll('.shelf .tile .name')].map((tile) => tile.textContent.trim())",
  );

describe('shelves', () => {
  it('sell goods without a label, also from a bin, by touch and by keyboard', async () => {
    await cashier.press('String, single');
    await cashier.count('.row', 1);
    await cashier.press('Picks');
    await cashier.read('Pick, medium', '.shelf');
    await cashier.keys(Key.TAB, Key.ENTER);
    await cashier.count('.row', 2);
    expect(await cashier.findings()).toEqual([]);
    await cashier.press('Back');
    await cashier.read('Cork grease', '.shelf');
  });

  it('do till jobs, and list a whole category', async () => {
    await cashier.press('Reeds');
    await cashier.see('#found li');
    await cashier.keys(Key.ESCAPE);
    await cashier.press('Till jobs');
    await cashier.press('Put on hold');
    await cashier.see('#hold-name');
    await cashier.keys(Key.ESCAPE);
    await cashier.press('Customer');
    await cashier.see('#customer-search');
    await cashier.keys(Key.ESCAPE);
    await cashier.press('Open-price item');
    await cashier.see('#question:focus');
    await cashier.keys(Key.ESCAPE);
    await cashier.press('Last receipt');
    await cashier.read('No sale was finished on this till yet.');
  });

  it('are arranged only by those who may', async () => {
    expect(await cashier.text('.shelf .tabs')).not.toContain('Arrange');
  });

  it('are arranged by keyboard, and are live on the other till', async () => {
    await cashier.press('No barcode');
    await supervisor.press('Arrange');
    await supervisor.see('.arrange .tile');
    expect(await supervisor.findings()).toEqual([]);
    await supervisor.focus('.arrange .tile:nth-child(2)');
    await supervisor.keys(Key.ARROW_RIGHT);
    await supervisor.wait(async () => (await names(cashier))[2] === 'String, single');
    await supervisor.keys('c');
    await supervisor.see('.arrange .face.blue.item');
    await supervisor.focus('.adding input');
    await supervisor.keys('tuner clip');
    await supervisor.press('Tuner, clip-on');
    await cashier.read('Tuner, clip-on', '.shelf');
    await supervisor.focus('.arrange .tile:nth-child(1)');
    await supervisor.keys(Key.DELETE);
    await supervisor.wait(async () => !(await names(cashier)).includes('Picks'));
    await supervisor.press('Undo');
    await supervisor.wait(async () => (await names(cashier))[0] === 'Picks');
  });

  it('are arranged by dragging', async () => {
    const tiles = await supervisor.driver.findElements(By.css('.arrange .tile'));
    const [first, , third] = tiles;
    if (!first || !third) throw new Error('there are no tiles');
    await supervisor.driver
      .actions()
      .move({ origin: first })
      .press()
      .move({ origin: first, x: 30, y: 5 })
      .move({ origin: third, x: 20, y: 5 })
      .move({ origin: third, x: 40, y: 5 })
      .release()
      .perform();
    await supervisor.wait(async () => (await names(cashier))[0] !== 'Picks');
    expect(await names(cashier)).toContain('Picks');
  });

  it('get a new page for one till only, and are folded away', async () => {
    await supervisor.focus('.adding input');
    await supervisor.keys('Band season');
    await supervisor.press('Add shelf');
    await cashier.read('Band season', '.shelf .tabs');
    await supervisor.press('For all tills');
    await cashier.wait(async () => !(await cashier.text('.shelf .tabs')).includes('Band season'));
    await supervisor.press('Done arranging');
    await supervisor.click('[aria-label="Fold the shelves away"]');
    await supervisor.count('.shelf .tile', 0);
    await supervisor.driver.navigate().refresh();
    await supervisor.see('.shelf.folded');
  });
});
