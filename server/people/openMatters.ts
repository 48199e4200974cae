import { formatMoney } from '../../core/money.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import type { Reader } from '../db/database.ts';
import { openMatters, tillsWith } from './openStore.ts';

/**
 * What is not over yet between the shop and a customer, in words; empty where nothing is. @param digits of the
 * currency
 */
export async function whatIsOpen(sql: Reader, customerId: number, digits: number): Promise<string[]> {
  const { owes, credit, values, held, promises } = await openMatters(sql, customerId);
  const money = (amount: number) => formatMoney(amount, digits);
  return [
    ...(owes > 0 ? [`They owe ${money(owes)}.`] : []),
    ...(owes < 0 ? [`We owe them ${money(-owes)}.`] : []),
    ...(credit > 0 ? [`They have store credit of ${money(credit)}.`] : []),
    ...(values > 0 ? [`A gift card in their name holds ${money(values)}.`] : []),
    ...(await tillsWith(sql, customerId)).map((till) => `They are on the basket at till ${till}.`),
    ...held.map((name) => `Basket ${name} is on hold for them.`),
    ...promises.map(({ kind, number }) => `${promiseNumber(kind, number)} waits for them.`),
  ];
}
