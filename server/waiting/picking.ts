import { v4 as newId } from 'uuid';
import type { OrderStep } from '../../contract/orders.ts';
import type { PromiseView } from '../../contract/promises.ts';
import type { Person } from '../../contract/staff.ts';
import {
  canBeSent,
  overProblem,
  pickProblem,
  sourceProblem,
  toFind,
  toPick,
  type WaitingFacts,
} from '../../core/promises/may.ts';
import { partLine, type PromiseLine } from '../../core/promises/promised.ts';
import { formatQuantity } from '../../core/quantity.ts';
import type { Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import * as goods from '../promises/goodsStore.ts';
import * as orders from '../promises/orderStore.ts';
import * as store from '../promises/store.ts';
import { lockPromise, promiseView, refuse, tellReady } from './promises.ts';

type Locked = store.PromiseRowFacts & WaitingFacts;

/** What a step does to an order, and what its history says of it. */
interface Done {
  what: string;
  words: string;
}

/**
 * Notes what came to pass with an order at a place: goods were found or are short, are picked elsewhere, leave for
 * the place where they are collected, or arrived there. When everything lies ready, the customer is told.
 * @throws Problem 404, 409 where that cannot be, 422
 */
export async function takeOrderStep(
  sql: Writer,
  { staffId }: Person,
  id: string,
  step: OrderStep,
  at: Date,
): Promise<PromiseView> {
  const promise = await lockPromise(sql, id);
  refuse(overProblem(promise));
  if (promise.kind !== 'order') throw new Problem('no-promise', 'There is no such order.');
  const lines = await store.promiseLines(sql, id);
  const { what, words } = await STEPS[step.what](sql, { promise, lines, step, at });
  await store.addEvent(sql, id, { at, staffId, what, words: words.slice(0, 200) });
  await goods.sumPromise(sql, id);
  await tellReady(sql, { id, staffId, at });
  return promiseView(sql, id, at);
}

interface Stepping {
  promise: Locked;
  lines: readonly PromiseLine[];
  step: OrderStep;
  at: Date;
}

const STEPS: Readonly<Record<OrderStep['what'], (sql: Writer, stepping: Stepping) => Promise<Done>>> = {
  pick,
  source: pickElsewhere,
  send,
  arrived: arrive,
};

function lineOf({ lines, step }: Stepping): PromiseLine {
  const line = lines.find(({ position }) => position === step.position);
  if (!line) throw fieldProblem('position', 'There is no such line.');
  return line;
}

async function pick(sql: Writer, stepping: Stepping): Promise<Done> {
  if (stepping.step.position === undefined) return pickAll(sql, stepping);
  const line = lineOf(stepping);
  const { promise, step } = stepping;
  const found = step.found ?? 0;
  refuse(pickProblem(line, found));
  const short = toPick(line) - found;
  await orders.notePicked(sql, promise.id, line.position, found, short);
  // What is short can be sold, or be set aside, no more; what was found after all is set aside again.
  await goods.setAside(sql, promise.id, true);
  const words = `${formatQuantity(found)} of ${line.name}, ${line.order?.place ?? ''}`;
  return short > 0
    ? { what: 'Short', words: `${formatQuantity(short)} of ${line.name} missing, ${line.order?.place ?? ''}` }
    : { what: 'Picked', words };
}

/** Everything that is looked for at a place was found; what is short stays short. */
async function pickAll(sql: Writer, { promise, lines, step }: Stepping): Promise<Done> {
  const mine = lines.filter((line) => toFind(line) > 0 && line.order?.placeId === step.placeId);
  const [first] = mine;
  if (!first) throw new Problem('promise-changed', 'Nothing is left to pick there.');
  for (const line of mine) {
    refuse(pickProblem(line, toFind(line)));
    await orders.notePicked(sql, promise.id, line.position, toFind(line), line.order?.short ?? 0);
  }
  await goods.setAside(sql, promise.id, true);
  const names = mine.map(({ name }) => name).join(', ');
  return { what: 'Picked', words: `${names}, ${first.order?.place ?? ''}` };
}

async function pickElsewhere(sql: Writer, stepping: Stepping): Promise<Done> {
  const line = lineOf(stepping);
  const { promise, step } = stepping;
  const place = (await orders.orderPlaces(sql)).find(({ id }) => id === step.placeId);
  if (!place || !line.order) throw fieldProblem('placeId', 'There is no such place.');
  refuse(sourceProblem(line, place.id));
  const wanted = toPick(line);
  const [there] = await goods.lockAvailable(sql, [{ itemId: line.itemId, placeId: place.id }]);
  if ((there?.available ?? 0) < wanted) {
    throw new Problem(
      'not-available',
      `${place.name} has no ${formatQuantity(wanted)} of ${line.name} to spare.`,
    );
  }
  await goods.setAside(sql, promise.id, false);
  if (line.order.picked === 0) await orders.moveLine(sql, promise.id, line.position, place.id);
  else {
    const [first, rest] = partLine(line, line.order.picked);
    await orders.partStoredLine(sql, promise.id, first, rest, place.id);
  }
  await goods.setAside(sql, promise.id, true);
  return { what: 'Picked elsewhere', words: `${formatQuantity(wanted)} of ${line.name}, ${place.name}` };
}

async function send(sql: Writer, { promise, lines, step, at }: Stepping): Promise<Done> {
  const collectAt = promise.collect?.placeId ?? null;
  const going = lines.filter((line) => canBeSent(line, collectAt) && line.order?.placeId === step.placeId);
  const [first] = going;
  if (!first || step.placeId === undefined)
    throw new Problem('promise-changed', 'Nothing lies picked there that is collected elsewhere.');
  await orders.sendGoods(sql, promise.id, step.placeId, at);
  const names = going.map(({ name }) => name).join(', ');
  return { what: `Sent from ${first.order?.place ?? ''}`, words: names };
}

async function arrive(sql: Writer, { promise, lines, at }: Stepping): Promise<Done> {
  const came = lines.filter(({ order }) => order?.sent);
  if (came.length === 0) throw new Problem('promise-changed', 'Nothing is on the way.');
  await orders.takeInGoods(sql, promise.id, at);
  return {
    what: `Arrived at ${promise.collect?.place ?? ''}`,
    words: came.map(({ name }) => name).join(', '),
  };
}

/** Asks the carrier for a label: the parcel is stored first. @returns the order. @throws Problem 404, 409 */
export async function askForLabel(
  sql: Writer,
  { staffId }: Person,
  id: string,
  at: Date,
): Promise<PromiseView> {
  const promise = await lockPromise(sql, id);
  refuse(overProblem(promise));
  if (!promise.ship) throw new Problem('promise-changed', 'Nothing of this order is shipped.');
  if ((await orders.parcelsOf(sql, id)).some(({ state }) => state === 'waiting'))
    throw new Problem('promise-changed', 'The carrier is being asked for a label already.');
  await orders.addParcel(sql, { id: newId(), promiseId: id, weight: promise.ship.weight, staffId, at });
  await store.addEvent(sql, id, { at, staffId, what: 'Label asked for', words: '' });
  return promiseView(sql, id, at);
}
