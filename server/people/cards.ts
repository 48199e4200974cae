import type { CustomerCard } from '../../contract/people.ts';
import { cardProblem } from '../../core/people/card.ts';
import type { Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { cardsOf, noteChanges } from './recordStore.ts';
import { noCustomer } from './noCustomer.ts';
import * as store from './store.ts';

interface By {
  staffId: number;
  at: Date;
}

/**
 * Gives a customer a card: it counts from now on, and where the ones before are lost, they stop in the same moment.
 * @param field of the form in which the code stands
 * @throws Problem 404, 422 with why the code cannot be theirs
 */
export async function giveCard(
  sql: Writer,
  customerId: number,
  { code, replaces }: { code: string; replaces: boolean },
  by: By,
  field = 'code',
): Promise<CustomerCard[]> {
  if (!(await store.lockCustomer(sql, customerId))) throw noCustomer();
  const known = (await store.knownCodes(sql, [code])).get(code.toUpperCase()) ?? {};
  const problem = cardProblem(code, known, customerId);
  if (problem) throw fieldProblem(field, problem);
  const stopped = replaces ? await store.stopCards(sql, customerId, null, by) : [];
  // Two tills that give one card out meet at its code.
  if (!(await store.addCard(sql, customerId, code, by)))
    throw fieldProblem(field, 'This card was given out by another till just now.');
  await noteChanges(sql, customerId, [{ what: 'Card', was: stopped.join(', '), became: code }], by);
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
