import type { PromisePage, PromiseQuery, PromiseStep, PromiseView } from '../../contract/promises.ts';
import type { Person } from '../../contract/staff.ts';
import { planStanding } from '../../core/promises/plan.ts';
import { isOrderReference } from '../../core/promises/channel.ts';
import { parsePromiseNumber, promiseNumber } from '../../core/promises/promiseNumber.ts';
import {
  arriveProblem,
  collectReady,
  dropProblem,
  overProblem,
  remindProblem,
  takeOutProblem,
  type WaitingFacts,
} from '../../core/promises/may.ts';
import { wordsOf } from '../../core/words.ts';
import { businessDate, iso } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { addMessage } from '../outbox/store.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import { orderKeeps } from '../../core/promises/order.ts';
import { channelOrder, messagesOf, moveThere } from '../promises/channelStore.ts';
import { handoverVersion, markReady, orderSetup, parcelsOf } from '../promises/orderStore.ts';
import {
  closeAsking,
  partnerOrderNumbered,
  partnerOrderView,
  tellPartner,
} from '../promises/partnerOrderStore.ts';
import { relayOf, withdrawRelay } from '../promises/relayStore.ts';
import { rowOf, waitingFacts } from '../promises/rows.ts';
import * as goods from '../promises/goodsStore.ts';
import * as store from '../promises/store.ts';
import { readShop, shopToday } from '../shop/store.ts';

/** Promises that are looked for, what wants attention first, a page at a time. */
export async function promisePage(sql: Reader, query: PromiseQuery, at: Date): Promise<PromisePage> {
  const { timezone } = await readShop(sql);
  const today = businessDate(at, timezone);
  const wanted = { ...query, words: wordsOfSearch(query.find) };
  const { rows, ...counts } = await store.promiseList(sql, { ...wanted, timezone }, today);
  return { rows: rows.map((row) => rowOf(row, today)), ...counts };
}

/** A number stays whole: its dash would part it. */
const wordsOfSearch = (find: string): string[] =>
  parsePromiseNumber(find) || isOrderReference(find) ? [find.trim().toLowerCase()] : wordsOf(find);

/** Everything about a promise. @throws Problem 404 */
export async function promiseView(sql: Reader, id: string, at: Date): Promise<PromiseView> {
  return viewOf(sql, await store.findPromise(sql, id), at);
}

/** The same, by the number that stands on its paper, or what it is called where it was placed. @throws Problem 404 */
export async function promiseNumbered(sql: Reader, number: string, at: Date): Promise<PromiseView> {
  const known = parsePromiseNumber(number);
  if (known) return viewOf(sql, await store.promiseByNumber(sql, known.kind, known.count), at);
  const there =
    (await channelOrder(sql, number.trim().toUpperCase()))?.promiseId ??
    (await partnerOrderNumbered(sql, number.trim()));
  return viewOf(sql, there === undefined ? undefined : await store.findPromise(sql, there), at);
}

const noPromise = (): Problem => new Problem('no-promise', 'There is nothing promised under that number.');

async function viewOf(sql: Reader, row: store.PromiseRowFacts | undefined, at: Date): Promise<PromiseView> {
  if (!row) throw noPromise();
  const today = await shopToday(sql, at);
  const { rules, depositItem, feeItem } = await store.layawaySetup(sql);
  const { note, exemption, fee, madeBy, plan, paid, mail, phone } = row;
  return {
    ...rowOf(row, today),
    note,
    exemption,
    // One that Setup has no more can be taken away.
    stages: row.kind === 'layaway' ? [...new Set([...rules.stages, row.stage].filter(Boolean))] : [],
    coming: waitingFacts(row).coming,
    fee,
    madeBy,
    plan,
    paid,
    mail,
    phone,
    due: planStanding(plan, paid, today, row.rest - row.held).due,
    lines: await store.promiseLines(sql, row.id),
    events: (await store.promiseEvents(sql, row.id)).map((event) => ({ ...event, at: iso(event.at) })),
    depositItem,
    feeItem,
    firstPayment: row.order ? Math.max(0, row.order.firstPayment - row.paid) : 0,
    relay: row.relay ? await relayOf(sql, row.id) : null,
    partnerOrder: row.fromPartner ? await partnerOrderView(sql, row.id) : null,
    told: row.atChannel ? await messagesOf(sql, row.id) : [],
    keeps: row.order ? orderKeeps((await orderSetup(sql)).rules) : rules.leastDeposit,
    handover: row.order && {
      version: await handoverVersion(sql, row.id),
      collect: row.collect,
      ship: row.ship,
      parcels: (await parcelsOf(sql, row.id)).map((one) => ({ ...one, askedAt: iso(one.askedAt) })),
    },
  };
}

/** A promise with its row locked, and what may become of it is judged by. @throws Problem 404 */
export async function lockPromise(sql: Writer, id: string): Promise<store.PromiseRowFacts & WaitingFacts> {
  await takeLocks(sql, { promises: [id] });
  const promise = await store.findPromise(sql, id);
  if (!promise) throw noPromise();
  return { ...promise, ...waitingFacts(promise) };
}

/** @throws Problem 409 where something is wrong */
export function refuse(problem: string | null): void {
  if (problem) throw new Problem('promise-changed', problem);
}

/** What each step is called in the history. */
const STEP_WORDS: Readonly<Record<PromiseStep['what'], string>> = {
  arrived: 'Goods arrived',
  told: 'Customer told',
  note: 'Note',
  remind: 'Reminder sent',
  stage: 'Now',
};

/**
 * Notes what came to pass with a promise: goods arrived (they are set aside from then on), the customer was told, a
 * reminder goes out, or a note. @throws Problem 404, 409, 422
 */
