import { formatDay } from '../../core/locale.ts';
import { v4 as newId } from 'uuid';
import { partnerOrderSchema, type PartnerOrder } from '../../contract/relay.ts';
import type { PromiseView } from '../../contract/promises.ts';
import type { Person } from '../../contract/staff.ts';
import { ValidationError } from '../../contract/yup.ts';
import { linesAtPrices } from '../../core/counter/orderBasket.ts';
import { ratesOn } from '../../core/pricing/taxRates.ts';
import { cancelThereProblem } from '../../core/promises/channel.ts';
import type { OrderPlace } from '../../core/promises/order.ts';
import { orderLines } from '../../core/promises/orderLines.ts';
import { restOf, type PromiseLine } from '../../core/promises/promised.ts';
import type { Partner } from '../../core/promises/relay.ts';
import { ONE } from '../../core/quantity.ts';
import { wordsOf } from '../../core/words.ts';
import type { HubIncoming, HubMessage } from '../../devices/relayHub/driver.ts';
import { businessDate } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { newRecord } from '../people/service.ts';
import { isBeingPaid, moveThere } from '../promises/channelStore.ts';
import * as goods from '../promises/goodsStore.ts';
import { moneyItem, orderPlaces, orderSetup } from '../promises/orderStore.ts';
import * as asked from '../promises/partnerOrderStore.ts';
import { addHeard, listPartners } from '../promises/relayStore.ts';
import * as store from '../promises/store.ts';
import { readShop, taxRates, type ShopRow } from '../shop/store.ts';
import { endPromise, lockPromise, promiseView, refuse } from './promises.ts';

/**
 * Takes an order in that a partner passes to the shop, once however often it comes: it waits for an answer, and is an
 * alert on every till. @returns why it cannot be taken at all, in words for the partner
 */
export async function takePartnerOrder(sql: Writer, order: HubIncoming, at: Date): Promise<string | null> {
  if (await asked.partnerOrderOf(sql, order.reference)) return null;
  const wanted = checked(order);
  if (typeof wanted === 'string') return wanted;
  const partner = (await listPartners(sql)).find(({ code, active }) => active && code === wanted.partner);
  if (!partner) return `${wanted.partner} is no partner of this shop.`;
  const shop = await readShop(sql);
  const places = await orderPlaces(sql);
  const place = places.find(({ kind }) => kind === 'shop');
  if (shop.openItemId === null || !place) return 'The shop sells nothing unlisted.';
  if (wanted.day < businessDate(at, shop.timezone)) return 'That day is over here.';
  const line = await lineOf(sql, wanted, shop, place, at);
  const id = newId();
  const { reference, number, day, recipient, street, postcode, city, phone, wishes, card } = wanted;
  const total = restOf(line);
  await goods.addPromise(sql, {
    id,
    basketId: id,
    kind: 'order',
    customerId: await customerOf(sql, partner, at),
    placeId: place.id,
    tillId: null,
    staffId: null,
    partnerId: partner.id,
    at,
    taxMode: shop.taxMode,
    total,
    fee: 0,
    note: '',
    coming: false,
    plan: [],
    // Nothing of it leaves before it is accepted: from then on the partner owes all of it.
    firstPayment: total,
    lines: [{ ...line, position: 1, stocked: false }],
    words: [
      number.toLowerCase(),
      ...wordsOf([partner.name, recipient, postcode, city, wanted.goods].join(' ')),
    ],
    handover: {
      collect: null,
      ship: {
        recipient,
        street,
        postcode,
        city,
        phone,
        wishes,
        gift: true,
        zone: '',
        weight: (await orderSetup(sql)).rules.usualWeight,
      },
    },
  });
  await asked.addPartnerOrder(sql, {
    promiseId: id,
    partnerId: partner.id,
    reference,
    number,
    day,
    goods: wanted.goods,
    card,
  });
  await goods.sumPromise(sql, id);
  const words = `${wanted.goods}, for ${formatDay(day, shop.receiptLocale)}`.slice(0, 200);
  await store.addEvent(sql, id, { at, staffId: null, what: 'Asked', words });
  await addHeard(sql, { hubId: `order ${reference}`, orderId: id, kind: 'order', words, at });
  return null;
}

/** A partner becomes a customer with its first order. */
async function customerOf(sql: Writer, { id, name, phone }: Partner, at: Date): Promise<number> {
  const known = await asked.partnerCustomer(sql, id);
  if (known !== null) return known;
  const none = { mail: '', birthMonth: null, birthDay: null };
  const made = { ...none, name, company: name, phone, note: 'Passes orders on to us' };
  const customerId = await newRecord(sql, made, { staffId: null, at });
  await asked.putPartnerCustomer(sql, id, customerId);
  return customerId;
}

