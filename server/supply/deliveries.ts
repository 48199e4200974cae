import type { DeliveryPage, WantedDelivery, WantedInvoice } from '../../contract/supply.ts';
import { invoiceEntries } from '../../core/books/entries.ts';
import { formatMoneyIn, sum } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { decimalsProblem, ONE } from '../../core/quantity.ts';
import { freightParts, goodsCost } from '../../core/supply/landedCost.ts';
import type { Reader, Writer } from '../db/database.ts';
import { ownSpans, putSerials, serialsAt } from '../goods/stockStore.ts';
import { changedMeanwhile, fieldProblem, Problem } from '../http/problem.ts';
import { openEvent, postCosts, postEntries } from '../books/store.ts';
import { readShop } from '../shop/store.ts';
import * as store from './deliveryStore.ts';
import { holdOrder, setOrderState, touchOrder } from './orderStore.ts';
import { noOrder } from './orders.ts';

export const noDelivery = (): Problem => new Problem('no-delivery', 'There is no such delivery.');

/** Who does it, and when. */
interface By {
  staffId: number;
  at: Date;
}

/**
 * Takes a delivery in: what came is there and can be sold, at what it cost with its part of the freight.
 * @throws Problem 404, 409, 422 next to what is wrong
 */
export async function takeIn(
  sql: Writer,
  orderId: number,
  wanted: WantedDelivery,
  by: By,
): Promise<{ id: number; number: number; placeId: number; items: number[] }> {
  const order = await holdOrder(sql, orderId);
  if (!order) throw noOrder();
  if (order.version !== wanted.version) throw changedMeanwhile();
  if (order.state === 'closed')
    throw new Problem('not-valid', 'This order is closed: nothing comes of it any more.');
  const { supplierId, placeId } = order;
  const ids = wanted.lines.map(({ itemId }) => itemId);
  if (new Set(ids).size < ids.length) throw fieldProblem('lines', 'An item stands there twice.');
  const items = new Map(
    (await store.comingItems(sql, ids, orderId, supplierId)).map((item) => [item.id, item]),
  );
  const came = wanted.lines.map((line, at) => {
    const item = items.get(line.itemId);
    const problem = (field: string, words: string) => fieldProblem(`lines[${at}].${field}`, words);
    if (!item?.stocked) throw problem('quantity', 'It is not kept in stock.');
    const odd = decimalsProblem(line.quantity, item.decimals) ?? decimalsProblem(line.damaged, item.decimals);
    if (odd) throw problem('quantity', odd);
    if (line.damaged > line.quantity) throw problem('damaged', 'No more can be broken than came.');
    if (item.serials && line.serials.length * ONE !== line.quantity - line.damaged)
      throw problem('serials', 'Each unit has its serial number: say as many as there are whole ones.');
    const unitCost = line.unitCost ?? item.unitCost;
    const cost = goodsCost(line.quantity, unitCost ?? 0);
    return { ...line, item, unitCost, known: unitCost !== null, cost, weight: item.weight };
  });
  const parts = freightParts(came, wanted.freight, wanted.spreadBy);
  const lines = came.map(({ itemId, quantity, damaged, cost, known }, at) => ({
    itemId,
    quantity,
    damaged,
    known,
    goodsCost: cost,
    freight: parts[at] ?? 0,
  }));
  for (const [at, line] of came.entries()) {
    if (!line.item.serials) continue;
    const [taken] = await serialsAt(sql, line.itemId, line.serials);
    if (taken || new Set(line.serials).size < line.serials.length)
      throw fieldProblem(`lines[${at}].serials`, `${taken?.serial ?? 'One'} is known already.`);
    await putSerials(sql, line.itemId, line.serials, placeId);
  }
  const event = await openEvent(sql, { kind: 'receipt', ...by });
  const words = wanted.deliveryNote;
  const layers = await store.bringDelivery(sql, event, lines, { ...by, placeId, supplierId, words });
  for (const [at, { itemId, serials }] of came.entries())
    if (serials.length > 0) await ownSpans(sql, itemId, serials, layers[at] ?? 0);
  await postCosts(sql, event);
  const made = await store.addDelivery(
    sql,
    { orderId, supplierId, placeId, event, ...wanted },
    lines.map((line, at) => ({ ...line, layerId: layers[at] ?? 0 })),
    by,
  );
  await noteCosts(sql, supplierId, came, by);
  if (await store.allCame(sql, orderId)) await setOrderState(sql, orderId, 'closed', by.at);
  else if (order.state === 'draft') await setOrderState(sql, orderId, 'sent', by.at);
  else await touchOrder(sql, orderId);
  return { ...made, placeId, items: ids };
}

async function noteCosts(
  sql: Writer,
  supplierId: number,
  came: readonly { itemId: number; unitCost: number | null; item: store.ComingItem }[],
  by: By,
): Promise<void> {
  const { currency, locale } = await readShop(sql);
  const money = (cost: number | null) =>
    cost === null ? '' : formatMoneyIn(locale, cost, currencyOf(currency).digits);
  const known = came.flatMap(({ itemId, unitCost, item }) =>
    unitCost === null ? [] : [{ itemId, cost: unitCost, was: money(item.knownCost), words: money(unitCost) }],
  );
  await store.noteUnitCosts(sql, supplierId, known, by);
}

/** @throws Problem 404 */
export async function deliveryPage(sql: Reader, id: number): Promise<DeliveryPage> {
  const found = await store.findDelivery(sql, id);
  if (!found) throw noDelivery();
  return { ...found, cost: sum(found.lines.map((line) => line.goodsCost + line.freight)) };
}

/**
 * Notes the supplier's invoice: what it asks is what the goods cost, wherever they are by now, and is owed from now on.
 * Freight by value is spread again. @throws Problem 404, 409, 422
 */
export async function noteInvoice(sql: Writer, id: number, wanted: WantedInvoice, by: By): Promise<void> {
  const held = await store.holdDelivery(sql, id);
  if (!held) throw noDelivery();
  if (held.version !== wanted.version || held.invoiced) throw changedMeanwhile();
  const lines = await store.deliveredLines(sql, id);
  if (lines.length !== wanted.lines.length) throw fieldProblem('lines', 'What does each line cost?');
  const paid = lines.map((line, at) => ({ ...line, cost: wanted.lines[at] ?? 0 }));
  const parts = freightParts(paid, wanted.freight, held.spreadBy);
  const total = sum(wanted.lines) + wanted.freight;
  const event = await openEvent(sql, { kind: 'invoice', ...by });
  if (total !== 0) await postEntries(sql, event, invoiceEntries({ supplierId: held.supplierId, total }));
  const changed = paid.flatMap(({ layerId, cost }, at) => {
    const worth = cost + (parts[at] ?? 0);
    return worth === lines[at]?.cost ? [] : [{ layerId, cost: worth }];
  });
  await store.correctLayers(sql, event, changed, `Invoice ${wanted.number}`, by);
  await postCosts(sql, event);
  await store.noteInvoice(
    sql,
    id,
    {
      number: wanted.number,
      total,
      event,
      freight: wanted.freight,
      lines: paid.map(({ position, cost }, at) => ({ position, goodsCost: cost, freight: parts[at] ?? 0 })),
    },
    by.at,
  );
}
