import { createHash } from 'node:crypto';
import { v4 as newId } from 'uuid';
import type { ChannelOrder, ChannelPayment, ChannelState } from '../../contract/channels.ts';
import { formatMoney, sum } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { cancelThereProblem, payThereProblem } from '../../core/promises/channel.ts';
import { orderDeposit, type OrderPlace } from '../../core/promises/order.ts';
import { orderLines } from '../../core/promises/orderLines.ts';
import { restOf, type PromiseLine } from '../../core/promises/promised.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { suggestSources } from '../../core/promises/sources.ts';
import { isOpen, promiseState, PROMISE_STATES } from '../../core/promises/state.ts';
import { wordsOf } from '../../core/words.ts';
import type { Reader, Writer } from '../db/database.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { customerAt, newRecord } from '../people/service.ts';
import * as channels from '../promises/channelStore.ts';
import type { Channel } from '../promises/channelStore.ts';
import * as goods from '../promises/goodsStore.ts';
import * as orders from '../promises/orderStore.ts';
import * as store from '../promises/store.ts';
import { readShop } from '../shop/store.ts';
import { linesOfOrder, orderedItems, shippingTo } from './channelGoods.ts';
import { checkCollect } from './orders.ts';
import { endPromise, lockPromise, refuse } from './promises.ts';

/** How an order stands, as its channel is told. */
export function stateOf(
  row: store.PromiseRowFacts,
  givenBack: number,
  state = promiseState(row),
): ChannelState {
  return {
    reference: row.placedAt?.reference ?? '',
    number: promiseNumber(row.kind, row.count),
    state,
    words: PROMISE_STATES[state],
    open: isOpen(state) ? Math.max(0, row.rest - row.held) : 0,
    givenBack,
  };
}

/** How an order stands that a channel has sent. @throws Problem 404 where it has not */
export async function channelOrderState(
  sql: Reader,
  channel: Pick<Channel, 'id'>,
  reference: string,
): Promise<ChannelState> {
  const row = await store.findPromise(sql, await promiseOf(sql, channel, reference));
  if (!row) throw noOrder();
  return stateOf(row, await channels.givenBackThere(sql, row.id));
}

const noOrder = (): Problem => new Problem('no-promise', 'There is no such order.');

async function promiseOf(sql: Reader, { id }: Pick<Channel, 'id'>, reference: string): Promise<string> {
  const known = await channels.channelOrder(sql, reference);
  if (known?.channelId !== id) throw noOrder();
  return known.promiseId;
}

/**
 * Takes an order in that was placed elsewhere, once however often it is sent: the same again gets the same answer.
 * @throws Problem 409 where another order was sent under its number, 422 next to what is wrong
 */
export async function takeChannelOrder(
  sql: Writer,
  channel: Channel,
  order: ChannelOrder,
  at: Date,
): Promise<ChannelState> {
  const { reference } = order;
  await channels.lockChannel(sql, channel.id);
  const requestHash = createHash('sha256').update(JSON.stringify(order)).digest('hex');
  const known = await channels.channelOrder(sql, reference);
  if (known?.channelId === channel.id && known.requestHash === requestHash)
    return channelOrderState(sql, channel, reference);
  if (known) throw new Problem('changed-meanwhile', `Another order was sent as ${reference}.`);
  if (!reference.startsWith(`${channel.prefix}-`))
    throw fieldProblem('reference', `Its number begins with ${channel.prefix}-.`);
  const placed = await placeChannelOrder(sql, channel, order, at);
  await channels.addChannelOrder(sql, { promiseId: placed, channelId: channel.id, reference, requestHash });
  await store.addEvent(sql, placed, { at, staffId: null, what: 'Placed', words: order.note });
  if (order.trouble)
    await store.addEvent(sql, placed, { at, staffId: null, what: 'Not paid there', words: order.trouble });
  if (order.payment) await channels.moveThere(sql, placed, order.payment.amount, order.payment.reference, at);
  return channelOrderState(sql, channel, reference);
}

