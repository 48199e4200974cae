import type { Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { readShop } from '../shop/store.ts';
import { lockCustomer } from './store.ts';
import { forgetPerson } from './forgettingStore.ts';
import { noCustomer } from './noCustomer.ts';
import { whatIsOpen } from './openMatters.ts';

/**
 * Forgets a person: what says who they are goes, from this record and from those that were merged into it; sales and
 * books stay as they are, without a name.
 * @throws Problem 404, 409 `cannot-forget` with what is open
 */
export async function forgetCustomer(sql: Writer, id: number, at: Date): Promise<void> {
  if (!(await lockCustomer(sql, id))) throw noCustomer();
  const { currency } = await readShop(sql);
  const open = await whatIsOpen(sql, id, currencyOf(currency).digits);
  if (open.length > 0) {
    throw new Problem('cannot-forget', 'They cannot be forgotten while something is open.', {
      detail: open.join(' '),
    });
  }
  await forgetPerson(sql, id, at);
}
