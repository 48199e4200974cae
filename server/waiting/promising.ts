import { v4 as newId } from 'uuid';
import type { StoredBasket } from '../../contract/counter.ts';
import type { Person } from '../../contract/staff.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import type { Money } from '../../core/money.ts';
import { promiseNumber, type PromiseKind } from '../../core/promises/promiseNumber.ts';
import { basketOf, levelsAt, putBasket } from '../counter/store.ts';
import type { Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { noteAsked, wasCarriedOut, type Asked } from '../http/write.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import * as store from '../promises/store.ts';
import { lockFreeBasket, readyToPromise, type Promisable } from './promisedGoods.ts';
import { dropBasketOf } from './store.ts';

/** A basket whose goods are to be promised, and what the screen showed. */
export interface WantedGoods {
  basket: Basket;
  expectedTotal: Money;
}

/** A promise that was made or added to: its number, and the basket that is on the till now. */
export interface MadePromise {
  id: string;
  number: string;
  stored: StoredBasket | null;
}

/** A basket that becomes part of a promise. */
export interface Making {
  id: string;
  basket: Basket;
  ready: Promisable;
  person: Person;
  at: Date;
}

/**
 * Promises the goods of a basket: prices and checks it, then carries `work` out once, with the till and the basket
 * locked. The same request again gets the same promise. @throws Problem 409, 422
 */
export async function promiseGoods(
  house: House,
  person: Person,
  wanted: WantedGoods,
  { asked, id }: { asked: Asked; id: string },
  work: (sql: Writer, making: Making) => Promise<MadePromise>,
): Promise<MadePromise> {
  const at = house.clock.now();
  const { basket } = wanted;
  if (await house.database.ask((sql) => wasCarriedOut(sql, asked))) return madeBefore(house, person, id);
  const ready = await readyToPromise(house, person, wanted, at);
  const made = await house.database.write(async (sql) => {
    if (!(await noteAsked(sql, asked, at))) return null;
    await lockFreeBasket(sql, person.tillId, basket.id);
    return work(sql, { id, basket, ready, person, at });
  });
  if (!made) return madeBefore(house, person, id);
  const { tillId } = person;
  const { placeId } = ready.facts;
  house.printing.wake();
  house.events.tell({ kind: 'promises-changed' });
  house.events.tell({ kind: 'basket-changed', tillId, revision: made.stored?.revision ?? 0 });
  await tellStock(house, [placeId, ...(await placesOf(house, made.id))], ready);
  return made;
}

/** Where the goods of a promise are. */
async function placesOf({ database }: House, id: string): Promise<number[]> {
  const lines = await database.ask((sql) => store.promiseLines(sql, id));
  return lines.flatMap(({ order }) => order?.placeId ?? []);
}

/** Every till sees what can be sold where. */
async function tellStock(house: House, places: readonly number[], { lines }: Promisable): Promise<void> {
  const itemIds = [...new Set(lines.map(({ itemId }) => itemId))];
  for (const placeId of new Set(places)) {
    const levels = await house.database.ask((sql) => levelsAt(sql, placeId, itemIds));
    house.events.tell({ kind: 'stock-changed', placeId, levels });
  }
}

/** What was made by a request before. @throws Problem 404 */
export async function madeBefore({ database }: House, { tillId }: Person, id: string): Promise<MadePromise> {
  return database.ask(async (sql) => {
    const found = await store.findPromise(sql, id);
    if (!found) throw new Problem('no-promise', 'There is no such promise.');
    return { id, number: promiseNumber(found.kind, found.count), stored: await basketOf(sql, tillId) };
  });
}

export const goodsWords = ({ lines }: Promisable): string =>
  lines.flatMap(({ name, number }) => [name, number]).join(' ');

/** Prints the paper, and puts the next basket on the till in the place of the one whose goods were promised. */
export async function goOnWith(
  sql: Writer,
  {
    id,
    basket: { customer },
    person: { tillId },
    at,
  }: Pick<Making, 'id' | 'person' | 'at'> & { basket: Pick<Basket, 'customer'> },
  paper: PromiseKind,
  lines: BasketLine[],
): Promise<StoredBasket> {
  await addPrintJob(sql, { tillId, kind: paper, promiseId: id, at });
  await dropBasketOf(sql, tillId);
  // With nothing left to pay the next customer comes.
  const basket: Basket = { id: newId(), ...(lines.length > 0 && { customer }), lines };
  const revision = await putBasket(sql, tillId, basket, 0, at);
  return { basket, revision: revision ?? 0 };
}
