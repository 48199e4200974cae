import type { FinishedSale } from '../../contract/counter.ts';
import type { PaymentView, TakeTender, TenderView } from '../../contract/payment.ts';
import type { Person } from '../../contract/staff.ts';
import { formatMoney, sum, type Money } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { chargeProblem, overLimit, overLimitStep } from '../../core/people/account.ts';
import { isMistyped, plainNumber, storedValueProblem } from '../../core/giftCards/storedValue.ts';
import { cashRounding } from '../../core/payment/cash.ts';
import { covers, holdsMoney, isOpen, mayBeTaken } from '../../core/payment/tender.ts';
import { tenderKind } from '../../core/payment/tenderKinds.ts';
import { worthOf, type TenderType } from '../../core/payment/tenderType.ts';
import { businessDate, iso } from '../clock.ts';
import type { Facts } from '../counter/priceSale.ts';
import { factsFor, figuresFor } from '../counter/priceSale.ts';
import { finishWithCash, readyToPay } from '../counter/service.ts';
import { finalTender, refundRounding, storeSale } from '../counter/storeSale.ts';
import { finishedSale } from '../counter/store.ts';
import type { Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { noteAsked, wasCarriedOut, type Asked } from '../http/write.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import { mayTryNumber } from '../giftCards/giftCards.ts';
import { accountsFor } from '../people/accountStore.ts';
import { approvalFor } from '../staff/approval.ts';
import { cardOnFile as findCardOnFile } from '../people/cardOnFileStore.ts';
import { beginPayment } from '../tenders/begin.ts';
import * as store from '../tenders/store.ts';
import { tenderName } from '../tenders/tenderName.ts';

/**
 * How far the payment of a basket is. What is covered but not finished, because something stopped in between, is
 * finished.
 */
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
    leftOn: balance === null ? null : balance - (tender.finished ? 0 : amount),
    terminalId,
    accountId: tender.accountId,
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
  const ready = await readyToPay(house, person, wanted, at, asked);
  if (ready.finished) return paymentView(house, basketId);
  const { facts, due, figures } = ready;
  const type = facts.types.find(({ id, active }) => id === wanted.typeId && active);
  if (!type) throw fieldProblem('typeId', 'This means of payment is switched off.');
  const { asksDevice } = tenderKind(type.kind);
  if (type.reference && !wanted.reference && !asksDevice) {
    throw fieldProblem('reference', `${type.reference} is missing.`);
  }
  if (coveredByCash(type, facts, wanted, due)) {
    const cash = { basket: wanted.basket, handed: wanted.amount, asked };
    const finished = await finishWithCash(house, person, cash, ready, at);
    return { basketId, tenders: facts.tenders.map(tenderView), finished, begun: null };
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
  if (added && asksDevice) await house.terminals.begin(wanted.id);
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
  const begun = await beginPayment(
    sql,
    { basket: wanted.basket, due, figures, tillId: person.tillId, staffId: person.staffId, at },
    { accounts: type.kind === 'account' && wanted.accountId !== null ? [wanted.accountId] : [] },
  );
  if (!begun) return false;
  const { tenders } = begun;
  if (tenders.some(({ id }) => id === wanted.id)) return false;
  if (tenders.some(({ state }) => isOpen(state))) {
    throw new Problem('payment-open', 'Another payment of this basket is not answered yet.');
  }
  const { digits } = currencyOf(facts.currency);
  const left = mayBeTaken(due, tenders);
  if (due < 0) throw fieldProblem('amount', 'Money goes back here: choose where to.');
  const worth = type.foreign ? worthOf(wanted.amount, type.foreign, digits) : wanted.amount;
  if (worth <= 0) throw fieldProblem('amount', 'That is worth nothing here.');
  if (left <= 0 || (worth > left && !tenderKind(type.kind).inDrawer)) {
    throw fieldProblem('amount', `Only ${formatMoney(Math.max(0, left), digits)} is left to pay.`);
  }
  const amount = Math.min(worth, left);
  await store.addTender(sql, {
    id: wanted.id,
    basketId: wanted.basket.id,
    typeId: type.id,
    state: tenderKind(type.kind).asksDevice ? 'stored' : 'approved',
    amount,
    handed: worth,
    reference: wanted.reference,
    foreignAmount: type.foreign ? wanted.amount : null,
    storedValueId: type.kind === 'stored-value' ? await valueFor(sql, adding, amount) : null,
    accountId: type.kind === 'account' ? await accountFor(sql, adding, amount, tenders) : null,
    ...(await cardFor(sql, adding)),
    askRoundUp: wanted.askRoundUp,
    staffId: person.staffId,
    at,
  });
  // A part in cash goes into the drawer at once.
  if (type.opensDrawer) await openDrawerFor(sql, person.tillId, wanted.id, at);
  return true;
}

/** The drawer opens for cash that is a part of what is due. */
export const openDrawerFor = (sql: Writer, tillId: number, paymentTenderId: string, at: Date) =>
  addPrintJob(sql, { tillId, kind: 'drawer-only', paymentTenderId, openDrawer: true, at });

/** The stored value that is paid with, locked: two tills at once never take more than there is. */
async function valueFor(sql: Writer, { wanted, facts, at }: Adding, amount: Money): Promise<number> {
  const number = plainNumber(wanted.number);
  if (!number) throw fieldProblem('number', 'Scan or type the number.');
  const value = await store.lockValue(sql, number);
  if (!value) {
    throw fieldProblem(
      'number',
      isMistyped(number) ? 'The number is not right: type it again.' : 'There is no card with this number.',
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

/** The house account that is charged; its row is locked: two tills at once never charge more than may go on it. */
async function accountFor(
  sql: Writer,
  { person, wanted, facts, at }: Adding,
  amount: Money,
  tenders: readonly store.PaymentTender[],
): Promise<number> {
  const { basket, accountId, reference, countersign } = wanted;
  if (!basket.customer) throw fieldProblem('accountId', 'Who buys? Put the customer on the sale first.');
  if (basket.lines.some(({ account }) => account))
    throw fieldProblem('accountId', 'What is paid on an account is not charged to one.');
  const accounts = await accountsFor(sql, basket.customer.id, businessDate(at, facts.timezone));
  const account = accounts.find(({ id }) => id === accountId);
  if (!account) throw fieldProblem('accountId', `${basket.customer.name} may not buy on this account.`);
  const problem = chargeProblem(account, { reference });
  if (problem) throw fieldProblem(problem.field, problem.words);
  const mine = tenders.filter((one) => one.accountId === account.id && holdsMoney(one.state));
  const over = overLimit(account, { amount, before: sum(mine.map((one) => one.amount)) });
  if (over > 0) {
    await approvalFor(sql, person, {
      about: basket.id,
      countersign,
      right: 'account.over-limit',
      step: overLimitStep(account.id, over),
      at,
    });
  }
  return account.id;
}

async function cardFor(
  sql: Writer,
  { person, wanted, type }: Adding,
): Promise<Pick<store.NewTender, 'terminalId' | 'notPresent' | 'cardOnFileId' | 'token'>> {
  if (!tenderKind(type.kind).asksDevice)
    return { terminalId: null, notPresent: false, cardOnFileId: null, token: null };
  const { terminals } = await store.paymentFacts(sql, person.tillId);
  const terminalId = wanted.terminalId ?? terminals[0]?.id ?? null;
  if (!terminals.some(({ id }) => id === terminalId)) {
    throw fieldProblem('terminalId', 'This till has no such card terminal. Choose one in Setup.');
  }
  const { cardOnFileId, notPresent } = wanted;
  if (cardOnFileId === null) return { terminalId, notPresent, cardOnFileId, token: null };
  const card = await findCardOnFile(sql, cardOnFileId);
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
 * Nothing happens when the payments do not cover what is due, when one is not answered, or when the basket or its
 * prices have changed meanwhile: the till shows what is left then.
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
  const { lines, priced, codes } = await figuresFor(house, basket, read, at);
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
