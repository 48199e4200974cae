import type { CustomerCard } from '../../contract/people.ts';
import type { Reader, Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { cardsOf, noteChanges } from './recordStore.ts';
import { noCustomer } from './noCustomer.ts';
import * as store from './store.ts';

/** Why a code can be no customer's new card; `null` where it can. */
async function cardProblem(sql: Reader, code: string, customerId: number): Promise<Problem | null> {
  const card = await store.customerOfCard(sql, code);
  if (card?.replaced) {
    return new Problem('card-taken', `This card of ${card.name} was stopped and counts no more.`, {
      detail: 'Take a new card.',
    });
  }
  if (card?.customerId === customerId) {
    return new Problem('card-taken', `${card.name} has this card already.`);
  }
  if (card) return new Problem('card-taken', `This is the card of ${card.name}.`);
  const item = await store.itemWithCode(sql, code);
  return item === undefined ? null : fieldProblem('code', `This is the code of ${item}.`);
}

interface By {
  staffId: number;
  at: Date;
}

/**
 * Gives a customer a card: it counts from now on, and where the ones before are lost, they stop in the same moment.
 * @throws Problem 404, 409 `card-taken`, 422 where the code is that of an item
 */
export async function giveCard(
  sql: Writer,
  customerId: number,
  { code, replaces }: { code: string; replaces: boolean },
  { staffId, at }: By,
): Promise<CustomerCard[]> {
  if (!(await store.lockCustomer(sql, customerId))) throw noCustomer();
  const problem = await cardProblem(sql, code, customerId);
  if (problem) throw problem;
  const stopped = replaces ? await store.stopCards(sql, customerId, null, { staffId, at }) : [];
  // Two tills that give one card out meet at its code.
  if (!(await store.addCard(sql, customerId, code, { staffId, at })))
    throw new Problem('card-taken', 'This card was given out by another till just now.');
  await noteChanges(sql, customerId, [{ what: 'Card', was: stopped.join(', '), became: code }], {
    staffId,
    at,
  });
  return cardsOf(sql, customerId);
}

/** A lost card stops at once, on every till. @throws Problem 404 where they have no such card that counts */
export async function stopCard(
  sql: Writer,
  customerId: number,
  code: string,
  by: By,
): Promise<CustomerCard[]> {
  if (!(await store.lockCustomer(sql, customerId))) throw noCustomer();
  const stopped = await store.stopCards(sql, customerId, code, by);
  if (stopped.length === 0) throw new Problem('no-card', 'They have no such card that counts.');
  await noteChanges(sql, customerId, [{ what: 'Card', was: code, became: '' }], by);
  return cardsOf(sql, customerId);
}
