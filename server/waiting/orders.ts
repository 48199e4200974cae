import { formatTimeOfDay } from '../../core/timeOfDay.ts';
import { formatDay } from '../../core/locale.ts';
import { v4 as newId } from 'uuid';
import type { HandoverChange, OrderFacts, OrderWanted } from '../../contract/orders.ts';
import type { PromiseView } from '../../contract/promises.ts';
import type { Person } from '../../contract/staff.ts';
import type { BasketLine } from '../../core/counter/basket.ts';
import { shippingLine } from '../../core/counter/orderBasket.ts';
import { goodsLines, moneyLine } from '../../core/counter/promiseBasket.ts';
import { sum } from '../../core/money.ts';
import { ratesOn } from '../../core/pricing/taxRates.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { overProblem } from '../../core/promises/may.ts';
import { collectProblem } from '../../core/promises/collecting.ts';
import {
  orderDeposit,
  orderDepositProblem,
  type OrderPlace,
  type OrderRules,
} from '../../core/promises/order.ts';
import { orderLines, wayProblem, type OrderPlaces } from '../../core/promises/orderLines.ts';
import { restOf, type PromiseLine } from '../../core/promises/promised.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { shipFee, weightOf } from '../../core/promises/shipping.ts';
import { wordsOf } from '../../core/words.ts';
import { businessDate, timeOfDay } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { changedMeanwhile, fieldProblem } from '../http/problem.ts';
import type { Asked } from '../http/write.ts';
import * as goods from '../promises/goodsStore.ts';
import * as orders from '../promises/orderStore.ts';
import * as store from '../promises/store.ts';
import { readShop } from '../shop/store.ts';
import { checkAvailable, promiseLines } from './promisedGoods.ts';
import { lockPromise, promiseView, refuse } from './promises.ts';
import {
  goodsWords,
  goOnWith,
  promiseGoods,
  type MadePromise,
  type Making,
  type WantedGoods,
} from './promising.ts';

/** What a till needs to place an order of some items. */
export async function orderFacts(sql: Reader, itemIds: readonly number[]): Promise<OrderFacts> {
  const { rules, shippingItem } = await orders.orderSetup(sql);
  return {
    rules,
    shippingItem,
    places: await orders.orderPlaces(sql),
    stock: await orders.stockForOrder(sql, itemIds),
  };
}

/**
 * Places an order of the goods of a basket, at the prices of today: what is taken along and what is paid at once
 * stand in the basket with which the till goes on. The same request again gives the same order.
 * @throws Problem 409 `not-available` where a piece is promised or sold already, 422 next to what is wrong
 */
export const placeOrder = (
  house: House,
  person: Person,
  { terms, ...wanted }: WantedGoods & { terms: OrderWanted },
  asked: Asked,
): Promise<MadePromise> =>
  promiseGoods(house, person, wanted, { asked, id: asked.key }, (sql, making) =>
    storeOrder(sql, making, terms),
  );

/** What an order is made of, checked. */
interface Placing {
  making: Making;
  terms: OrderWanted;
  facts: OrderFacts;
  places: OrderPlaces;
}

