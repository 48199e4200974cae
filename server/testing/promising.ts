import { v4 as newKey } from 'uuid';
import type { FigureProblem, FinishedSale } from '../../contract/counter.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { OrderWanted } from '../../contract/orders.ts';
import type { LayawayWanted, PromiseView } from '../../contract/promises.ts';
import type { Basket, BasketCustomer, BasketLine } from '../../core/counter/basket.ts';
import { cancelLines, depositLines, goodsLines, moneyLine } from '../../core/counter/promiseBasket.ts';
import { dueOf } from '../../core/counter/promisedLines.ts';
import { linesToPrice } from '../../core/counter/toPrice.ts';
import type { Money } from '../../core/money.ts';
import { priceBasket, type PricedBasket } from '../../core/pricing/price.ts';
import { ratesOn } from '../../core/pricing/taxRates.ts';
import type { OrderPay } from '../../core/promises/order.ts';
import type { LineWay } from '../../core/promises/orderLines.ts';
import { dayLater } from '../../core/day.ts';
import { one } from '../db/database.ts';
import { taxRates } from '../shop/store.ts';
import type { MadePromise } from '../waiting/promising.ts';
import type { Answer, Browser } from './browser.ts';
import { TEST_NOW } from './globalSetup.ts';
import { giveBack } from './returning.ts';
import { ringUp, type TestHouse } from './testHouse.ts';

const TODAY = TEST_NOW.slice(0, 10);
export const TERMS: LayawayWanted = {
  deposit: 0,
  parts: 3,
  interval: 'month',
  firstDay: '2099-01-31',
  fee: 0,
  coming: false,
  note: '',
};

/** Somebody for whom no other prices hold. */
export async function plainCustomer({ house }: Pick<TestHouse, 'house'>): Promise<BasketCustomer> {
  return one(
    await house.database.ask((sql) =>
      sql.query<BasketCustomer>(
        'select id, name from customer where id not in (select customer_id from customer_membership) order by id',
      ),
    ),
  );
}

/** What a basket comes to, as a till shows it. */
export async function pricedAt({ house }: Pick<TestHouse, 'house'>, basket: Basket): Promise<PricedBasket> {
  const rates = await house.database.ask(taxRates);
  return priceBasket(
    linesToPrice(basket, { rates: ratesOn(rates, TODAY), groupPrices: [], goodsOf: () => undefined }),
    { taxMode: 'on-top', taxRounding: 'sale' },
  );
}

/** Sets goods aside for a customer, a quarter of what they come to at once unless something else is said. */
export async function setAside(
  test: Pick<TestHouse, 'house'>,
  by: Browser,
  customer: BasketCustomer,
  numbers: readonly string[],
  terms: Partial<LayawayWanted> = {},
  change: Pick<Basket, 'exemption'> = {},
) {
  const basket = { ...(await ringUp(test, numbers)).basket, ...change };
  const expectedTotal = (await pricedAt(test, basket)).total;
  const wanted = {
    basket: { ...basket, customer },
    expectedTotal,
    terms: { ...TERMS, deposit: Math.ceil(expectedTotal / 4), ...terms },
  };
  const key = { 'idempotency-key': newKey() };
  const ask = () => by.ask<MadePromise & ProblemDetails>('POST', '/waiting/promises/layaways', wanted, key);
  return { wanted, ask, answer: await ask() };
}

export const lookAt = async (by: Browser, id: string): Promise<PromiseView> =>
  (await by.ask<PromiseView>('GET', `/waiting/promises/${id}`)).body;

/** What of a promise has not left, by its lines. */
export const allLeft = (view: PromiseView): Map<number, number> =>
  new Map(
    view.lines.flatMap(({ position, quantity, handed }) =>
      quantity > handed ? [[position, quantity - handed] as const] : [],
    ),
  );

type Paid = Promise<Answer<FinishedSale & ProblemDetails & { data?: FigureProblem }>>;

/** Pays a basket with promised lines in cash. */
export async function payPromised(
  test: Pick<TestHouse, 'house'>,
  by: Browser,
  lines: BasketLine[],
  exemption?: Basket['exemption'],
): Paid {
  const basket: Basket = { id: newKey(), lines, exemption };
  const { total } = await pricedAt(test, basket);
  return by.ask(
    'POST',
    '/counter/sales',
    { basket, expectedTotal: total, handed: total },
    { 'idempotency-key': basket.id },
  );
}

