import { DAY_MS, dayLater } from '../../core/day.ts';
import { LIST_PAGE } from '../../contract/listQuery.ts';
import type { LookUp } from '../../contract/goods.ts';
import type {
  ChangedOrder,
  OrderPage,
  OrdersPage,
  OrdersQuery,
  OrderableItem,
} from '../../contract/supply.ts';
import { MOST_ORDER_LINES, orderNumber } from '../../core/supply/purchaseOrder.ts';
import { soldOf, suggest, type DayMoved } from '../../core/supply/suggest.ts';
import { businessDate } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';
import { changedMeanwhile, fieldProblem, Problem } from '../http/problem.ts';
import { addMessage } from '../outbox/store.ts';
import { listPlaces, readShop } from '../shop/store.ts';
import * as store from './orderStore.ts';
import { activeSuppliers, findSupplier } from './supplierStore.ts';

interface By {
  staffId: number;
  at: Date;
}

/** So many deliveries of one order are shown. */
const MOST_SHOWN = 200;
/** Suggestions look at so many days of sales. */
const DAYS_LOOKED_AT = 28;

export const noOrder = (): Problem => new Problem('no-order', 'There is no such order.');
/** A page of orders or of deliveries, and from whom and for where one can be made. */
export async function ordersPage(
  sql: Reader,
  { show, find, page }: OrdersQuery,
  placeId: number,
  now: Date,
): Promise<OrdersPage> {
  const part = { most: LIST_PAGE, from: page * LIST_PAGE };
  const which = { find, open: show === 'open' };
  const deliveries = show === 'deliveries';
  return {
    today: businessDate(now, (await readShop(sql)).timezone),
    orders: deliveries ? [] : await store.listOrders(sql, which, part),
    deliveries: deliveries ? await store.listDeliveries(sql, { find }, part) : [],
    count: deliveries ? await store.countDeliveries(sql, { find }) : await store.countOrders(sql, which),
    suppliers: await activeSuppliers(sql),
    places: (await listPlaces(sql)).map(({ id, name }) => ({ id, name, here: id === placeId })),
  };
}

/** @throws Problem 404 */
export async function orderPage(sql: Reader, id: number): Promise<OrderPage> {
  const found = await store.findOrder(sql, id);
  if (!found) throw noOrder();
  return { ...found, deliveries: await store.listDeliveries(sql, { orderId: id }, { most: MOST_SHOWN }) };
}

/**
 * Begins an order, with what is suggested where that is wanted.
 * @returns how many suggestions an order has no room for
 * @throws Problem 422
 */
export async function beginOrder(
  sql: Writer,
  wanted: { supplierId: number; placeId: number; suggested: boolean; cover: number },
  by: By,
): Promise<{ id: number; left: number }> {
  const supplier = await findSupplier(sql, wanted.supplierId);
  if (!supplier?.record.active) throw fieldProblem('supplierId', 'From whom?');
  if (!(await listPlaces(sql)).some(({ id }) => id === wanted.placeId))
    throw fieldProblem('placeId', 'For where?');
  const { timezone } = await readShop(sql);
  const expectedOn = dayLater(businessDate(by.at, timezone), { days: supplier.record.leadDays });
  const id = await store.addOrder(sql, { ...wanted, expectedOn }, by);
  const suggested = wanted.suggested ? await suggestedLines(sql, wanted, by.at) : [];
  const lines = suggested.slice(0, MOST_ORDER_LINES);
  await store.putOrder(sql, id, { expectedOn, words: '', lines });
  return { id, left: suggested.length - lines.length };
}

async function suggestedLines(
  sql: Reader,
  { supplierId, placeId, cover }: { supplierId: number; placeId: number; cover: number },
  at: Date,
): Promise<ChangedOrder['lines']> {
  const since = new Date(at.getTime() - DAYS_LOOKED_AT * DAY_MS);
  const moved = new Map<number, DayMoved[]>();
  for (const { itemId, ...day } of await store.movedByDay(sql, supplierId, placeId, since))
    moved.set(itemId, [...(moved.get(itemId) ?? []), day]);
  return (await store.suggestible(sql, supplierId, placeId)).flatMap((item) => {
    const sold = soldOf(item.level, moved.get(item.itemId) ?? [], DAYS_LOOKED_AT);
    const found = suggest({ ...item, sold }, cover);
    return found ? [{ itemId: item.itemId, unitCost: item.cost, ...found }] : [];
  });
}

/** Changes what an order asks for. @throws Problem 404, 409, 422 */
export async function changeOrder(sql: Writer, id: number, wanted: ChangedOrder): Promise<void> {
  const held = await heldOrder(sql, id, wanted.version);
  if (held.state === 'closed') throw new Problem('not-valid', 'This order is closed.');
  const ids = wanted.lines.map(({ itemId }) => itemId);
  if (new Set(ids).size < ids.length) throw fieldProblem('lines', 'An item stands there twice.');
  const now = await store.findOrder(sql, id);
  const gone = now?.lines.find((line) => line.received > 0 && !ids.includes(line.itemId));
  if (gone) throw fieldProblem('lines', `Some of ${gone.name} came already: it stays on the order.`);
  await store.putOrder(sql, id, wanted);
}

async function heldOrder(sql: Writer, id: number, version: number) {
  const held = await store.holdOrder(sql, id);
  if (!held) throw noOrder();
  if (held.version !== version) throw changedMeanwhile();
  return held;
}

/** An order goes out: from now on it is to come. With an address it is mailed. @throws Problem 404, 409, 422 */
export async function sendOrder(
  sql: Writer,
  id: number,
  { version, mail }: { version: number; mail: boolean },
  at: Date,
): Promise<void> {
  const held = await heldOrder(sql, id, version);
  const order = await orderPage(sql, id);
  if (held.state === 'closed') throw new Problem('not-valid', 'This order is closed.');
  if (order.lines.length === 0) throw fieldProblem('lines', 'There is nothing on it yet.');
  if (mail && !order.email) throw fieldProblem('mail', `${order.supplier} has no address for mails.`);
  await store.setOrderState(sql, id, 'sent', at);
  if (!mail) return;
  const { name } = await readShop(sql);
  await addMessage(sql, {
    kind: 'mail',
    recipient: order.email,
    subject: `Order ${orderNumber(order.number)} from ${name}`,
    saleId: null,
    storedValueId: null,
    purchaseOrderId: id,
    at,
  });
}

/** Nothing more is expected of an order; a draft is thrown away. @throws Problem 404, 409 */
export async function closeOrder(
  sql: Writer,
  id: number,
  { version }: { version: number },
  at: Date,
): Promise<{ gone: boolean }> {
  const held = await heldOrder(sql, id, version);
  if (held.state === 'draft') {
    await store.dropOrder(sql, id);
    return { gone: true };
  }
  if (held.state === 'closed') throw new Problem('not-valid', 'This order is closed.');
  await store.setOrderState(sql, id, 'closed', at);
  return { gone: false };
}

/** Items that can be put on an order. @throws Problem 404 */
export async function findOrderable(sql: Reader, id: number, asked: LookUp): Promise<OrderableItem[]> {
  const order = await store.findOrder(sql, id);
  if (!order) throw noOrder();
  return store.orderableItems(sql, order.supplierId, order.placeId, asked);
}