/** @returns the id of the order */
async function placeChannelOrder(
  sql: Writer,
  channel: Channel,
  order: ChannelOrder,
  at: Date,
): Promise<string> {
  const { collect, ship, payment } = order;
  if ((collect === null) === (ship === null))
    throw fieldProblem('collect', 'It is either collected or shipped.');
  const shop = await readShop(sql);
  const { rules } = await orders.orderSetup(sql);
  const places = await orders.orderPlaces(sql);
  checkCollect(collect, { places, rules }, at, shop.timezone);
  const wanted = await orderedItems(sql, order.lines);
  const shipping = ship ? await shippingTo(sql, ship.postcode, wanted) : null;
  const priced = await linesOfOrder(sql, wanted, order.fee, at);
  const total = sum(priced.map(restOf));
  const { digits } = currencyOf(shop.currency);
  if (total !== order.total) {
    throw fieldProblem(
      'total',
      `It comes to ${formatMoney(total, digits)}, not ${formatMoney(order.total, digits)}.`,
    );
  }
  if (payment && payment.amount > total)
    throw fieldProblem('payment.amount', `It comes to ${formatMoney(total, digits)} only.`);

  const here = collect?.placeId ?? places.find(({ kind }) => kind === 'shop')?.id ?? 0;
  const lines = await sourcedLines(sql, priced, wanted, { places, here, collects: collect !== null });

  const { name, mail, phone } = order.customer;
  const customerId =
    (await customerAt(sql, { phone, mail })) ??
    (await newRecord(
      sql,
      { name, mail, phone, company: '', birthMonth: null, birthDay: null, note: '' },
      { staffId: null, at },
    ));
  const id = newId();
  await goods.addPromise(sql, {
    id,
    basketId: id,
    kind: 'order',
    customerId,
    placeId: here,
    tillId: null,
    staffId: null,
    channelId: channel.id,
    at,
    taxMode: shop.taxMode,
    total,
    fee: 0,
    note: order.note,
    coming: false,
    plan: [],
    firstPayment: orderDeposit(channel, total),
    lines: lines.map((line, nth) => ({ ...line, position: nth + 1 })),
    words: [
      order.reference.toLowerCase(),
      ...wordsOf(
        [
          name,
          channel.name,
          order.reference,
          ship?.recipient,
          ship?.postcode,
          ...wanted.flatMap(({ item }) => [item.name, item.number]),
        ].join(' '),
      ),
    ],
    handover: { collect, ship: ship && shipping && { ...ship, ...shipping } },
  });
  return id;
}

/** The lines of an order by the places that have the goods, the nearest to where they are collected first. */
async function sourcedLines(
  sql: Writer,
  priced: readonly Omit<PromiseLine, 'position' | 'order'>[],
  wanted: readonly { item: channels.ChannelItem }[],
  { places, here, collects }: { places: readonly OrderPlace[]; here: number; collects: boolean },
): Promise<(PromiseLine & { stocked: boolean })[]> {
  // Nobody takes the goods between looking and setting aside.
  const itemIds = wanted.map(({ item }) => item.itemId);
  await goods.lockAvailable(
    sql,
    itemIds.flatMap((itemId) => places.map(({ id: placeId }) => ({ itemId, placeId }))),
  );
  const stock = new Map((await orders.stockForOrder(sql, itemIds)).map((one) => [one.itemId, one.sources]));
  const from = {
    here,
    collectAt: collects ? here : null,
    nameOf: (placeId: number) => places.find(({ id }) => id === placeId)?.name ?? '',
  };
  const near = places.find(({ id }) => id === here)?.at ?? null;
  const way = collects ? 'collect' : 'ship';
  return priced.flatMap((line, nth): (PromiseLine & { stocked: boolean })[] => {
    const stocked = wanted[nth]?.item.stocked ?? false;
    const sources = stock.get(line.itemId) ?? [];
    const found = stocked
      ? suggestSources(line.quantity, sources, near)
      : { parts: [{ placeId: here, quantity: line.quantity }], missing: 0 };
    // The same item on another line finds what this one leaves.
    for (const { placeId, quantity } of found.parts) {
      const source = sources.find((one) => one.placeId === placeId);
      if (source) source.available -= quantity;
    }
    return orderLines({ ...line, position: 0, order: null }, { way, ...found }, from, stocked).map((one) => ({
      ...one,
      stocked,
    }));
  });
}

/**
 * Takes a payment in that a customer made where they ordered, once however often it is sent. @throws Problem 404,
 * 409, 422
 */
export async function takeChannelPayment(
  sql: Writer,
  channel: Channel,
  reference: string,
  payment: ChannelPayment,
  at: Date,
): Promise<ChannelState> {
  const id = await promiseOf(sql, channel, reference);
  const promise = await lockPromise(sql, id);
  const known = await channels.channelPayment(sql, id, payment.reference);
  if (known !== undefined && known !== payment.amount)
    throw new Problem('changed-meanwhile', `Another payment was sent as ${payment.reference}.`);
  if (known === undefined) {
    const beingPaid = await channels.isBeingPaid(sql, id);
    refuse(payThereProblem({ ...promise, beingPaid }, payment.amount));
    await channels.moveThere(sql, id, payment.amount, payment.reference, at);
  }
  return channelOrderState(sql, channel, reference);
}

/**
 * Cancels an order where it was placed: what was paid there goes back there. Cancelled twice is cancelled once.
 * @throws Problem 404, 409 where it is being handed over, or was
 */
export async function cancelChannelOrder(
  sql: Writer,
  channel: Channel,
  reference: string,
  at: Date,
): Promise<ChannelState> {
  const id = await promiseOf(sql, channel, reference);
  const promise = await lockPromise(sql, id);
  if (promise.cancelledAt === null) {
    const lines = await store.promiseLines(sql, id);
    refuse(cancelThereProblem({ ...promise, lines, beingPaid: await channels.isBeingPaid(sql, id) }));
    await endPromise(sql, promise, { at, staffId: null, reason: `at ${channel.name}` });
  }
  return channelOrderState(sql, channel, reference);
}
