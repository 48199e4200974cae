import { shopToday } from '../shop/store.ts';
import { DateTime } from 'luxon';
import { validate as isUuid } from 'uuid';
import { joinProblem, type PointsOfSale } from '../../core/people/loyalty.ts';
import { parseReceiptNumber } from '../../core/journal/receiptNumber.ts';
import { RAISED, sqlState, type Reader, type Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import * as store from './loyaltyStore.ts';
import { noCustomer } from './noCustomer.ts';
import { lockCustomer } from './store.ts';

interface By {
  staffId: number;
  at: Date;
}

/**
 * Gives the points of a sale that was nobody's, or this customer's before the shop gave points, to a customer: once.
 * @param sale its id, or its number as printed
 * @throws Problem 404, 409, 422 with why it has no points to give
 */
export async function joinSale(
  sql: Writer,
  customerId: number,
  sale: string,
  by: By,
): Promise<PointsOfSale | null> {
  const programme = await store.readProgramme(sql);
  if (!programme.on) throw new Problem('refused', 'The shop gives no points.');
  const numbered = parseReceiptNumber(sale);
  if (!numbered && !isUuid(sale)) throw fieldProblem('sale', 'A receipt number looks like 1-0042.');
  const { till = 0, count = 0 } = numbered ?? {};
  const found = await store.saleToJoin(sql, { id: numbered ? null : sale, till, number: count });
  if (!found) throw fieldProblem('sale', 'There is no such sale.');
  if (!(await lockCustomer(sql, customerId))) throw noCustomer();
  const problem = joinProblem(found, programme, await shopToday(sql, by.at), customerId);
  if (problem) throw fieldProblem('sale', problem);
  if (!(await store.joinSale(sql, found.id, customerId, by)))
    throw fieldProblem('sale', `Its ${programme.word} were given just now.`);
  return store.pointsOfSale(sql, found.id);
}

/** Whether the points of a sale can still be given to somebody. */
export async function mayBeJoined(sql: Reader, saleId: string, at: Date): Promise<boolean> {
  const programme = await store.readProgramme(sql);
  if (!programme.on) return false;
  const found = await store.saleToJoin(sql, { id: saleId, till: 0, number: 0 });
  return found !== undefined && joinProblem(found, programme, await shopToday(sql, at), null) === null;
}

/** Gives or takes points by hand, with a reason. @throws Problem 404, 409 where they have fewer than are to be taken */
export async function correctPoints(
  sql: Writer,
  customerId: number,
  { amount, words }: { amount: number; words: string },
  by: By,
): Promise<void> {
  if (!(await lockCustomer(sql, customerId))) throw noCustomer();
  const { word, months } = await store.readProgramme(sql);
  const today = DateTime.fromISO(await shopToday(sql, by.at));
  const ends = months > 0 ? today.plus({ months }).toISODate() : null;
  try {
    await store.correctPoints(sql, customerId, { amount, words, ends }, by);
  } catch (error) {
    if (sqlState(error) !== RAISED.offerUsedUp) throw error;
    throw fieldProblem('amount', `They have not so many ${word}.`);
  }
}
