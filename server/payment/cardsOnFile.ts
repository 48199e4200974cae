import type { Person } from '../../contract/staff.ts';
import { basketOf } from '../counter/store.ts';
import type { Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import * as cards from '../people/cardOnFileStore.ts';
import * as store from '../tenders/store.ts';
import { mayTouch } from './tenderSteps.ts';

/** Leaves the card of a payment on file, as the customer of its sale has agreed. */
export async function keepCardOf(
  house: House,
  person: Person,
  id: string,
  customerId: number,
): Promise<void> {
  await house.database.write(async (sql) => {
    const tender = await store.findTender(sql, id);
    if (!tender?.token || !tender.brand || tender.state !== 'approved') {
      throw new Problem('cannot-keep-card', 'There is no card to be kept.');
    }
    await takeLocks(sql, { payments: [tender.basketId] });
    const payment = await store.findPayment(sql, tender.basketId);
    mayTouch(person, payment?.tillId ?? 0);
    if (payment?.basket?.customer?.id !== customerId) {
      throw fieldProblem('customerId', 'This card paid for another customer: it is kept for nobody else.');
    }
    await cards.keepCard(sql, {
      customerId,
      token: tender.token,
      brand: tender.brand,
      lastFour: tender.lastFour ?? '',
      staffId: person.staffId,
      at: house.clock.now(),
    });
  });
}

/**
 * Forgets a card on file: for the customer of the sale that is being rung up, or with the right to see card payments.
 * @throws Problem 403, 404
 */
export async function forgetCard(sql: Writer, person: Person, id: number, at: Date): Promise<void> {
  const card = await cards.cardOnFile(sql, id);
  if (!card) throw new Problem('no-card', 'There is no such card on file.');
  const ringingUp = await basketOf(sql, person.tillId);
  if (!person.rights.includes('card.list') && ringingUp?.basket.customer?.id !== card.customerId) {
    throw new Problem('no-right', 'This card belongs to somebody else.', {
      detail: 'Put its customer on the sale, or ask somebody who may see card payments.',
    });
  }
  await cards.dropCard(sql, id, at);
}