export async function takeStep(
  sql: Writer,
  { staffId }: Person,
  id: string,
  { what, words }: PromiseStep,
  at: Date,
): Promise<PromiseView> {
  const promise = await lockPromise(sql, id);
  refuse(overProblem(promise));
  let said = words;
  if (what === 'arrived') await arrive(sql, promise, at);
  if (what === 'note' && !words) throw fieldProblem('words', 'Type the note.');
  if (what === 'stage') {
    const { stages } = (await store.layawaySetup(sql)).rules;
    if (promise.kind !== 'layaway' || (words !== '' && !stages.includes(words)))
      throw fieldProblem('words', 'Setup has no such word for a layaway.');
    await store.putStage(sql, id, words);
    said = words || 'none of our own words';
  }
  if (what === 'told') {
    if (!words) throw fieldProblem('words', 'How? For example: by telephone.');
    await store.markTold(sql, id, at);
  }
  if (what === 'remind') {
    said = await remind(sql, promise, at);
    if (promise.arrivedAt !== null || promise.state === 'paid') await store.markTold(sql, id, at);
  }
  await store.addEvent(sql, id, { at, staffId, what: STEP_WORDS[what], words: said });
  return promiseView(sql, id, at);
}

async function arrive(sql: Writer, promise: store.PromiseRowFacts & WaitingFacts, at: Date): Promise<void> {
  refuse(arriveProblem(promise));
  await store.markArrived(sql, promise.id, at);
  await goods.setAside(sql, promise.id, true);
}

/** Sends the customer word of what is due, or that the goods are ready. @returns where to */
async function remind(sql: Writer, promise: store.PromiseRowFacts & WaitingFacts, at: Date): Promise<string> {
  const problem = remindProblem(promise);
  if (problem) throw fieldProblem('words', problem);
  return sendWord(sql, promise, at);
}

async function sendWord(sql: Writer, promise: store.PromiseRowFacts, at: Date): Promise<string> {
  const to = promise.mail || promise.phone;
  await addMessage(sql, {
    kind: promise.mail ? 'mail' : 'text',
    recipient: to,
    subject: `${promiseNumber(promise.kind, promise.count)} waits for you`,
    saleId: null,
    storedValueId: null,
    promiseId: promise.id,
    at,
  });
  return to;
}

/** Tells the customer of an order that all that is collected lies ready, once; what is shipped tells by itself. */
export async function tellReady(
  sql: Writer,
  { id, staffId, at }: { id: string; staffId: number | null; at: Date },
): Promise<void> {
  const promise = await store.findPromise(sql, id);
  if (!promise?.collect || !collectReady(await store.promiseLines(sql, id), promise.collect.placeId)) return;
  if (!(await markReady(sql, id, at))) return;
  const reachable = Boolean(promise.mail || promise.phone);
  const words = reachable ? await sendWord(sql, promise, at) : '';
  if (reachable) await store.markTold(sql, id, at);
  await store.addEvent(sql, id, { at, staffId, what: reachable ? 'Ready, customer told' : 'Ready', words });
}

/**
 * Takes a line out of a promise of which nothing has left; its goods can be sold again.
 * @throws Problem 404, 409 where it is the last one, or more is held than the rest comes to
 */
export async function takeOut(
  sql: Writer,
  { staffId }: Person,
  id: string,
  position: number,
  at: Date,
): Promise<PromiseView> {
  const promise = await lockPromise(sql, id);
  const lines = await store.promiseLines(sql, id);
  refuse(takeOutProblem(promise, lines, position));
  await goods.setAside(sql, id, false);
  await goods.takeLineOut(sql, id, position);
  if (!promise.coming) await goods.setAside(sql, id, true);
  await goods.sumPromise(sql, id);
  const words = lines.find((line) => line.position === position)?.name ?? '';
  await store.addEvent(sql, id, { at, staffId, what: 'Goods taken out', words });
  return promiseView(sql, id, at);
}

/** Gives up a promise of which nothing goes back at a till. @throws Problem 409 where a deposit has to go back first */
export async function dropPromise(
  sql: Writer,
  { staffId }: Person,
  id: string,
  reason: string,
  at: Date,
): Promise<PromiseView> {
  const promise = await lockPromise(sql, id);
  refuse(dropProblem(promise, await store.promiseLines(sql, id)));
  await endPromise(sql, promise, { at, staffId, reason });
  return promiseView(sql, id, at);
}

/** Gives up a promise whose money, if any is held, goes back where it was ordered. Its row is locked. */
export async function endPromise(
  sql: Writer,
  { id, heldThere }: Pick<store.PromiseRowFacts, 'id' | 'heldThere'>,
  { at, staffId, reason }: { at: Date; staffId: number | null; reason: string },
): Promise<void> {
  await goods.setAside(sql, id, false);
  await withdrawRelay(sql, id, staffId, at);
  await store.markCancelled(sql, id, at);
  await moveThere(sql, id, 0 - heldThere, '', at);
  await closeAsking(sql, id, { staffId, at });
  // Who has taken it back knows.
  if (staffId !== null)
    await tellPartner(sql, { promiseId: id, kind: 'refused', words: reason, staffId, at });
  await goods.sumPromise(sql, id);
  await store.addEvent(sql, id, { at, staffId, what: 'Cancelled', words: reason });
}

/** Prints the paper of a promise once more, or another one of an order. @throws Problem 404 */
export async function printPromise(
  sql: Writer,
  { tillId }: Person,
  id: string,
  at: Date,
  paper?: 'pick-list' | 'packing-slip',
): Promise<void> {
  const promise = await store.findPromise(sql, id);
  if (!promise) throw noPromise();
  await addPrintJob(sql, { tillId, kind: paper ?? promise.kind, promiseId: id, at });
}
