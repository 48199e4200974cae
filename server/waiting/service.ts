import { counted } from '../../core/locale.ts';
import type { StoredBasket } from '../../contract/counter.ts';
import type { HeldBasket, Hold } from '../../contract/waiting.ts';
import type { Person } from '../../contract/staff.ts';
import { holdTicket, ticketNumber } from '../../core/journal/holdTicket.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { Paper } from '../../core/journal/paper.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { iso, shopTime } from '../clock.ts';
import { basketOf, isFinished, putBasket } from '../counter/store.ts';
import type { Reader, Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import { customerNow } from '../people/recordStore.ts';
import { moneyHeld } from '../tenders/store.ts';
import { readShop } from '../shop/store.ts';
import * as store from './store.ts';

/** All baskets that wait, the longest waiting first. */
export async function waitingBaskets(sql: Reader): Promise<HeldBasket[]> {
  const rows = await store.waitingBaskets(sql);
  return rows.map(({ ticket, heldAt, ...row }) => ({
    ...row,
    number: ticketNumber(ticket),
    heldAt: iso(heldAt),
  }));
}

/** Puts the basket of a till aside and prints its ticket. @throws Problem 409 when it was paid already */
export async function holdBasket(
  sql: Writer,
  { staffId, tillId }: Person,
  id: string,
  hold: Hold,
  at: Date,
): Promise<{ number: string }> {
  if (hold.basket.lines.length === 0)
    throw fieldProblem('basket', 'The basket is empty: there is nothing to hold.');
  await takeLocks(sql, { tills: [tillId], payments: [hold.basket.id] });
  if (await isFinished(sql, hold.basket.id))
    throw new Problem('sale-finished', 'This basket has been paid already.');
  if (await moneyHeld(sql, tillId, null)) {
    throw new Problem(
      'money-taken',
      'Money was taken for this basket. Finish it, or undo its payments first.',
    );
  }
  const ticket = await store.addHeld(sql, { ...hold, id }, { staffId, tillId, at });
  await store.dropBasketOf(sql, tillId);
  await addPrintJob(sql, { tillId, kind: 'hold-ticket', heldId: id, at });
  return { number: ticketNumber(ticket) };
}

/**
 * Takes a held basket up on a till. Of two tills that want it, one gets it and the other is told who has it.
 * @returns the basket as it is on this till, and what the other tills are told
 * @throws Problem 409 `basket-taken`, or `basket-not-empty` when the till has goods of another customer in it
 */
export async function takeUp(
  sql: Writer,
  { staffId, tillId }: Person,
  id: string,
  at: Date,
): Promise<{ stored: StoredBasket; words: string }> {
  await takeLocks(sql, { tills: [tillId] });
  const mine = await basketOf(sql, tillId);
  if (mine && mine.basket.lines.length > 0) {
    throw new Problem('basket-not-empty', 'This till is ringing up something else.', {
      detail: 'Put it on hold first, or finish it.',
    });
  }
  if (await moneyHeld(sql, tillId, null)) {
    throw new Problem('money-taken', 'Money was taken for the basket on this till. Finish it first.');
  }
  const held = await store.takeHeld(sql, id, { staffId, tillId, at });
  if (!held) {
    const words = await takenWords(sql, id);
    if (!words) throw new Problem('no-basket', 'There is no such basket.');
    throw new Problem('basket-taken', words);
  }
  const { customer: was, ...rest } = held;
  const customer = was && (await customerNow(sql, was.id));
  const basket: Basket = { ...rest, ...(customer && { customer }) };
  await store.dropBasketOf(sql, tillId);
  const revision = await putBasket(sql, tillId, basket, 0, at);
  return { stored: { basket, revision: revision ?? 0 }, words: (await takenWords(sql, id)) ?? '' };
}

async function takenWords(sql: Reader, id: string): Promise<string | undefined> {
  const took = await store.whoTook(sql, id);
  return took && `${took.by} has taken ${took.name || ticketNumber(took.ticket)} up on till ${took.till}.`;
}

/** The ticket of a held basket. @throws Problem 404 */
export async function ticketPaper(sql: Reader, id: string): Promise<Paper> {
  const held = await store.heldBasket(sql, id);
  if (!held) throw new Problem('no-basket', 'There is no such basket.');
  const shop = await readShop(sql);
  const lines = held.basket.lines.length;
  return holdTicket({
    shop: shop.name,
    ticket: held.ticket,
    name: held.name,
    note: held.note,
    when: shopTime(held.heldAt, shop),
    by: `${held.heldBy}, till ${held.heldOn}`,
    units: counted(lines, 'line'),
    total: held.total,
    digits: currencyOf(shop.currency).digits,
  });
}
