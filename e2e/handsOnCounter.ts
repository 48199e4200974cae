import { Key } from 'selenium-webdriver';
import type { Till } from './till.ts';

/** Rings goods up by their numbers, each on a line of its own. */
export async function ringUp(till: Till, ...numbers: string[]): Promise<void> {
  for (const [at, number] of numbers.entries()) {
    await till.enter(number);
    await till.count('.row', at + 1);
  }
}

/** Puts somebody who is known on the sale, by keyboard. */
export async function putCustomer(till: Till, name: string): Promise<void> {
  await till.keys(Key.F4);
  await till.see('.panel input:focus');
  await till.keys(name);
  await till.see('.panel li');
  await till.keys(Key.ENTER);
  await till.read(name, '#customer-title');
}

/** Pays what is in the basket with the exact amount in cash. */
export async function payExact(till: Till): Promise<void> {
  await till.keys(Key.F9);
  await till.see('.pay, [data-test="cash"], aside form');
  await till.keys(Key.ENTER);
  await till.see('[data-test="change"], [data-test="paid"]');
}