/** @returns what is wrong, in words, where the hub brings something else than an order */
function checked(order: HubIncoming): PartnerOrder | string {
  try {
    return partnerOrderSchema.validateSync(order, { stripUnknown: true });
  } catch (error) {
    if (error instanceof ValidationError) return error.message;
    throw error;
  }
}

/** What is wanted in words, at what the partner pays for it, brought by the shop. */
async function lineOf(
  sql: Reader,
  { goods: wanted, recipient, part }: PartnerOrder,
  shop: ShopRow,
  place: Pick<OrderPlace, 'id' | 'name'>,
  at: Date,
): Promise<PromiseLine> {
  const item = await moneyItem(sql, shop.openItemId ?? 0);
  const name = `For ${recipient}: ${wanted}`.slice(0, 120);
  const [line] = linesAtPrices(
    [{ ...item, name, decimals: 0, quantity: ONE, unitPrice: part }],
    {},
    { rates: ratesOn(await taxRates(sql), businessDate(at, shop.timezone)), rules: shop },
  );
  if (!line) throw new Error('a line was not priced');
  const from = { here: place.id, collectAt: null, nameOf: () => place.name };
  const shipped = { way: 'ship' as const, parts: [{ placeId: place.id, quantity: ONE }], missing: 0 };
  const [ordered] = orderLines({ ...line, position: 1, order: null }, shipped, from, false);
  if (!ordered) throw new Error('a line went nowhere');
  return ordered;
}

/** @throws Problem 404, 409 where no partner waits for an answer */
async function lockAsked(sql: Writer, id: string): Promise<store.PromiseRowFacts> {
  const promise = await lockPromise(sql, id);
  refuse(promise.state === 'asked' ? null : 'It was answered already, or taken back.');
  return promise;
}

/**
 * Accepts what a partner asks for: it is an order of the shop from then on, and the partner owes what was agreed.
 * @throws Problem 404, 409 where it was answered already, or taken back
 */
export async function acceptPartnerOrder(
  sql: Writer,
  { staffId }: Person,
  id: string,
  words: string,
  at: Date,
): Promise<PromiseView> {
  const { total, placedAt } = await lockAsked(sql, id);
  await asked.markAccepted(sql, id, at);
  await store.addEvent(sql, id, { at, staffId, what: 'Accepted', words: words.slice(0, 200) });
  await moveThere(sql, id, total, placedAt?.reference ?? '', at);
  await asked.tellPartner(sql, { promiseId: id, kind: 'accepted', words, staffId, at });
  await asked.closeAsking(sql, id, { staffId, at });
  return promiseView(sql, id, at);
}

/** Says something to the partner who has passed an order on. @throws Problem 404 */
export async function answerPartner(
  sql: Writer,
  { staffId }: Person,
  id: string,
  words: string,
  at: Date,
): Promise<PromiseView> {
  const { fromPartner } = await lockPromise(sql, id);
  if (!fromPartner) throw new Problem('no-promise', 'No partner has passed that on.');
  await asked.tellPartner(sql, { promiseId: id, kind: 'reply', words, staffId, at });
  return promiseView(sql, id, at);
}

/**
 * Takes in what a partner says of an order that it has passed on, once however often it comes. Taken back, it is
 * cancelled while nothing of it has left; the partner is told where that is too late.
 */
export async function hearOfOrder(
  sql: Writer,
  promiseId: string,
  { id: hubId, kind, words }: HubMessage,
  at: Date,
): Promise<void> {
  const promise = await lockPromise(sql, promiseId);
  if (!(await addHeard(sql, { hubId, orderId: promiseId, kind, words, at }))) return;
  const what = kind === 'withdrawn' ? 'Taken back' : 'Partner';
  await store.addEvent(sql, promiseId, { at, staffId: null, what, words: words.slice(0, 200) });
  if (kind !== 'withdrawn' || promise.cancelledAt !== null) return;
  const lines = await store.promiseLines(sql, promiseId);
  const late = cancelThereProblem({ ...promise, lines, beingPaid: await isBeingPaid(sql, promiseId) });
  if (late)
    await asked.tellPartner(sql, { promiseId, kind: 'reply', words: `Too late: ${late}`, staffId: null, at });
  else await endPromise(sql, promise, { at, staffId: null, reason: `by ${promise.placedAt?.name ?? ''}` });
}
