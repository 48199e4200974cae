import { formatDay } from '../../core/locale.ts';
import type { Paper } from '../../core/journal/paper.ts';
import type { ReceiptHead } from '../../core/journal/receipt.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { layawayMessage, layawayPaper } from '../../core/promises/layawayPaper.ts';
import { planStanding } from '../../core/promises/plan.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { relayPaper } from '../../core/promises/relayPaper.ts';
import { businessDate, shopTime } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import { readShop, type ShopRow } from '../shop/store.ts';
import { relayOf } from './relayStore.ts';
import { findPromise, layawaySetup, promiseLines } from './store.ts';

async function read(sql: Reader, id: string) {
  const promise = await findPromise(sql, id);
  if (!promise) throw new Error('a promise is gone');
  return { promise, shop: await readShop(sql), number: promiseNumber(promise.kind, promise.count) };
}

/** The paper of a layaway: goods, plan, terms, barcode. */
export async function promisePaper(
  sql: Reader,
  id: string,
  head: (shop: ShopRow) => ReceiptHead,
): Promise<Paper> {
  const { promise, shop, number } = await read(sql, id);
  const { rules } = await layawaySetup(sql);
  const { digits } = currencyOf(shop.currency);
  return layawayPaper({
    shop: head(shop),
    number,
    when: shopTime(promise.madeAt, shop),
    by: promise.madeBy,
    customer: promise.customer,
    digits,
    currency: shop.currency,
    lines: await promiseLines(sql, id),
    total: promise.total,
    plan: promise.plan.map(({ day, amount }) => ({ day: formatDay(day, shop.receiptLocale), amount })),
    fee: promise.fee,
    coming: promise.coming && promise.arrivedAt === null,
    note: promise.note,
    words: rules.words,
  });
}

/** The paper of a relay: what goes to whom, and when. */
export async function paperOfRelay(
  sql: Reader,
  id: string,
  head: (shop: ShopRow) => ReceiptHead,
): Promise<Paper> {
  const { promise, shop, number } = await read(sql, id);
  const relay = await relayOf(sql, id);
  const last = relay?.tries[0];
  if (!relay || !last) throw new Error('a relay is gone');
  const { recipient, street, postcode, city, wishes, card, goods } = relay;
  return relayPaper({
    shop: head(shop),
    number,
    when: shopTime(promise.madeAt, shop),
    by: promise.madeBy,
    customer: promise.customer,
    digits: currencyOf(shop.currency).digits,
    currency: shop.currency,
    total: promise.total,
    note: promise.note,
    partner: last.partner,
    day: formatDay(last.day, shop.receiptLocale),
    goods,
    recipient,
    address: `${street}, ${postcode} ${city}`,
    wishes,
    card,
  });
}

/** What is sent to the customer of a promise. */
export async function promiseMessage(
  sql: Reader,
  id: string,
  head: (shop: ShopRow) => ReceiptHead,
  now: Date,
): Promise<Paper> {
  const { promise, shop, number } = await read(sql, id);
  const left = Math.max(0, promise.rest - promise.held);
  const { next } = planStanding(promise.plan, promise.paid, businessDate(now, shop.timezone), left);
  return layawayMessage({
    shop: head(shop),
    number,
    customer: promise.customer,
    digits: currencyOf(shop.currency).digits,
    goods: promise.goods,
    left,
    next: next && { ...next, day: formatDay(next.day, shop.receiptLocale) },
  });
}
