import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Till } from './till.ts';
import { count, openDrawer } from './handsOnDrawer.ts';
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

describe('nothing is lost', () => {
  it('when the page is loaded again in the middle of a basket or a payment', async () => {
    await till.enter('MET-P');
    await till.enter('MET-C');
    await till.count('.row', 2);
    await till.driver.navigate().refresh();
    await till.count('.row', 2);
    await till.keys(Key.F9);
    await till.see('#handed');
    await till.driver.navigate().refresh();
    await till.count('.row', 2);
    await till.see('[data-test="to-pay"]');
  });

  it('when the tab is closed and the browser has forgotten everything', async () => {
    await till.enter('MET-W');
    await till.count('.row', 3);
    await till.wait(async () => {
      const stored = await till.driver.executeScript<string>(
        "return localStorage.getItem('mondrel.basket.1')",
      );
      return (JSON.parse(stored) as { unsent: boolean }).unsent === false;
    });
    await till.driver.executeScript('localStorage.clear()');
    await till.go('/counter');
    await till.count('.row', 3);
  });

  it('when the server is killed while goods are rung up', async () => {
    await shop.kill();
    await till.enter('PIC-M');
    await till.count('.row', 4);
    await till.read('The server does not answer.');
    await shop.start();
    await till.wait(async () => !(await till.text('.notices')).includes('does not answer'));
    await till.driver.navigate().refresh();
    await till.count('.row', 4);
  });

  it('when the server is killed before the payment is answered', async () => {
    await till.keys(Key.F9);
    await till.see('#handed');
    await shop.kill();
    await till.keys(Key.F9);
    await till.read('The payment is kept');
    await till.driver
      .navigate()
      .refresh()
      .catch(() => {});
    await shop.start();
    await till.go('/counter');
    await till.see('[data-test="change"]');
    await till.read('Receipt 1-0001');
  });

  it('when a page is loaded again before the change was given', async () => {
    await till.driver.navigate().refresh();
    await till.shows('[data-test="change"]', '0.00');
  });

  it('when the server falls silent, which nobody tells: the till says so, and stores the payment once it speaks', async () => {
    await till.keys(Key.F9);
    await till.enter('MET-C');
    await till.keys(Key.F9);
    await till.see('#handed');
    await shop.silent(async () => {
      await till.keys(Key.F9);
      await till.read('The payment is kept', 'body', 40_000);
    });
    await till.read('Receipt 1-0002');
    await till.shows('[data-test="change"]', '0.00');
  });

  it('when two windows work on one till: both know what the other did', async () => {
    const second = await Till.open(() => shop.url);
    try {
      await second.signIn('1357');
      await till.keys(Key.F9);
      await till.enter('CLA-0220');
      await second.count('.row', 1);
      await second.keys(Key.F9);
      await second.see('#handed');
      await second.keys(Key.F9);
      await second.read('Receipt 1-0003');
      await till.count('.row', 0);
      await till.enter('MET-P');
      await till.count('.row', 1);
      await till.keys(Key.DELETE);
      await till.count('.row', 0);
    } finally {
      await second.close();
    }
  });

  it('when a page is opened for the first time while the server is away: that is said, and it opens afterwards', async () => {
    await till.driver.sendDevToolsCommand('Network.clearBrowserCache', {});
    await till.go('/counter');
    await till.ready();
    await till.away(async () => {
      const offers = await till.see('nav a[href="/offers"]');
      await offers.click();
      await till.read('Offers cannot be opened now');
    });
    await till.press('Offers');
    await till.read('Offers', 'h1');
  });

  it('when the server goes away while a page is being loaded: it is there once the server is back', async () => {
    for (const lost of ['*/api/staff/session', '*/api/counter/shelves']) {
      await till.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: [lost] });
      await till.driver.navigate().refresh();
      await till.read('The server does not answer.');
      await till.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: [] });
      await till.ready();
    }
  });

  it('when goods are scanned before the page is ready: they are rung up once it is, and what was there before stays', async () => {
    await till.go('/counter');
    await till.ready();
    await till.enter('MET-P');
    await till.count('.row', 1);
    await till.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: ['*/api/counter/shelves'] });
    await till.driver.navigate().refresh();
    await till.see('[name="entry"]');
    await till.scan('MET-P');
    await till.scan('REE-BC-25');
    await till.read('REE-BC-25 comes next');
    await till.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: [] });
    await till.count('.row', 2);
    // Two of them.
    await till.read('58.00', '.tape');
    await till.keys(Key.DELETE, Key.DELETE);
    await till.count('.row', 0);
  });

  it('when the server is away while a page is opened: it shows what it is about as soon as it is back', async () => {
    await till.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: ['*/api/journal/sales*'] });
    await till.press('Journal');
    await till.read('The server does not answer.');
    await till.count('.journal li', 0);
    await till.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: [] });
    await till.read('1-0003', '.journal');
  });

  it('when a sale is looked for while the server is away: it opens once the server is back, and no other one', async () => {
    await till.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: ['*/api/journal/sales?*'] });
    await till.fill('Number, item, customer, note, amount, card', '1-0001');
    await till.keys(Key.ENTER);
    await till.read('The server does not answer.');
    // Once for Enter, and once for what was typed.
    await till.wait(() =>
      till.driver.executeScript<boolean>(
        "return performance.getEntriesByType('resource').filter(({ name }) => name.endsWith('find=1-0001')).length > 1",
      ),
    );
    await till.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: [] });
    await till.see('main h2.title');
    await till.read('1-0001', 'main h2.title');
  });

  it('when another drawer is asked for while the server is away: that is said, and the one in sight stays', async () => {
    const desk = await Till.open(() => shop.url);
    try {
      await desk.signIn('8024', 2);
      await desk.go('/drawer');
      await desk.read('Till 2', '.desk .on');
      const other = '//nav[@aria-label="Drawers"]/button[contains(., "Till 1")]';
      await desk.away(async () => {
        await desk.click(other);
        await desk.read('The server does not answer.');
        await desk.read('Till 2', '.desk .on');
      });
      await desk.click(other);
      await desk.read('Till 1', '.desk .on');
    } finally {
      await desk.close();
    }
  });

  it('when the till is locked while the server is away: whoever loads the page afterwards has to sign in', async () => {
    await till.away(async () => {
      await till.click('[aria-label="Lock this till"]');
      await till.see('#pin');
    });
    await till.go('/journal');
    await till.see('#pin');
    await till.keys('1357', Key.ENTER);
    await till.read('1-0003', '.journal');
    await till.driver.navigate().refresh();
    await till.read('1-0003', '.journal');
  });

  it('when a page is left with a form half filled: that is asked first, also where goods are rung up meanwhile', async () => {
    await till.go('/people/new');
    await till.fill('Name', 'Wenna Trask');
    const journal = await till.see('nav a[href="/journal"]');
    await journal.click();
    await till.read('“New customer” is not kept yet.', '.notices');
    await till.click('[name="entry"]');
    await till.enter('REE-BC-25');
    await till.read('New customer', 'main');
    await till.read('“New customer” is not kept yet.', '.notices');
    // That the basket is kept keeps no form.
    await till.wait(async () => {
      const stored = await till.driver.executeScript<string>(
        "return localStorage.getItem('mondrel.basket.1')",
      );
      return stored.includes('REE-BC-25') && (JSON.parse(stored) as { unsent: boolean }).unsent === false;
    });
    await till.click('[aria-label="Put this message away"]');
    const counter = await till.see('nav a[href="/counter"]');
    await counter.click();
    await till.press('Leave it');
    await till.read('REE-BC-25', '.tape');
    await till.keys(Key.DELETE);
    await till.count('.row', 0);
  });

  it('when the house was updated: the next page is one of the new program, and what is rung up is there', async () => {
    await till.go('/counter');
    await till.ready();
    await till.enter('MET-P');
    await till.count('.row', 1);
    const edition = "document.querySelector('meta[name=edition]').content";
    const current = await till.driver.executeScript<string>(`return ${edition}`);
    expect(current).toMatch(/^[\da-f]{16}$/);
    // As a window that was opened before the update.
    await till.driver.executeScript(`${edition} = 'earlier'`);
    await shop.kill();
    await shop.start();
    await till.read("The shop's program was updated.");
    await till.press('Journal');
    await till.read('Journal', 'h1');
    await till.wait(async () => (await till.driver.executeScript(`return ${edition}`)) === current);
    await till.press('Counter');
    await till.count('.row', 1);
    await till.count('.notice', 0);
    await till.keys(Key.DELETE);
    await till.count('.row', 0);
  });

  it('when a half-filled count sheet is loaded again, and the server is killed', async () => {
    await till.go('/drawer');
    await till.see('.sheet');
    await count(till, { '20.00': 3, '0.25': 7 });
    await till.shows('[data-test="counted"]', '61.75');
    await shop.kill();
    await shop.start();
    await till.driver.navigate().refresh();
    await till.shows('[data-test="counted"]', '61.75');
  });

  it('when the session ends elsewhere: the page asks for a PIN and comes back to where it was', async () => {
    await till.driver.manage().deleteAllCookies();
    await till.click('nav a[href="/journal"]');
    await till.see('#pin');
    await till.keys('1357', Key.ENTER);
    await till.ready();
    await till.read('Journal', 'h1');
    await till.count('.notice', 0);
  });

  it('and everything ties out in the end', async () => {
    expect(await shop.verify()).toContain('0 differences.');
  });
});
