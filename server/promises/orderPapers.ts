import { formatTimeOfDay } from '../../core/timeOfDay.ts';
import { formatDay } from '../../core/locale.ts';
import type { Paper, PrintKind } from '../../core/journal/paper.ts';
import type { ReceiptHead } from '../../core/journal/receipt.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { Shipping } from '../../core/promises/order.ts';
import { toPick } from '../../core/promises/may.ts';
import {
  orderMessage,
  orderPaper,
  packingSlip,
  pickList,
  type OrderOnPaper,
} from '../../core/promises/orderPapers.ts';
import { promiseState } from '../../core/promises/state.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { shopTime } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import { readShop, type ShopRow } from '../shop/store.ts';
import { orderPlaces, parcelsOf } from './orderStore.ts';
import { findPromise, promiseLines } from './store.ts';

type Head = (shop: ShopRow) => ReceiptHead;

async function onPaper(
  sql: Reader,
  id: string,
  head: Head,
): Promise<OrderOnPaper & { goods: string; onItsWay: boolean }> {
  const promise = await findPromise(sql, id);
  if (!promise) throw new Error('an order is gone');
  const shop = await readShop(sql);
  const { collect, ship, goods } = promise;
  const place = (await orderPlaces(sql)).find((one) => one.id === collect?.placeId);
  const lines = await promiseLines(sql, id);
  return {
    shop: head(shop),
    number: promiseNumber(promise.kind, promise.count),
    when: shopTime(promise.madeAt, shop),
    by: promise.madeBy,
    customer: promise.customer,
    digits: currencyOf(shop.currency).digits,
    currency: shop.currency,
    lines: lines.map((line) => ({
      ...line,
      way: line.order?.way ?? 'take',
      place: line.order?.place ?? promise.place,
      toPick: toPick(line),
    })),
    total: promise.total,
    left: Math.max(0, promise.rest - promise.held),
    note: promise.note,
    collect: collect && {
      place: collect.place,
      collector: collect.collector,
      when: `${formatDay(collect.day, shop.receiptLocale)}, ${formatTimeOfDay(collect.time, shop.receiptLocale)}`,
      address: place ? [place.street, place.postcode, place.city].filter(Boolean).join(' ') : '',
    },
    ship,
    goods,
    onItsWay:
      promiseState(promise) !== 'ready' &&
      lines.some(({ order, handed }) => order?.way === 'ship' && handed > 0),
  };
}

const PAPERS: Partial<Record<PrintKind, (order: OrderOnPaper) => Paper>> = {
  order: orderPaper,
  'pick-list': pickList,
  'packing-slip': packingSlip,
};

/** A paper of an order: what the customer takes home, the pick list, or the packing slip. */
export async function paperOfOrder(sql: Reader, id: string, kind: PrintKind, head: Head): Promise<Paper> {
  const paper = PAPERS[kind];
  if (!paper) throw new Error(`an order has no paper ${kind}`);
  return paper(await onPaper(sql, id, head));
}

/** What is sent to the customer of an order. */
export async function messageOfOrder(sql: Reader, id: string, head: Head): Promise<Paper> {
  const order = await onPaper(sql, id, head);
  const tracking = (await parcelsOf(sql, id)).findLast((one) => one.tracking !== null)?.tracking ?? '';
  return orderMessage({ ...order, tracking });
}

/** What the label of a parcel says. */
export interface LabelFacts {
  shop: string;
  /** Where it comes from, a line each. */
  from: readonly string[];
  to: Shipping;
  number: string;
  tracking: string;
}

/** @returns nothing where there is no such parcel, or the carrier has not answered */
export async function labelOf(sql: Reader, id: string, parcelId: string): Promise<LabelFacts | null> {
  const promise = await findPromise(sql, id);
  const parcel = (await parcelsOf(sql, id)).find((one) => one.id === parcelId);
  if (!promise?.ship || !parcel?.tracking) return null;
  const place = (await orderPlaces(sql)).find((one) => one.id === promise.placeId);
  return {
    shop: (await readShop(sql)).name,
    from: place ? [place.street, `${place.postcode} ${place.city}`.trim()].filter(Boolean) : [],
    to: promise.ship,
    number: promiseNumber(promise.kind, promise.count),
    tracking: parcel.tracking,
  };
}
