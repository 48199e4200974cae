import { v4 as newId } from 'uuid';
import type { StoredBasket } from '../../contract/counter.ts';
import type { LayawayWanted } from '../../contract/promises.ts';
import type { Person } from '../../contract/staff.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import { moneyLine } from '../../core/counter/promiseBasket.ts';
import type { Money } from '../../core/money.ts';
import { addProblem } from '../../core/promises/may.ts';
import { dayAfter, layawayPlan, termsProblems } from '../../core/promises/plan.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { wordsOf } from '../../core/words.ts';
import { businessDate } from '../clock.ts';
import { basketOf, levelsAt, putBasket } from '../counter/store.ts';
import type { Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { noteAsked, wasCarriedOut, type Asked } from '../http/write.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import * as goods from '../promises/goodsStore.ts';
import { waitingFacts } from '../promises/rows.ts';
import * as store from '../promises/store.ts';
import {
  checkAvailable,
  lockFreeBasket,
  promiseLines,
  readyToPromise,
  type Promisable,
} from './promisedGoods.ts';
import { dropBasketOf } from './store.ts';

/** A basket whose goods are to be promised, and what the screen showed. */
export interface WantedGoods {
  basket: Basket;
  expectedTotal: Money;
}

/** A layaway that was made or added to: its number, and the basket that is on the till now. */
export interface MadeLayaway {
  id: string;
  number: string;
  stored: StoredBasket | null;
}

/** A basket that becomes part of a layaway. */
interface Making {
  id: string;
  basket: Basket;
  ready: Promisable;
  person: Person;
  at: Date;
}

/**
 * Sets the goods of a basket aside for its customer, at the prices of today; the till goes on with a basket that has the
 * deposit. The same request again gives the same layaway.
 * @throws Problem 409 `not-available` where a piece is promised or sold already, 422 next to what is wrong
 */
export const makeLayaway = (
  house: House,
  person: Person,
  { terms, ...wanted }: WantedGoods & { terms: LayawayWanted },
  asked: Asked,
): Promise<MadeLayaway> =>
  promiseGoods(house, person, wanted, { asked, id: asked.key }, (sql, making) =>
    storeLayaway(sql, making, terms),
  );

/**
 * Sets the goods of a basket aside beside those that a layaway has, at the prices of today; the till goes on with an empty
 * basket. What they come to is due with the last part, or a month later where that is over.
 * @throws Problem 404, 409
 */
export const addToLayaway = (
  house: House,
  person: Person,
  id: string,
  wanted: WantedGoods,
  asked: Asked,
): Promise<MadeLayaway> => promiseGoods(house, person, wanted, { asked, id }, storeMore);

async function promiseGoods(
  house: House,
  person: Person,
  wanted: WantedGoods,
  { asked, id }: { asked: Asked; id: string },
  work: (sql: Writer, making: Making) => Promise<MadeLayaway>,
): Promise<MadeLayaway> {
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
  const itemIds = [...new Set(ready.lines.map(({ itemId }) => itemId))];
  const levels = await house.database.ask((sql) => levelsAt(sql, placeId, itemIds));
  house.events.tell({ kind: 'stock-changed', placeId, levels });
  return made;
}

async function madeBefore({ database }: House, { tillId }: Person, id: string): Promise<MadeLayaway> {
  return database.ask(async (sql) => {
    const found = await store.findPromise(sql, id);
    if (!found) throw new Problem('no-promise', 'There is no such layaway.');
    return { id, number: promiseNumber(found.kind, found.count), stored: await basketOf(sql, tillId) };
  });
}

async function storeLayaway(sql: Writer, making: Making, terms: LayawayWanted): Promise<MadeLayaway> {
  const { id, basket, ready, person, at } = making;
  const { facts, priced } = ready;
  const { rules, ...items } = await store.layawaySetup(sql);
  const today = businessDate(at, facts.timezone);
  const { coming, note, ...plan } = terms;
  const [wrong] = Object.entries(termsProblems(plan, { total: priced.total, rules, today }));
  if (wrong) throw fieldProblem(`terms.${wrong[0]}`, wrong[1]);
  if (!coming) await checkAvailable(sql, ready);
  const count = await goods.addPromise(sql, {
    id,
    basketId: basket.id,
    kind: 'layaway',
    customerId: basket.customer?.id ?? 0,
    placeId: facts.placeId,
    tillId: person.tillId,
    staffId: person.staffId,
    at,
    taxMode: priced.taxMode,
    total: priced.total,
    fee: terms.fee,
    note,
    coming,
    plan: layawayPlan(priced.total, plan, today),
    lines: promiseLines(ready),
    words: wordsOf([basket.customer?.name, goodsWords(ready)].join(' ')),
  });
  const number = promiseNumber('layaway', count);
  await store.addEvent(sql, id, { at, staffId: person.staffId, what: 'Set aside', words: note });
  const deposit =
    terms.deposit > 0 ? [moneyLine({ id, number, ...items }, 'deposit', terms.deposit, newId)] : [];
  return { id, number, stored: await goOnWith(sql, making, deposit) };
}

async function storeMore(sql: Writer, making: Making): Promise<MadeLayaway> {
  const { id, basket, ready, person, at } = making;
  await takeLocks(sql, { promises: [id] });
  const promise = await store.findPromise(sql, id);
  if (!promise) throw new Problem('no-promise', 'There is no such layaway.');
  const { state, coming } = waitingFacts(promise);
  const problem = addProblem(
    { ...promise, state },
    { customerId: basket.customer?.id, placeId: ready.facts.placeId },
  );
  if (problem) throw fieldProblem('basket', problem);
  if (!coming) await checkAvailable(sql, ready);
  const today = businessDate(at, ready.facts.timezone);
  const last = promise.plan.at(-1)?.day ?? today;
  const positions = (await store.promiseLines(sql, id)).map(({ position }) => position);
  await goods.addMoreGoods(sql, {
    id,
    basketId: basket.id,
    lines: promiseLines(ready, Math.max(0, ...positions)),
    total: ready.priced.total,
    day: last > today ? last : dayAfter(today, 'month'),
    words: wordsOf(goodsWords(ready)),
  });
  if (!coming) await goods.setAside(sql, id, true);
  const words = ready.lines.map(({ name }) => name).join(', ');
  await store.addEvent(sql, id, {
    at,
    staffId: person.staffId,
    what: 'Goods added',
    words: words.slice(0, 200),
  });
  const number = promiseNumber(promise.kind, promise.count);
  return { id, number, stored: await goOnWith(sql, making, []) };
}

const goodsWords = ({ lines }: Promisable): string =>
  lines.flatMap(({ name, number }) => [name, number]).join(' ');

/** Prints the paper, and puts the next basket on the till in the place of the one whose goods were promised. */
async function goOnWith(
  sql: Writer,
  { id, basket: { customer }, person: { tillId }, at }: Making,
  lines: BasketLine[],
): Promise<StoredBasket> {
  await addPrintJob(sql, { tillId, kind: 'layaway', promiseId: id, at });
  await dropBasketOf(sql, tillId);
  // With nothing left to pay the next customer comes.
  const basket: Basket = { id: newId(), ...(lines.length > 0 && { customer }), lines };
  const revision = await putBasket(sql, tillId, basket, 0, at);
  return { basket, revision: revision ?? 0 };
}
