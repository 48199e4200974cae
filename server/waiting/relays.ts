import { formatDay } from '../../core/locale.ts';
import { v4 as newId } from 'uuid';
import type { PartnerAtTill, RelayAgain, RelayWanted } from '../../contract/relay.ts';
import type { PromiseView } from '../../contract/promises.ts';
import type { Person } from '../../contract/staff.ts';
import { moneyLine } from '../../core/counter/promiseBasket.ts';
import { partnerPartEntries } from '../../core/books/entries.ts';
import { ratesOn } from '../../core/pricing/taxRates.ts';
import { overProblem } from '../../core/promises/may.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import {
  areaProblem,
  partProblem,
  relayDayProblem,
  relayStep,
  RELAY_SAYINGS,
  resendProblem,
  type Partner,
} from '../../core/promises/relay.ts';
import type { HubMessage } from '../../devices/relayHub/driver.ts';
import { businessDate, timeOfDay } from '../clock.ts';
import { basketOf } from '../counter/store.ts';
import type { Reader, Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { noteAsked, type Asked } from '../http/write.ts';
import { postEvent } from '../books/store.ts';
import { customerPanel } from '../people/store.ts';
import * as goods from '../promises/goodsStore.ts';
import { newRelay } from '../promises/newRelay.ts';
import { partnerOrderOf } from '../promises/partnerOrderStore.ts';
import { moneyItem } from '../promises/orderStore.ts';
import * as relays from '../promises/relayStore.ts';
import * as store from '../promises/store.ts';
import { readShop, readTill, taxRates } from '../shop/store.ts';
import { moneyHeld } from '../tenders/store.ts';
import { hearOfOrder } from './partnerOrders.ts';
import { lockPromise, promiseView, refuse } from './promises.ts';
import { goOnWith, madeBefore, type MadePromise } from './promising.ts';

const clockOf = (at: Date, { timezone }: Pick<Partner, 'timezone'>) => ({
  day: businessDate(at, timezone),
  time: timeOfDay(at, timezone),
});

/** Partners, with what their clocks show: a till says before sending what is too late. */
export async function partnersAtTill(sql: Reader, at: Date): Promise<PartnerAtTill[]> {
  return (await relays.listPartners(sql)).map((one) => ({ ...one, now: clockOf(at, one) }));
}

/** @throws Problem 422 next to what the partner does not do */
async function checkSending(
  sql: Reader,
  { partnerId, day, part }: RelayAgain,
  { postcode, price, at }: { postcode: string; price: number; at: Date },
): Promise<Partner> {
  const partner = await relays.findPartner(sql, partnerId);
  if (!partner) throw fieldProblem('partnerId', 'There is no such partner.');
  const where = areaProblem(partner, postcode);
  if (where) throw fieldProblem('partnerId', where);
  const when = relayDayProblem(partner, day, clockOf(at, partner));
  if (when) throw fieldProblem('day', when);
  const share = partProblem(part, price);
  if (share) throw fieldProblem('part', share);
  return partner;
}

/**
 * Takes an order that a partner is to carry out; the till goes on with a basket that has what it comes to. It goes
 * out by itself once that is paid. The same request again gives the same relay.
 * @throws Problem 409 where something is in the basket, 422 next to what is wrong
 */
export async function placeRelay(
  house: House,
  person: Person,
  { customerId, terms }: { customerId: number; terms: RelayWanted },
  asked: Asked,
): Promise<MadePromise> {
  const at = house.clock.now();
  const id = asked.key;
  const made = await house.database.write(async (sql) => {
    if (!(await noteAsked(sql, asked, at))) return null;
    return storeRelay(sql, person, { id, customerId, terms, at });
  });
  if (!made) return madeBefore(house, person, id);
  house.printing.wake();
  house.events.tell({ kind: 'promises-changed' });
  house.events.tell({
    kind: 'basket-changed',
    tillId: person.tillId,
    revision: made.stored?.revision ?? 0,
  });
  return made;
}

async function storeRelay(
  sql: Writer,
  person: Person,
  { id, customerId, terms, at }: { id: string; customerId: number; terms: RelayWanted; at: Date },
): Promise<MadePromise> {
  const { tillId, staffId } = person;
  await takeLocks(sql, { tills: [tillId] });
  const basket = await basketOf(sql, tillId);
  if ((basket?.basket.lines.length ?? 0) > 0 || (await moneyHeld(sql, tillId, null)))
    throw new Problem('basket-not-empty', 'Finish the basket first, or put it on hold.');
  const customer = await customerPanel(sql, customerId, 0);
  if (!customer) throw fieldProblem('customerId', 'Whose order is it? Put the customer on with F4.');
  const shop = await readShop(sql);
  const partner = await checkSending(sql, terms, { postcode: terms.postcode, price: terms.price, at });
  if (shop.openItemId === null) throw fieldProblem('goods', 'The shop sells nothing unlisted.');
  const { placeId } = await readTill(sql, tillId);
  const promise = newRelay(terms, {
    id,
    basketId: id,
    customerId,
    customer: customer.name,
    partner: partner.name,
    placeId,
    tillId,
    staffId,
    at,
    item: await moneyItem(sql, shop.openItemId),
    rates: ratesOn(await taxRates(sql), businessDate(at, shop.timezone)),
    rules: shop,
  });
  const count = await goods.addPromise(sql, promise);
  const number = promiseNumber('relay', count);
  await relays.addRelay(sql, id, terms);
  await relays.addTry(sql, { id: newId(), promiseId: id, ...terms, staffId, at });
  await goods.sumPromise(sql, id);
  await store.addEvent(sql, id, { at, staffId, what: 'Taken', words: `for ${partner.name}, ${terms.day}` });
  const items = await store.layawaySetup(sql);
  const deposit = moneyLine({ id, number, ...items }, 'deposit', promise.total, newId);
  const going = { id, basket: { customer: { id: customer.id, name: customer.name } }, person, at };
  return { id, number, stored: await goOnWith(sql, going, 'relay', [deposit]) };
}

/** Sends a relay again, on another day or to another partner: what was typed stays. @throws Problem 404, 409, 422 */
export async function sendAgain(
  sql: Writer,
  { staffId }: Person,
  id: string,
  wanted: RelayAgain,
  at: Date,
): Promise<PromiseView> {
  const promise = await lockPromise(sql, id);
  refuse(overProblem(promise));
  const relay = await relays.relayOf(sql, id);
  if (!relay) throw new Problem('no-promise', 'There is no such relay.');
  refuse(resendProblem(relay.state));
  const [line] = await store.promiseLines(sql, id);
  const partner = await checkSending(sql, wanted, { postcode: relay.postcode, price: line?.net ?? 0, at });
  await relays.addTry(sql, { id: newId(), promiseId: id, ...wanted, staffId, at });
  await goods.sumPromise(sql, id);
  await store.addEvent(sql, id, {
    at,
    staffId,
    what: 'Sent again',
    words: `to ${partner.name}, ${formatDay(wanted.day)}`,
  });
  return promiseView(sql, id, at);
}

/** Says something to the partner who was asked last. @throws Problem 404, 409 where nobody was */
export async function replyToPartner(
  sql: Writer,
  { staffId }: Person,
  id: string,
  words: string,
  at: Date,
): Promise<PromiseView> {
  await lockPromise(sql, id);
  const [last] = (await relays.relayOf(sql, id))?.tries ?? [];
  if (!last || last.state === 'waiting')
    throw new Problem('promise-changed', 'The partner has not got it yet.');
  await relays.addReply(sql, { tryId: last.id, words, staffId, at });
  return promiseView(sql, id, at);
}

/**
 * Takes in what a partner has said, once however often it comes: it is kept as it came, and is an alert on every
 * till.
 */
export async function hearPartner(sql: Writer, message: HubMessage, at: Date): Promise<void> {
  const { id, reference, kind, words } = message;
  const order = await partnerOrderOf(sql, reference);
  if (order) return hearOfOrder(sql, order, message, at);
  const known = await relays.findTry(sql, reference);
  // What is about nothing that was ever sent from here is nobody's.
  if (!known) return;
  await takeLocks(sql, { promises: [known.promiseId] });
  const now = await relays.findTry(sql, reference);
  if (!now) return;
  if (!(await relays.addHeard(sql, { hubId: id, tryId: now.id, kind, words, at }))) return;
  const state = relayStep(now.state, kind);
  const said = {
    at,
    staffId: null,
    what: `Partner: ${RELAY_SAYINGS[kind].toLowerCase()}`,
    words: words.slice(0, 200),
  };
  await store.addEvent(sql, now.promiseId, said);
  if (!state) return;
  await relays.putRelayState(sql, now.id, state, at);
  if (state === 'delivered' && now.part > 0) {
    const entries = partnerPartEntries({ partnerId: now.partnerId, part: now.part });
    await postEvent(sql, { kind: 'relay-delivered', at, entries });
  }
}
