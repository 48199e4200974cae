import { Key } from 'selenium-webdriver';
import type { Till } from './till.ts';

/** Counts a float of 200.00 by keyboard and opens the drawer. */
export async function openDrawer(till: Till): Promise<void> {
  if (!(await till.driver.getCurrentUrl()).endsWith('/drawer')) await till.keys(Key.F9);
  await till.see('.sheet');
  await count(till, { '20.00': 5, '10.00': 5, '1.00': 50 });
  await till.shows('[data-test="counted"]', '200.00');
  await till.keys(Key.F9);
  await till.read('drawer open since');
}

/** Types the count of every piece, going down the sheet with the arrow key. */
export async function count(till: Till, pieces: Record<string, number>): Promise<void> {
  await till.focus('.sheet input');
  for (const row of [
    '100.00',
    '50.00',
    '20.00',
    '10.00',
    '5.00',
    '2.00',
    '1.00',
    '0.25',
    '0.10',
    '0.05',
    '0.01',
  ]) {
    await till.keys(String(pieces[row] ?? 0), Key.ARROW_DOWN);
  }
}