async function storeOrder(sql: Writer, making: Making, terms: OrderWanted): Promise<MadePromise> {
  const { id, basket, ready, person, at } = making;
  const facts = await orderFacts(
    sql,
    ready.lines.map(({ itemId }) => itemId),
  );
  const places: OrderPlaces = {
    here: ready.facts.placeId,
    collectAt: terms.collect?.placeId ?? null,
    nameOf: (placeId) => placeOf(facts.places, placeId).name,
  };
  const placing = { making, terms, facts, places };
  checkCollect(terms.collect, facts, at, ready.facts.timezone);
  const lines = linesOf(placing);
  const ship = shippingOf(placing, lines);
  const waiting = sum(lines.filter(({ order }) => order?.way !== 'take').map(restOf));
  const least = orderDeposit(facts.rules, waiting);
  const { digits } = currencyOf(ready.facts.currency);
  const unpaid = orderDepositProblem(terms.deposit, { least, waiting }, digits);
  if (unpaid) throw fieldProblem('deposit', unpaid);
  await checkAvailable(
    sql,
    lines
      .map((line) => ({
        ...line,
        quantity: line.quantity - (line.order?.short ?? 0),
        placeId: line.order?.placeId ?? places.here,
      }))
      // What the customer holds in their hands is there, whatever the figures say.
      .filter(({ quantity, order, serial }) => quantity > 0 && (order?.way !== 'take' || serial !== null)),
    ready,
  );
  const count = await goods.addPromise(sql, {
    id,
    basketId: basket.id,
    kind: 'order',
    customerId: basket.customer?.id ?? 0,
    placeId: terms.collect?.placeId ?? places.here,
    tillId: person.tillId,
    staffId: person.staffId,
    at,
    taxMode: ready.priced.taxMode,
    total: sum(lines.map(restOf)),
    fee: 0,
    exemption: basket.exemption,
    note: terms.note,
    coming: false,
    plan: [],
    firstPayment: least,
    lines,
    words: wordsOf(
      [basket.customer?.name, terms.ship?.recipient, terms.ship?.postcode, goodsWords(ready)].join(' '),
    ),
    handover: { collect: terms.collect, ship },
  });
  const number = promiseNumber('order', count);
  await store.addEvent(sql, id, { at, staffId: person.staffId, what: 'Placed', words: terms.note });
  return {
    id,
    number,
    stored: await goOnWith(sql, making, 'order', await nextBasket(sql, { id, number, lines, terms })),
  };
}

/** What the till goes on with: what is taken along, and what is paid for the rest. */
async function nextBasket(
  sql: Reader,
  { id, number, lines, terms }: { id: string; number: string; lines: PromiseLine[]; terms: OrderWanted },
): Promise<BasketLine[]> {
  const items = await store.layawaySetup(sql);
  const taken = new Map(
    lines.flatMap(({ position, quantity, order }) => (order?.way === 'take' ? [[position, quantity]] : [])),
  );
  const promise = { id, number, held: 0, heldThere: 0, lines, ...items };
  return [
    ...goodsLines(promise, taken, newId),
    ...(terms.deposit > 0 ? [moneyLine(promise, 'deposit', terms.deposit, newId)] : []),
  ];
}

const placeOf = (places: readonly OrderPlace[], placeId: number): OrderPlace => {
  const found = places.find(({ id }) => id === placeId);
  if (!found) throw fieldProblem('collect.placeId', 'There is no such place.');
  return found;
};

/** Goods are collected at a shop while it is open, and not before they can be there. @throws Problem 422 */
export function checkCollect(
  collect: OrderWanted['collect'],
  { places, rules }: { places: readonly OrderPlace[]; rules: OrderRules },
  at: Date,
  timezone: string,
): void {
  if (!collect) return;
  const now = { day: businessDate(at, timezone), time: timeOfDay(at, timezone) };
  const { kind, name, hours } = placeOf(places, collect.placeId);
  if (kind !== 'shop')
    throw fieldProblem('collect.placeId', `${name} is no shop: nobody hands goods over there.`);
  const problem = collectProblem(collect, { hours, leadMinutes: rules.leadMinutes, now });
  if (problem) throw fieldProblem('collect.time', problem);
}

/** The lines of the basket by the ways and places that were chosen, and the fee of shipping. @throws Problem 422 */
function linesOf({ making, terms, facts, places }: Placing): (PromiseLine & { stocked: boolean })[] {
  const { ready, basket } = making;
  const lines = promiseLines(ready).flatMap((line, at): (PromiseLine & { stocked: boolean })[] => {
    const id = ready.lines[at]?.id;
    const chosen = terms.lines.find(({ lineId }) => lineId === id);
    if (!chosen) throw fieldProblem('lines', `Say how ${line.name} gets to the customer.`);
    const problem = line.stocked ? wayProblem(line, chosen, places) : null;
    if (problem) throw fieldProblem('lines', problem);
    return orderLines(line, chosen, places, line.stocked).map((one) => ({ ...one, stocked: line.stocked }));
  });
  const has = (way: string) => lines.some(({ order }) => order?.way === way);
  if (!has('collect') && !has('ship'))
    throw fieldProblem('lines', 'Everything is taken along: take the payment for it.');
  if (has('collect') !== (terms.collect !== null))
    throw fieldProblem('collect.placeId', 'Say where and when goods are collected.');
  if (has('ship') !== (terms.ship !== null)) throw fieldProblem('ship.recipient', 'Who gets the parcel?');
  if (terms.ship && terms.fee > 0) {
    const { rates, taxMode, taxRounding, timezone } = ready.facts;
    const day = businessDate(making.at, timezone);
    const fee = shippingLine(terms.fee, basket, {
      item: facts.shippingItem,
      rates: ratesOn(rates, day),
      rules: { taxMode, taxRounding },
    });
    const from = lines.find(({ order }) => order?.way === 'ship')?.order?.placeId ?? places.here;
    const order = {
      way: 'ship' as const,
      placeId: from,
      place: '',
      picked: fee.quantity,
      short: 0,
      sent: false,
    };
    lines.push({ ...fee, position: 0, order, stocked: false });
  }
  return lines.map((line, at) => ({ ...line, position: at + 1 }));
}

