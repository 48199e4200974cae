import type { FinishedSale } from '../../contract/counter.ts';
import type { PaymentView, TakeTender, TenderView } from '../../contract/payment.ts';
import type { Person } from '../../contract/staff.ts';
import { formatMoney, sum, type Money } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { isMistyped, plainNumber, storedValueProblem } from '../../core/payment/storedValue.ts';
import { cashRounding } from '../../core/payment/roundUp.ts';
import {
  covers,
  holdsMoney,
  isOpen,
  mayBeTaken,
  mayStep,
  tenderStep,
  type TenderEvent,
} from '../../core/payment/tender.ts';
import { givesChange, worthOf, type TenderType } from '../../core/payment/tenderType.ts';
import { businessDate, iso } from '../clock.ts';
import type { Facts } from '../counter/priceSale.ts';
import { factsFor, figuresFor } from '../counter/priceSale.ts';
import { finishWithCash, readyToPay } from '../counter/service.ts';
import { finalTender, refundRounding, storeSale } from '../counter/storeSale.ts';
import { finishedSale } from '../counter/store.ts';
import type { Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { noteAsked, wasCarriedOut, type Asked } from '../http/write.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import { findVoid } from '../journal/voids/store.ts';
import { mayTryNumber } from './storedValues.ts';
import * as store from './store.ts';
import { basketOf } from '../counter/store.ts';
import { tenderName } from './tenderName.ts';

/** How far the payment of a basket is. What is covered but not finished, because something stopped in between, is finished. */
export async function paymentView(house: House, basketId: string): Promise<PaymentView> {
  const now = await paymentNow(house, basketId);
  const done = await finishWhenCovered(house, now.payment, now.tenders);
  const finished =
    done ??
    (now.payment?.state === 'open' ? null : await house.database.ask((sql) => finishedSale(sql, basketId)));
  const tenders = await Promise.all(
    now.tenders.map(async (tender) => tenderView(await withWords(house, tender))),
  );
  return { basketId, tenders, finished, begun: finished ? null : begunView(now) };
}

function paymentNow({ database }: House, basketId: string) {
  return database.ask(async (sql) => ({
    payment: await store.findPayment(sql, basketId),
    tenders: await store.tendersOf(sql, basketId),
  }));
}

/** What stands since payment began, while money is held. */
function begunView({ payment, tenders }: Awaited<ReturnType<typeof paymentNow>>): PaymentView['begun'] {
  if (payment?.state !== 'open' || !tenders.some(({ state }) => holdsMoney(state))) return null;
  const { beganAt, stale, figures } = payment;
  return { at: iso(beganAt), priced: stale ? null : (figures?.priced ?? null) };
}

/** While a terminal is asked, the till shows what it says. */
async function withWords({ terminal }: House, tender: store.PaymentTender): Promise<store.PaymentTender> {
  if (tender.state !== 'asked' || !tender.serial) return tender;
  const words = await terminal.status(tender.serial, tender.id).then(
    (answer) => answer.words,
    () => tender.words,
  );
  return { ...tender, words };
}

function tenderView(tender: store.PaymentTender): TenderView {
  const { id, typeId, kind, state, amount, handed, tip, roundUp, words, terminalId } = tender;
  const balance = tender.storedValueBalance;

  return {
    id,
    typeId,
    kind,
    name: tenderName(tender),
    state,
    amount,
    handed,
    tip,
    roundUp,
    words,
    leftOn: balance === null ? null : balance - amount,
    terminalId,
    refund: tender.refund,
    canBeKept: !tender.refund && kind === 'card' && tender.token !== null && tender.cardOnFileId === null,
  };
}

/**
 * Takes one payment for a basket. It is stored before any device is asked; where it covers what is due, the sale is
 * finished. Asking again with the same id takes nothing again.
 */
export async function takeTender(
  house: House,
  person: Person,
  wanted: TakeTender,
  asked: Asked,
  source: string,
): Promise<PaymentView> {
  const at = house.clock.now();
  const basketId = wanted.basket.id;
  if (await house.database.ask((sql) => wasCarriedOut(sql, asked))) return paymentView(house, basketId);
  const ready = await readyToPay(house, person, wanted, at);
  if (ready.finished) return paymentView(house, basketId);
  const { facts, due, figures } = ready;
  const type = await house.database.ask(async (sql) =>
    (await store.tenderTypes(sql)).find(({ id, active }) => id === wanted.typeId && active),
  );
  if (!type) throw fieldProblem('typeId', 'This means of payment is switched off.');
  if (type.reference && !wanted.reference && type.kind !== 'card') {
    throw fieldProblem('reference', `${type.reference} is missing.`);
  }
  if (coveredByCash(type, facts, wanted, due)) {
    await finishWithCash(house, person, { basket: wanted.basket, handed: wanted.amount, asked }, ready, at);
    return paymentView(house, basketId);
  }
  const trier = { what: 'number' as const, tillId: person.tillId, source };
  if (type.kind === 'stored-value') await mayTryNumber(house, trier, wanted.number);
  const added = await house.database.write(async (sql) => {
    const fresh = await addTender(sql, { person, wanted, type, facts, due, figures, at });
    if (fresh) return noteAsked(sql, asked, at);
    await wasCarriedOut(sql, asked);
    return false;
  });
  house.printing.wake();
  if (added && type.kind === 'card') await house.terminals.begin(wanted.id);
  house.events.tell({ kind: 'payment-changed', tillId: person.tillId, basketId });
  return paymentView(house, basketId);
}

/** Cash that suffices finishes the sale at once, with change and rounding. */
function coveredByCash(
  { kind }: TenderType,
  { tenders, cashRounding: step }: Facts,
  wanted: TakeTender,
  due: Money,
): boolean {
  if (kind !== 'cash' || tenders.some(({ id }) => id === wanted.id)) return false;
  const left = mayBeTaken(due, tenders);
  return wanted.amount >= left + cashRounding(left, step);
}

interface Adding {
  person: Person;
  wanted: TakeTender;
  type: TenderType;
  facts: Facts;
  due: Money;
  figures: store.BegunFigures;
  at: Date;
}

/** Stores a payment, with the payment of its basket locked. @returns whether it is a new one */
async function addTender(sql: Writer, adding: Adding): Promise<boolean> {
  const { person, wanted, type, facts, due, figures, at } = adding;
  const begun = await store.beginPayment(sql, {
    basket: wanted.basket,
    due,
    figures,
    tillId: person.tillId,
    staffId: person.staffId,
    at,
  });
  if (!begun) return false;
  const { tenders } = begun;
  if (tenders.some(({ id }) => id === wanted.id)) return false;
  if (tenders.some(({ state }) => isOpen(state))) {
    throw new Problem(409, 'payment-open', 'Another payment of this basket is not answered yet.');
  }
  const { digits } = currencyOf(facts.currency);
  const left = mayBeTaken(due, tenders);
  if (due < 0) throw fieldProblem('amount', 'Money goes back here: choose where to.');
  const worth = type.foreign ? worthOf(wanted.amount, type.foreign, digits) : wanted.amount;
  if (worth <= 0) throw fieldProblem('amount', 'That is worth nothing here.');
  if (left <= 0 || (worth > left && !givesChange(type))) {
    throw fieldProblem('amount', `Only ${formatMoney(Math.max(0, left), digits)} is left to pay.`);
  }
  const amount = Math.min(worth, left);
  await store.addTender(sql, {
    id: wanted.id,
    basketId: wanted.basket.id,
    typeId: type.id,
    state: type.kind === 'card' ? 'stored' : 'approved',
    amount,
    handed: worth,
    reference: wanted.reference,
    foreignAmount: type.foreign ? wanted.amount : null,
    storedValueId: type.kind === 'stored-value' ? await valueFor(sql, adding, amount) : null,
    ...(await cardFor(sql, adding)),
    askRoundUp: wanted.askRoundUp,
    staffId: person.staffId,
    at,
  });
  // A part in cash goes into the drawer at once.
  if (type.opensDrawer) await openDrawerFor(sql, person.tillId, wanted.id, at);
  return true;
}

const openDrawerFor = (sql: Writer, tillId: number, paymentTenderId: string, at: Date) =>
  addPrintJob(sql, { tillId, kind: 'drawer-only', paymentTenderId, openDrawer: true, at });

/** The stored value that is paid with, locked: two tills at once never take more than there is. */
async function valueFor(sql: Writer, { wanted, facts, at }: Adding, amount: Money): Promise<number> {
  const number = plainNumber(wanted.number);
  if (!number) throw fieldProblem('number', 'Scan or type the number.');
  const value = await store.lockValue(sql, number);
  if (!value) {
    throw fieldProblem(
      'number',
      isMistyped(number) ? 'The number is not right: type it again.' : 'Nobody knows this number.',
    );
  }
  const problem = storedValueProblem(value, businessDate(at, facts.timezone));
  if (problem) throw fieldProblem('number', problem);
  if (amount > value.balance - value.held) {
    const { digits } = currencyOf(facts.currency);
    throw fieldProblem('amount', `Only ${formatMoney(value.balance - value.held, digits)} is left on it.`);
  }
  return value.id;
}

async function cardFor(
  sql: Writer,
  { person, wanted, type }: Adding,
): Promise<Pick<store.NewTender, 'terminalId' | 'notPresent' | 'cardOnFileId' | 'token'>> {
  if (type.kind !== 'card') return { terminalId: null, notPresent: false, cardOnFileId: null, token: null };
  const { terminals } = await store.paymentFacts(sql, person.tillId);
  const terminalId = wanted.terminalId ?? terminals[0]?.id ?? null;
  if (!terminals.some(({ id }) => id === terminalId)) {
    throw fieldProblem('terminalId', 'This till has no such card terminal. Choose one in Setup.');
  }
  const { cardOnFileId, notPresent } = wanted;
  if (cardOnFileId === null) return { terminalId, notPresent, cardOnFileId, token: null };
  const card = await store.cardOnFile(sql, cardOnFileId);
  if (!card || card.customerId !== wanted.basket.customer?.id) {
    throw fieldProblem('cardOnFileId', 'This customer has no such card on file.');
  }
  return { terminalId, notPresent: false, cardOnFileId, token: card.token };
}

/** Finishes the sale of a basket when its payments cover what is due. @returns whether it is finished now */
export async function finishCovered(house: House, basketId: string): Promise<boolean> {
  const { payment, tenders } = await paymentNow(house, basketId);
  return (await finishWhenCovered(house, payment, tenders)) !== null;
}

/**
 * Nothing happens when the payments do not cover what is due, when one is not answered, or when the basket or its prices
 * have changed meanwhile: the till shows what is left then.
 */
async function finishWhenCovered(
  house: House,
  payment: store.PaymentRow | undefined,
  tenders: readonly store.PaymentTender[],
): Promise<FinishedSale | null> {
  if (payment?.state !== 'open' || payment.stale || !payment.basket || !covers(payment.due, tenders))
    return null;
  const at = house.clock.now();
  const { basketId, tillId, staffId, basket } = payment;
  const read = await factsFor(house, payment, basket, at);
  if (read.finished) return read.finished;
  const { lines, priced, codes } = figuresFor(basket, read, at);
  if (priced.total + (basket.roundUp?.amount ?? 0) !== payment.due) return null;
  const facts = { ...read, codes };
  const approved = tenders.filter(({ state }) => state === 'approved');
  try {
    return await storeSale(house, {
      basket,
      facts,
      lines,
      priced,
      tenders: approved.map((tender) => finalTender(tender, { facts, basket })),
      roundUp: sum(approved.map(({ roundUp }) => roundUp)),
      cashRounding: sum(approved.map((tender) => refundRounding(tender, facts))),
      tillId,
      staffId,
      at,
    });
  } catch (error) {
    // Somebody undid a payment, or used up what the basket needs: the money is still held, and the till says so.
    if (error instanceof Problem) {
      house.log.info({ basketId, why: error.message }, 'a covered sale could not be finished');
      return null;
    }
    throw error;
  }
}

/** Says that a till may touch the payments of another one. @throws Problem 403 */
function mayTouch(person: Person, tillId: number): void {
  if (tillId === person.tillId || person.rights.includes('drawer.close-any')) return;
  throw new Problem(403, 'other-till', 'This payment belongs to another till.', {
    detail: 'Deal with it there, or ask somebody who may close other drawers.',
  });
}

const finishedAlready = (): Problem =>
  new Problem(409, 'sale-finished', 'This sale is finished: its payments stand.', {
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
    if (!found) throw new Problem(404, 'no-tender', 'There is no such payment.');
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
      await store.setTender(sql, id, { state: undoing, words: `Undone by ${person.name}.`, at });
      if (kind === 'card') return;
      const done = tenderStep(undoing, 'sent-back');
      const { digits } = currencyOf(await store.shopCurrency(sql));
      const words = refund
        ? `${formatMoney(0 - amount, digits)} is not given back after all${kind === 'cash' ? ': put it into the drawer again' : ''}.`
        : kind === 'stored-value'
          ? `Back on the ${storedValueKind === 'certificate' ? 'certificate' : 'card'}.`
          : `Give ${formatMoney(amount, digits)} back.`;
      if (done) await store.setTender(sql, id, { state: done, words, at });
      const types = await store.tenderTypes(sql);
      if (types.find((type) => type.id === typeId)?.opensDrawer) {
        await openDrawerFor(sql, person.tillId, id, at);
      }
    },
  );
  house.printing.wake();
  if (tender.kind === 'card') await house.terminals.sendBack(id);
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
    if (!found) throw new Problem(404, 'no-tender', 'There is no such payment.');
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
      if (!next) throw new Problem(409, 'answered', 'The terminal has answered meanwhile.');
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
      throw new Problem(409, 'no-card', 'There is no card to be kept.');
    }
    await takeLocks(sql, { payments: [tender.basketId] });
    const payment = await store.findPayment(sql, tender.basketId);
    mayTouch(person, payment?.tillId ?? 0);
    if (payment?.basket?.customer?.id !== customerId) {
      throw fieldProblem('customerId', 'This card paid for another customer: it is kept for nobody else.');
    }
    await store.keepCard(sql, {
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
  const card = await store.cardOnFile(sql, id);
  if (!card) throw new Problem(404, 'no-card', 'There is no such card on file.');
  const ringingUp = await basketOf(sql, person.tillId);
  if (!person.rights.includes('card.list') && ringingUp?.basket.customer?.id !== card.customerId) {
    throw new Problem(403, 'no-right', 'This card belongs to somebody else.', {
      detail: 'Put its customer on the sale, or ask somebody who may see card payments.',
    });
  }
  await store.dropCard(sql, id, at);
}
