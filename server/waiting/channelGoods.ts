import type { Quote, QuoteWanted } from '../../contract/channels.ts';
import { linesAtPrices, shippingGoods, type GoodsAtPrice } from '../../core/counter/orderBasket.ts';
import { sum, type Money } from '../../core/money.ts';
import { ratesOn } from '../../core/pricing/taxRates.ts';
import { firstCollectTime } from '../../core/promises/collecting.ts';
import { orderDeposit } from '../../core/promises/order.ts';
import { restOf, type PromiseLine } from '../../core/promises/promised.ts';
import { shipFee, weightOf } from '../../core/promises/shipping.ts';
import { lineAmount, ONE } from '../../core/quantity.ts';
import { businessDate, timeOfDay } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import { fieldProblem } from '../http/problem.ts';
import { channelItems, type Channel, type ChannelItem } from '../promises/channelStore.ts';
import * as orders from '../promises/orderStore.ts';
import { readShop, taxRates } from '../shop/store.ts';

/** What is ordered elsewhere: pieces of an item, and at what price where that was said already. */
export interface Ordered {
  number: string;
  quantity: number;
  unitPrice?: Money;
}

/** Goods that are ordered elsewhere, with their items. @throws Problem 422 next to what cannot be ordered */
export async function orderedItems(
  sql: Reader,
  wanted: readonly Ordered[],
): Promise<{ item: ChannelItem; quantity: number; unitPrice: Money }[]> {
  const items = new Map(
    (
      await channelItems(
        sql,
        wanted.map(({ number }) => number),
      )
    ).map((item) => [item.number, item]),
  );
  return wanted.map(({ number, quantity, unitPrice }, at) => {
    const item = items.get(number);
    if (!item) throw fieldProblem(`lines[${at}].number`, `${number} cannot be ordered here.`);
    return { item, quantity: quantity * ONE, unitPrice: unitPrice ?? item.price };
  });
}

/** The lines of an order at the prices that were said, with the fee of shipping last where there is one. */
export async function linesOfOrder(
  sql: Reader,
  goods: readonly { item: ChannelItem; quantity: number; unitPrice: Money }[],
  fee: Money | null,
  at: Date,
): Promise<Omit<PromiseLine, 'position' | 'order'>[]> {
  const shop = await readShop(sql);
  const { shippingItem } = await orders.orderSetup(sql);
  const rates = ratesOn(await taxRates(sql), businessDate(at, shop.timezone));
  const wanted = goods.map(({ item, quantity, unitPrice }): GoodsAtPrice => {
    const { itemId, number, name, unit, decimals, taxCategoryId } = item;
    return { itemId, number, name, unit, decimals, taxCategoryId, quantity, unitPrice };
  });
  return linesAtPrices(
    [...wanted, ...(fee === null || fee === 0 ? [] : [shippingGoods(fee, shippingItem)])],
    {},
    { rates, rules: shop },
  );
}

/** What shipping goods costs, and what they weigh. @throws Problem 422 where nothing is shipped there */
export async function shippingTo(
  sql: Reader,
  postcode: string,
  goods: readonly { item: ChannelItem; quantity: number }[],
): Promise<{ fee: Money; zone: string; weight: number }> {
  const { rules } = await orders.orderSetup(sql);
  const weight = weightOf(
    goods.map(({ item, quantity }) => ({ quantity, weight: item.weight })),
    rules.usualWeight,
  );
  const found = shipFee(rules.zones, postcode, weight);
  if (typeof found === 'string') throw fieldProblem('ship.postcode', found);
  return { ...found, weight };
}

/** What can be ordered elsewhere, and where it can be collected. */
export async function channelGoods(sql: Reader): Promise<{
  shop: string;
  currency: string;
  goods: { number: string; name: string; price: number; available: number }[];
}> {
  const { name, currency } = await readShop(sql);
  const items = await channelItems(sql, null);
  return {
    shop: name,
    currency,
    goods: items.map(({ number, name: called, price, stocked, available }) => ({
      number,
      name: called,
      price,
      available: stocked ? Math.floor(available / ONE) : 1_000,
    })),
  };
}

/** What an order would come to at the prices of now. @throws Problem 422 */
export async function quoteOrder(
  sql: Reader,
  channel: Channel,
  { lines, postcode }: QuoteWanted,
  at: Date,
): Promise<Quote> {
  const goods = await orderedItems(sql, lines);
  const { timezone } = await readShop(sql);
  const { rules } = await orders.orderSetup(sql);
  const fee = postcode === null ? 0 : (await shippingTo(sql, postcode, goods)).fee;
  const total = sum((await linesOfOrder(sql, goods, fee, at)).map(restOf));
  const now = { day: businessDate(at, timezone), time: timeOfDay(at, timezone) };
  return {
    lines: goods.map(({ item: { number, name }, quantity, unitPrice }) => ({
      number,
      name,
      quantity: quantity / ONE,
      unitPrice,
      amount: lineAmount(unitPrice, quantity),
    })),
    fee,
    total,
    firstPayment: orderDeposit(channel, total),
    places: (await orders.orderPlaces(sql))
      .filter(({ kind }) => kind === 'shop')
      .map(({ id, name, street, city, hours }) => ({
        id,
        name,
        street,
        city,
        first: firstCollectTime({ hours, leadMinutes: rules.leadMinutes, now }),
      })),
  };
}