export const payDeposit = async (
  test: Pick<TestHouse, 'house'>,
  by: Browser,
  id: string,
  amount: Money,
): Paid => payPromised(test, by, [moneyLine(await lookAt(by, id), 'deposit', amount, newKey)]);

/** Hands goods over as a till does: what of the deposit is used is worked out from what they come to. */
export async function handOver(
  test: Pick<TestHouse, 'house'>,
  by: Browser,
  id: string,
  wanted: ReadonlyMap<number, number>,
): Paid {
  const view = await lookAt(by, id);
  const lines = goodsLines(view, wanted, newKey);
  const exemption = view.exemption ?? undefined;
  const due = dueOf(lines, await pricedAt(test, { id: newKey(), lines, exemption }), () => true);
  const money = depositLines(view, wanted, due, view.keeps, newKey);
  const basket: Basket = { id: newKey(), lines: [...lines, ...money], exemption };
  const { total } = await pricedAt(test, basket);
  if (total >= 0) return payPromised(test, by, basket.lines, exemption);
  const { status, body } = await giveBack(by, basket, total);
  // A refund that could not be finished was refused.
  return {
    status: body.finished ? status : 409,
    body: body.finished as Awaited<Paid>['body'],
    headers: new Headers(),
  };
}

/** Gives a promise up: its deposit goes back as the shop's rules say, less a fee. @returns what went back */
export async function giveUp(
  test: Pick<TestHouse, 'house'>,
  by: Browser,
  customer: BasketCustomer,
  id: string,
  fee: Money,
) {
  const lines = cancelLines(await lookAt(by, id), fee, { reason: 'changed her mind' }, newKey);
  const basket: Basket = { id: newKey(), customer, lines };
  const { total } = await pricedAt(test, basket);
  return { total, answer: await giveBack(by, basket, total) };
}

/**
 * How a basket is ordered, where nothing else is said: all of it collected tomorrow where the till is, paid at the
 * handover.
 */
export interface OrderAsked extends Partial<Omit<OrderWanted, 'lines'>> {
  /** By item number; what is not named is collected. */
  ways?: Readonly<Record<string, Partial<LineWay>>>;
  /** How many of each. */
  units?: number;
}

/** Places an order. @param here the place of the till */
export async function placeOrder(
  test: Pick<TestHouse, 'house'>,
  by: Browser,
  customer: BasketCustomer,
  numbers: readonly string[],
  { ways = {}, units = 1, ...asked }: OrderAsked = {},
  here = 1,
) {
  const rung = (await ringUp(test, numbers)).basket;
  const basket = { ...rung, lines: rung.lines.map((line) => ({ ...line, quantity: line.quantity * units })) };
  const expectedTotal = (await pricedAt(test, basket)).total;
  const lines = basket.lines.map(({ id: lineId, number, quantity }) => {
    const { way = 'collect', parts, missing = 0 } = ways[number] ?? {};
    return {
      lineId,
      way,
      parts: [...(parts ?? (way === 'take' ? [] : [{ placeId: here, quantity: quantity - missing }]))].filter(
        (part) => part.quantity > 0,
      ),
      missing,
    };
  });
  const collects = lines.some(({ way }) => way === 'collect');
  const terms: OrderWanted = {
    lines,
    collect: collects
      ? { placeId: here, day: dayLater(TODAY, { days: 1 }), time: '12:00', collector: '' }
      : null,
    ship: null,
    fee: 0,
    deposit: 0,
    note: '',
    ...asked,
  };
  const wanted = { basket: { ...basket, customer }, expectedTotal, terms };
  const key = { 'idempotency-key': newKey() };
  const ask = () => by.ask<MadePromise & ProblemDetails>('POST', '/waiting/orders', wanted, key);
  return { wanted, ask, answer: await ask() };
}

/** Sets when an order is paid. */
export async function payOrders({ house }: Pick<TestHouse, 'house'>, pay: OrderPay): Promise<void> {
  await house.database.write((sql) =>
    sql.query(`update shop set order_rules = jsonb_set(order_rules, '{pay}', to_jsonb($1::text))`, [pay]),
  );
}
