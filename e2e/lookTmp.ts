import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { startShop } from './shop.ts';
import { Till } from './till.ts';
import { openDrawer, count } from './handsOnDrawer.ts';

async function main() {
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-look-'));
  const shop = await startShop(folder, 'demo', []);
  const till = await Till.open(() => shop.url);
  const pic = async (name: string) => { await till.settled(); await till.picture(`/tmp/w/l-${name}.png`); };
  try {
    await till.go('/'); await till.see('#pin'); await till.signIn('8024', 2);
    await till.keys(Key.F9); await till.see('.sheet'); await count(till, { '20.00': 5, '10.00': 5, '1.00': 50 }); await openDrawer(till);
    await till.enter('CLA-0220');
    await till.keys(Key.F4); await till.see('#customer-search'); await till.keys('agnes'); await till.read('Agnes Tull', '#customers-found'); await till.keys(Key.ENTER);
    await till.read('Last visits'); await pic('facts');
    await till.keys(Key.ESCAPE); await till.keys(Key.F9); await till.see('#handed');
    await till.press('On account'); await till.read('May still go on it'); await pic('charge');
    await till.selectAll(); await till.keys('400.00'); await pic('over');
    await till.keys(Key.ESCAPE); await till.see('.row');
    await till.click('nav a[href="/people"]');
    await till.read('House accounts'); await till.press('House accounts').catch(() => till.click('a[href="/people/accounts"]'));
    await till.read('Ferrisport Schools'); await pic('accounts');
    await till.press('Statements'); await till.read('Statements of all'); await till.press('Make them'); await till.read('statements, PDF'); await pic('all');
    await till.click('a[href="/people/bank"]'); await till.read('No line waits'); await pic('bank0');
    await till.click('nav a[href="/people"]'); await till.read('Marit'); await till.keys('marit'); await till.keys(Key.ENTER); await till.shows('h1', 'Marit Solvane');
    await till.read('May still go on it'); await pic('account');
    await till.press('Change').catch(() => null); await pic('change');
    await till.keys(Key.ESCAPE);
    await till.click('a[href$="/statement"]'); await till.read('Owed before'); await pic('statement');
  } catch (e) { await till.picture('/tmp/w/l-error.png'); console.error(e); }
  finally { await till.close?.(); await shop.stop?.(); rmSync(folder, { recursive: true, force: true }); process.exit(0); }
}
void main();
