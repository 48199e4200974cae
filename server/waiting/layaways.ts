import { v4 as newId } from 'uuid';
import type { LayawayWanted } from '../../contract/promises.ts';
import type { Person } from '../../contract/staff.ts';
import { moneyLine } from '../../core/counter/promiseBasket.ts';
import { addProblem } from '../../core/promises/may.ts';
import { dayAfter, layawayPlan, termsProblems } from '../../core/promises/plan.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { wordsOf } from '../../core/words.ts';
import { businessDate } from '../clock.ts';
import type { Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import type { Asked } from '../http/write.ts';
import * as goods from '../promises/goodsStore.ts';
import { waitingFacts } from '../promises/rows.ts';
import * as store from '../promises/store.ts';
import { checkAvailable, promiseLines } from './promisedGoods.ts';
import {
  goodsWords,
  goOnWith,
  promiseGoods,
  type MadePromise,
  type Making,
  type WantedGoods,
} from './promising.ts';

/**
 * Sets the goods of a basket aside for its customer, at the prices of today; the till goes on with a basket that has
 * the deposit. The same request again gives the same layaway.
 * @throws Problem 409 `not-available` where a piece is promised or sold already, 422 next to what is wrong
 */
export const makeLayaway = (
  house: House,
  person: Person,
  { terms, ...wanted }: WantedGoods & { terms: LayawayWanted },
  asked: Asked,
): Promise<MadePromise> =>
  promiseGoods(house, person, wanted, { asked, id: asked.key }, (sql, making) =>
    storeLayaway(sql, making, terms),
  );

/**
 * Sets the goods of a basket aside beside those that a layaway has, at the prices of today; the till goes on with an
 * empty basket. What they come to is due with the last part, or a month later where that is over.
 * @throws Problem 404, 409
 */
export const addToLayaway = (
  house: House,
  person: Person,
  id: string,
  wanted: WantedGoods,
  asked: Asked,
): Promise<MadePromise> => promiseGoods(house, person, wanted, { asked, id }, storeMore);

async function storeLayaway(sql: Writer, making: Making, terms: LayawayWanted): Promise<MadePromise> {
  const { id, basket, ready, person, at } = making;
  const { facts, priced } = ready;
  const { rules, ...items } = await store.layawaySetup(sql);
  const today = businessDate(at, facts.timezone);
  const { coming, note, ...plan } = terms;
  const [wrong] = Object.entries(termsProblems(plan, { total: priced.total, rules, today }));
  if (wrong) throw fieldProblem(`terms.${wrong[0]}`, wrong[1]);
  if (!coming) await checkAvailable(sql, ready.lines, ready);
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
    exemption: basket.exemption,
    words: wordsOf([basket.customer?.name, goodsWords(ready)].join(' ')),
  });
  const number = promiseNumber('layaway', count);
  await store.addEvent(sql, id, { at, staffId: person.staffId, what: 'Set aside', words: note });
  const deposit =
    terms.deposit > 0 ? [moneyLine({ id, number, ...items }, 'deposit', terms.deposit, newId)] : [];
  return { id, number, stored: await goOnWith(sql, making, 'layaway', deposit) };
}

async function storeMore(sql: Writer, making: Making): Promise<MadePromise> {
  const { id, basket, ready, person, at } = making;
  await takeLocks(sql, { promises: [id] });
  const promise = await store.findPromise(sql, id);
  if (!promise) throw new Problem('no-promise', 'There is no such layaway.');
  const { state, coming } = waitingFacts(promise);
  const problem = addProblem(
    { ...promise, state },
    { customerId: basket.customer?.id, placeId: ready.facts.placeId, exemption: basket.exemption },
  );
  if (problem) throw fieldProblem('basket', problem);
  if (!coming) await checkAvailable(sql, ready.lines, ready);
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
  return { id, number, stored: await goOnWith(sql, making, 'layaway', []) };
}
