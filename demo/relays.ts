import { DateTime } from 'luxon';
import { moneyLine } from '../core/counter/promiseBasket.ts';
import { ratesOn } from '../core/pricing/taxRates.ts';
import { promiseNumber } from '../core/promises/promiseNumber.ts';
import { dayLater } from '../core/day.ts';
import type { Writer } from '../server/db/database.ts';
import { newRelay } from '../server/promises/newRelay.ts';
import { moneyItem } from '../server/promises/orderStore.ts';
import * as relayStore from '../server/promises/relayStore.ts';
import { layawaySetup } from '../server/promises/store.ts';
import { readShop, taxRates } from '../server/shop/store.ts';
import { takePartnerOrder } from '../server/waiting/partnerOrders.ts';
import { CUSTOMERS } from './data/customers.ts';
import { PASSED_ON, PASSED_ON_DAYS, RELAYS, type DemoRelay } from './data/relays.ts';
import type { PastShift } from './history.ts';
import { openPast, type Laid, type PastPromises } from './pastPromises.ts';

/** Puts the payments of what is passed on into the last shift of the past. */
export async function relaysInPast(
  sql: Writer,
  past: readonly PastShift[],
  house: { customers: readonly number[]; places: readonly number[]; staffId: number },
): Promise<PastPromises> {
  const shop = await readShop(sql);
  const items = await layawaySetup(sql);
  const till = await openPast(sql, past, 'relay', []);
  const { shifts, mine, dayOf, ids } = till;
  const last = mine.at(-1);
  if (!last || shop.openItemId === null) return { shifts, laid: [] };
  const item = await moneyItem(sql, shop.openItemId);
  const rates = ratesOn(await taxRates(sql), dayOf(last));
  const laid: Laid[] = [];
  for (const [nth, wanted] of RELAYS.entries()) {
    const customer = CUSTOMERS.findIndex(({ name }) => name === wanted.customer);
    if (customer < 0) continue;
    const id = till.idOf(String(nth));
    const at = DateTime.fromJSDate(last.openedAt)
      .plus({ minutes: 130 + 5 * nth })
      .toJSDate();
    const made = newRelay(wanted, {
      id,
      basketId: till.idOf(`basket ${nth}`),
      customerId: house.customers[customer] ?? 0,
      customer: wanted.customer,
      partner: '',
      placeId: house.places[0] ?? 0,
      tillId: till.tillId,
      staffId: house.staffId,
      at,
      item,
      rates,
      rules: shop,
    });
    const atTill = { id, number: promiseNumber('relay', nth + 1), ...items };
    till.ring(last, 132 + 5 * nth, customer, [moneyLine(atTill, 'deposit', made.total, ids)]);
    laid.push({
      made,
      steps: [{ at, what: 'Taken', words: `for ${wanted.recipient}` }],
      told: null,
      arrived: null,
      cancelled: null,
    });
  }
  return { shifts, laid };
}

/**
 * To whom it was passed on, and what was said: one waits to go out, one was refused, and a partner asks for
 * something.
 */
export async function passOn(sql: Writer, { laid }: PastPromises, at: Date): Promise<void> {
  const shop = await readShop(sql);
  const partners = await relayStore.listPartners(sql);
  const today = DateTime.fromJSDate(at, { zone: shop.timezone }).toISODate() ?? '';
  for (const [nth, { made }] of laid.entries()) {
    const wanted = RELAYS[nth];
    const partner = partners.find(({ code }) => code === wanted?.partner);
    if (!wanted || !partner || made.staffId === null) continue;
    await layRelay(sql, wanted, {
      promiseId: made.id,
      partnerId: partner.id,
      day: dayLater(today, { days: wanted.dayIn }),
      staffId: made.staffId,
      at: made.at,
    });
  }
  if (laid.length === 0) return;
  await takePartnerOrder(sql, { ...PASSED_ON, day: dayLater(today, { days: PASSED_ON_DAYS }) }, at);
  const staffId = laid[0]?.made.staffId ?? null;
  for (const alert of await relayStore.openAlerts(sql))
    if (staffId !== null) await relayStore.closeAlert(sql, alert.id, { opened: false, staffId, at });
}

async function layRelay(
  sql: Writer,
  wanted: DemoRelay,
  made: { promiseId: string; partnerId: number; day: string; staffId: number; at: Date },
): Promise<void> {
  const { promiseId, staffId, at } = made;
  await relayStore.addRelay(sql, promiseId, { ...wanted, ...made, phone: '' });
  // The id of the only try is the relay's own.
  await relayStore.addTry(sql, { id: promiseId, ...made, part: wanted.part });
  if (!wanted.refused) return;
  const later = new Date(at.getTime() + 20 * 60_000);
  const heard = {
    hubId: promiseId,
    tryId: promiseId,
    kind: 'refused' as const,
    words: wanted.refused,
    at: later,
  };
  await relayStore.addHeard(sql, heard);
  await relayStore.putRelayState(sql, promiseId, 'refused', later);
  const [alert] = (await relayStore.openAlerts(sql)).filter((one) => one.promiseId === promiseId);
  if (alert) await relayStore.closeAlert(sql, alert.id, { opened: true, staffId, at: later });
}
