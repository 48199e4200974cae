import type { PaymentView } from '../../contract/payment.ts';
import type { Person } from '../../contract/staff.ts';
import { formatMoney } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { mayStep, tenderStep, type TenderEvent } from '../../core/payment/tender.ts';
import { tenderKind } from '../../core/payment/tenderKinds.ts';
import { mayActFor } from '../../core/staff/rights.ts';
import { onePoint } from '../../core/words.ts';
import type { Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { noteAsked, wasCarriedOut, type Asked } from '../http/write.ts';
import { findVoid } from '../journal/voids/store.ts';
import { openDrawerFor, paymentView } from './service.ts';
import * as store from '../tenders/store.ts';

/** Says that a till may touch the payments of another one. @throws Problem 403 */
export function mayTouch(person: Person, tillId: number): void {
  if (mayActFor(person, tillId)) return;
  throw new Problem('other-till', 'This payment belongs to another till.', {
    detail: 'Deal with it there, or ask somebody who may close other drawers.',
  });
}

const finishedAlready = (): Problem =>
  new Problem('sale-finished', 'This sale is finished: its payments stand.', {
    detail: 'Void the sale, or take the goods back as a return.',
  });

/** A step on one payment: who takes it, and with which request; nobody and none where a device answers. */
export interface TenderStep {
  event: TenderEvent;
  person?: Person;
  asked?: Asked;
}

/**
 * Changes one payment, with the payment of its basket locked. A request that was carried out before changes nothing.
 * @throws Problem 404, 403 where it is another till's, or 409 when its sale is finished
 */
export async function changeTender(
  house: House,
  id: string,
  { event, person, asked }: TenderStep,
  work: (sql: Writer, tender: store.PaymentTender) => Promise<void>,
): Promise<store.PaymentTender> {
  return house.database.write(async (sql) => {
    const found = await store.findTender(sql, id);
    if (!found) throw new Problem('no-tender', 'There is no such payment.');
    const { basketId } = found;
    await takeLocks(sql, { payments: [basketId] });
    const payment = await store.findPayment(sql, basketId);
    const tender = await store.findTender(sql, id);
    if (!tender || !payment) throw new Error('a payment is gone');
    if (person) mayTouch(person, payment.tillId);
    if (asked && !(await noteAsked(sql, asked, house.clock.now()))) return tender;
    const facts = {
      state: tender.state,
      finished: payment.state !== 'open',
      voiding: (await findVoid(sql, basketId))?.state === 'begun',
      sendsBack: tender.sendsBack !== null,
    };
    if (!mayStep(facts, event)) throw finishedAlready();
    await work(sql, tender);
    return tender;
  });
}

/** Sends back what was taken with one payment, the way it came. */
export async function undoTender(
  house: House,
  person: Person,
  id: string,
  asked: Asked,
): Promise<PaymentView> {
  const tender = await changeTender(
    house,
    id,
    { event: 'undo', person, asked },
    async (sql, { state, kind, typeId, storedValueKind, amount, refund }) => {
      const undoing = tenderStep(state, 'undo');
      if (!undoing) return;
      const at = house.clock.now();
      await store.setTender(sql, id, { state: undoing, words: onePoint(`Undone by ${person.name}.`), at });
      if (tenderKind(kind).asksDevice) return;
      const done = tenderStep(undoing, 'sent-back');
      const { digits } = currencyOf(await store.shopCurrency(sql));
      const { inDrawer, undone } = tenderKind(kind);
      const words = refund
        ? `${formatMoney(0 - amount, digits)} is not given back after all${inDrawer ? ': put it into the drawer again' : ''}.`
        : undone({
            amount: formatMoney(amount, digits),
            value: storedValueKind === 'certificate' ? 'certificate' : 'card',
          });
      if (done) await store.setTender(sql, id, { state: done, words, at });
      const types = await store.tenderTypes(sql);
      if (types.find((type) => type.id === typeId)?.opensDrawer) {
        await openDrawerFor(sql, person.tillId, id, at);
      }
    },
  );
  house.printing.wake();
  if (tenderKind(tender.kind).asksDevice) await house.terminals.sendBack(id);
  house.events.tell({ kind: 'payment-changed', tillId: person.tillId, basketId: tender.basketId });
  return paymentView(house, tender.basketId);
}

/** Asks a terminal something about a payment, once for each request. */
async function askTerminal(
  house: House,
  person: Person,
  id: string,
  asked: Asked,
  ask: (tender: store.PaymentTender) => Promise<void>,
): Promise<PaymentView> {
  const { tender, again } = await house.database.ask(async (sql) => {
    const found = await store.findTender(sql, id);
    if (!found) throw new Problem('no-tender', 'There is no such payment.');
    const payment = await store.findPayment(sql, found.basketId);
    mayTouch(person, payment?.tillId ?? 0);
    return { tender: found, again: await wasCarriedOut(sql, asked) };
  });
  if (!again) {
    await ask(tender);
    await house.database.write((sql) => noteAsked(sql, asked, house.clock.now()));
  }
  return paymentView(house, tender.basketId);
}

/** Asks the terminal to call a payment off; what was approved meanwhile stays. */
export const cancelTender = (house: House, person: Person, id: string, asked: Asked): Promise<PaymentView> =>
  askTerminal(house, person, id, asked, (tender) => house.terminals.callOff(tender));

/** Asks the terminal once more where a payment stands. */
export const checkTender = (house: House, person: Person, id: string, asked: Asked): Promise<PaymentView> =>
  askTerminal(house, person, id, asked, (tender) => house.terminals.check(tender));

/** Goes on without the terminal's answer. What it has taken after all is sent back by itself. */
export async function abandonTender(
  house: House,
  person: Person,
  id: string,
  asked: Asked,
): Promise<PaymentView> {
  const tender = await changeTender(
    house,
    id,
    { event: 'abandon', person, asked },
    async (sql, { state }) => {
      const next = tenderStep(state, 'abandon');
      if (!next) throw new Problem('answered', 'The terminal has answered meanwhile.');
      await store.setTender(sql, id, {
        state: next,
        words: `${person.name} went on without the answer.`,
        at: house.clock.now(),
      });
    },
  );
  house.terminals.wake();
  return paymentView(house, tender.basketId);
}
