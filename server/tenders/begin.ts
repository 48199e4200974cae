import { isDeepStrictEqual } from 'node:util';
import { holdsMoney } from '../../core/payment/tender.ts';
import type { Writer } from '../db/database.ts';
import { takeLocks, type Wanted } from '../db/locks.ts';
import { Problem } from '../http/problem.ts';
import * as store from './store.ts';

/**
 * Begins the payment of a basket, or goes on with it, with till, payment and further rows locked. The moment at which
 * it began stays for as long as it holds money.
 * @param more what the step locks besides, in the one order of all steps
 * @returns `undefined` when its sale is finished. @throws Problem 409 where another till takes money for it
 */
export async function beginPayment(
  sql: Writer,
  wanted: store.BeginPayment,
  more: Pick<Wanted, 'sales' | 'accounts' | 'values'> = {},
): Promise<{ payment: store.PaymentRow; tenders: store.PaymentTender[] } | undefined> {
  const { basket, due, figures, tillId, staffId, at } = wanted;
  await takeLocks(sql, { tills: [tillId] });
  const fresh = await store.addPayment(sql, wanted);
  await takeLocks(sql, { payments: [basket.id], ...more });
  const known = await store.findPayment(sql, basket.id);
  if (known?.state !== 'open') return undefined;
  if (fresh) return { payment: known, tenders: [] };
  const tenders = await store.tendersOf(sql, basket.id);
  const holds = tenders.some(({ state }) => holdsMoney(state));
  if (holds && known.tillId !== tillId) {
    throw new Problem('paid-elsewhere', 'Money is being taken for this basket on another till.');
  }
  const same = holds && isDeepStrictEqual(known.basket, asStored(basket));
  if (same && known.due !== due) throw paymentChanged();
  const payment: store.PaymentRow = {
    ...known,
    basket,
    due,
    tillId,
    staffId,
    stale: false,
    ...(same ? {} : { figures }),
    ...(holds ? {} : { beganAt: at.toISOString() }),
  };
  await store.putPayment(sql, payment);
  return { payment, tenders };
}

/** Something about the payment of a basket was changed by another request. */
export const paymentChanged = (): Problem =>
  new Problem('payment-changed', 'The payments have changed meanwhile. Look again at what is left to pay.');

/** A value as it comes back from where JSON is kept. */
export const asStored = <Kept>(value: Kept): Kept => JSON.parse(JSON.stringify(value)) as Kept;