/** Where the parcel goes, and what it weighs; its fee is the one of today. @throws Problem 422 */
function shippingOf(
  { terms, facts }: Placing,
  lines: readonly PromiseLine[],
): (NonNullable<OrderWanted['ship']> & { zone: string; weight: number }) | null {
  const { ship, fee } = terms;
  if (!ship) return null;
  const weights = new Map(facts.stock.map(({ itemId, weight }) => [itemId, weight]));
  const weight = weightOf(
    lines
      .filter(({ order, itemId }) => order?.way === 'ship' && itemId !== facts.shippingItem.itemId)
      .map(({ itemId, quantity }) => ({ quantity, weight: weights.get(itemId) ?? null })),
    facts.rules.usualWeight,
  );
  const found = shipFee(facts.rules.zones, ship.postcode, weight);
  if (typeof found === 'string') throw fieldProblem('ship.postcode', found);
  if (found.fee !== fee) throw fieldProblem('fee', 'The fee of shipping has changed. Look at it again.');
  return { ...ship, zone: found.zone, weight };
}

/** Changes where and when an order is collected, or where it is shipped. @throws Problem 404, 409, 422 */
export async function changeHandover(
  sql: Writer,
  { staffId }: Person,
  id: string,
  { collect, ship, version }: HandoverChange,
  at: Date,
): Promise<PromiseView> {
  const promise = await lockPromise(sql, id);
  refuse(overProblem(promise));
  if ((await orders.handoverVersion(sql, id)) !== version)
    throw changedMeanwhile('Where, when or to whom was changed meanwhile. Nothing was done.');
  if ((promise.collect === null) !== (collect === null) || (promise.ship === null) !== (ship === null))
    throw fieldProblem(
      'whole',
      'How goods get to the customer stays: cancel the order, and place another one.',
    );
  const { timezone } = await readShop(sql);
  const facts = { ...(await orders.orderSetup(sql)), places: await orders.orderPlaces(sql) };
  if (collect && collect.placeId !== promise.collect?.placeId)
    throw fieldProblem('collect.placeId', `The goods go to ${promise.collect?.place ?? ''}.`);
  const moved = collect?.day !== promise.collect?.day || collect?.time !== promise.collect?.time;
  if (moved) checkCollect(collect, facts, at, timezone);
  if (ship && promise.ship) {
    const found = shipFee(facts.rules.zones, ship.postcode, promise.ship.weight);
    if (typeof found === 'string') throw fieldProblem('ship.postcode', found);
    if (found.zone !== promise.ship.zone)
      throw fieldProblem('ship.postcode', `That is in ${found.zone}; the fee was for ${promise.ship.zone}.`);
  }
  await orders.putHandover(sql, id, {
    collect,
    ship: ship && promise.ship && { ...ship, zone: promise.ship.zone, weight: promise.ship.weight },
  });
  await goods.sumPromise(sql, id);
  const words = [collect && `${formatDay(collect.day)}, ${formatTimeOfDay(collect.time)}`, ship?.recipient]
    .filter(Boolean)
    .join(', ');
  await store.addEvent(sql, id, { at, staffId, what: 'Handover changed', words });
  return promiseView(sql, id, at);
}
