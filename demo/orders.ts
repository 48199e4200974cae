import { DateTime } from 'luxon';
import { shippingLine } from '../core/counter/orderBasket.ts';
import { goodsLines, moneyLine, type PromiseAtTill } from '../core/counter/promiseBasket.ts';
import { sum } from '../core/money.ts';
import { ratesOn } from '../core/pricing/taxRates.ts';
import { restOf } from '../core/promises/promised.ts';
import { promiseNumber } from '../core/promises/promiseNumber.ts';
import { shipFee, weightOf } from '../core/promises/shipping.ts';
import { ONE } from '../core/quantity.ts';
import { wordsOf } from '../core/words.ts';
import { dayLater } from '../core/day.ts';
import type { Writer } from '../server/db/database.ts';
import * as orders from '../server/promises/orderStore.ts';
import * as store from '../server/promises/store.ts';
import { readShop, taxRates } from '../server/shop/store.ts';
import { CUSTOMERS } from './data/customers.ts';
import { ORDERS, type DemoOrder } from './data/orders.ts';
import type { PastShift } from './history.ts';
import { openPast, type Laid, type PastPromises } from './pastPromises.ts';

/** Puts the payments and handovers of orders into the shifts of their days. */
export async function ordersInPast(
  sql: Writer,
  past: readonly PastShift[],
  house: { customers: readonly number[]; places: readonly number[]; staffId: number },
): Promise<PastPromises> {
  const { rules, shippingItem } = await orders.orderSetup(sql);
  const items = await store.layawaySetup(sql);
  const shop = await readShop(sql);
  const rates = await taxRates(sql);
  const till = await openPast(
    sql,
    past,
    'order',
    ORDERS.flatMap(({ goods }) => goods.map(([number]) => number)),
  );
  const { shifts, mine, dayOf, ids } = till;
  const last = mine.at(-1);
  if (!last) return { shifts, laid: [] };
  const today = dayLater(dayOf(last), { days: 1 });
  const placeOf = (at: number): number => house.places[at] ?? 0;
  const laid: Laid[] = [];

  for (const [place, wanted] of ORDERS.entries()) {
    const begin = dayLater(dayOf(last), { days: 0 - wanted.daysAgo });
    const from = mine.findIndex((one) => dayOf(one) >= begin);
    const shift = mine[from];
    const customer = CUSTOMERS.findIndex(({ name }) => name === wanted.customer);
    if (!shift || customer < 0) continue;
    const { lines: goods, words } = till.promise(
      wanted.goods.map(([number, units]) => [number, units] as const),
      dayOf(shift),
    );
    if (goods.length === 0) continue;
    const id = till.idOf(String(place));
    const way = wanted.ship ? 'ship' : 'collect';
    const weights = await orders.stockForOrder(
      sql,
      goods.map(({ itemId }) => itemId),
    );
    const weight = weightOf(
      goods.map(({ itemId, quantity }) => ({
        quantity,
        weight: weights.find((one) => one.itemId === itemId)?.weight ?? null,
      })),
      rules.usualWeight,
    );
    const fee = wanted.ship ? shipFee(rules.zones, wanted.ship.postcode, weight) : null;
    const shipping =
      fee && typeof fee !== 'string'
        ? [
            {
              ...shippingLine(
                fee.fee,
                {},
                { item: shippingItem, rates: ratesOn(rates, dayOf(shift)), rules: shop },
              ),
              stocked: false,
            },
          ]
        : [];
    const lines = [...goods, ...shipping].map((line, at) => ({
      ...line,
      position: at + 1,
      order: {
        way,
        placeId: placeOf(wanted.goods[at]?.[2] ?? 0),
        place: '',
        picked: line.stocked && !isPicked(wanted, at) ? 0 : line.quantity,
        short: wanted.end === 'short' && at === 0 ? ONE : 0,
        sent: false,
      } as const,
    }));
    const total = sum(lines.map(restOf));
    const atTill: PromiseAtTill = {
      id,
      number: promiseNumber('order', place + 1),
      held: wanted.paid ? total : 0,
      heldThere: 0,
      lines,
      ...items,
    };
    const at = DateTime.fromJSDate(shift.openedAt)
      .plus({ minutes: 95 + 3 * place })
      .toJSDate();
    const steps: Laid['steps'] = [{ at, what: 'Placed', words: wanted.note ?? '' }];
    if (wanted.paid) till.ring(shift, 97 + 3 * place, customer, [moneyLine(atTill, 'deposit', total, ids)]);
    // What is done with it is done on the next day.
    const next = mine[from + 1] ?? shift;
    const later = DateTime.fromJSDate(next.openedAt)
      .plus({ minutes: (next === shift ? 180 : 60) + 3 * place })
      .toJSDate();
    if (wanted.end === 'ready' || wanted.end === 'handed' || wanted.end === 'sent')
      steps.push({ at: later, what: 'Picked', words: lines[0]?.name ?? '' });
    if (wanted.end === 'short')
      steps.push({ at: later, what: 'Short', words: `1 of ${lines[0]?.name ?? ''} missing` });
    if (wanted.end === 'ready') steps.push({ at: later, what: 'Ready, customer told', words: '' });
    if (wanted.end === 'cancelled') steps.push({ at: later, what: 'Cancelled', words: 'No longer wanted' });
    if (wanted.end === 'handed') {
      const leaving = new Map(lines.map(({ position, quantity }) => [position, quantity]));
      const on = mine[from + 2] ?? next;
      till.ring(on, 110 + 3 * place, customer, [
        ...goodsLines(atTill, leaving, ids),
        moneyLine(atTill, 'used', 0 - total, ids),
      ]);
    }
    laid.push({
      made: {
        id,
        basketId: till.idOf(`basket ${place}`),
        kind: 'order',
        customerId: house.customers[customer] ?? 0,
        placeId: placeOf(shift.place),
        tillId: till.tillId,
        staffId: house.staffId,
        at,
        taxMode: shop.taxMode,
        total,
        fee: 0,
        note: wanted.note ?? '',
        coming: false,
        plan: [],
        firstPayment: total,
        lines,
        words: wordsOf([wanted.customer, wanted.ship?.recipient, words].join(' ')),
        handover: handoverOf(wanted, { today, placeId: placeOf(0), weight, zone: fee }),
      },
      steps,
      told: wanted.end === 'ready' ? later : null,
      arrived: null,
      cancelled: wanted.end === 'cancelled' ? later : null,
    });
  }
  return { shifts, laid };
}

/** What was picked of an order: all, but for what nobody has looked for, or has found only some of. */
const isPicked = ({ end }: DemoOrder, at: number): boolean =>
  end === 'ready' || end === 'handed' || end === 'sent' || (end === 'short' && at > 0);

function handoverOf(
  { collectIn, time = '12:00', collector = '', ship }: DemoOrder,
  {
    today,
    placeId,
    weight,
    zone,
  }: { today: string; placeId: number; weight: number; zone: ReturnType<typeof shipFee> | null },
): orders.NewHandover {
  return {
    collect: ship ? null : { placeId, day: dayLater(today, { days: collectIn ?? 0 }), time, collector },
    ship: ship
      ? { ...ship, phone: '', weight, zone: zone && typeof zone !== 'string' ? zone.zone : '' }
      : null,
  };
}

/** What was picked at another place is on its way. */
export async function moveOrders(sql: Writer, { laid }: PastPromises, at: Date): Promise<void> {
  for (const { made } of laid) {
    const picked = made.lines.find(
      ({ order, quantity }) =>
        order?.way === 'collect' && order.placeId !== made.placeId && order.picked === quantity,
    );
    if (picked?.order) await orders.sendGoods(sql, made.id, picked.order.placeId, at);
  }
}
