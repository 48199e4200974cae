import { DateTime } from 'luxon';
import { v5 as namedId } from 'uuid';
import type { BasketLine } from '../core/counter/basket.ts';
import { goodsLines, moneyLine, type PromiseAtTill } from '../core/counter/promiseBasket.ts';
import { dueOf } from '../core/counter/promisedLines.ts';
import { linesToPrice } from '../core/counter/toPrice.ts';
import { sum, type Money } from '../core/money.ts';
import { priceBasket } from '../core/offers/price.ts';
import { ratesOn } from '../core/offers/taxRates.ts';
import { layawayPlan, leastDeposit, type PlanPart } from '../core/promises/plan.ts';
import type { PromiseLine } from '../core/promises/promised.ts';
import { promiseNumber } from '../core/promises/promiseNumber.ts';
import { wordsOf } from '../core/words.ts';
import { ONE } from '../core/quantity.ts';
import { businessDate, daysAfter } from '../server/clock.ts';
import type { Writer } from '../server/db/database.ts';
import * as goods from '../server/promises/goodsStore.ts';
import * as store from '../server/promises/store.ts';
import { readShop, taxRates } from '../server/shop/store.ts';
import { CUSTOMERS } from './data/customers.ts';
import { LAYAWAYS } from './data/layaways.ts';
import type { PastSale, PastShift } from './history.ts';

const NAMESPACE = 'c2b7a3de-2f1c-4c0e-9d59-6f0a5f7c1b11';
const TILL = 1;

/** What a layaway brings into the past: itself, and the sales that touched it. */
interface Laid {
  made: goods.NewPromise;
  steps: { at: Date; what: string; words: string }[];
  told: Date | null;
  arrived: Date | null;
  /** Given up before anything was paid. */
  cancelled: Date | null;
}

/** Layaways that were made in past weeks, with what was paid for them rung up among the sales of those days. */
export interface PastLayaways {
  shifts: PastShift[];
  laid: readonly Laid[];
}

/** Puts the deposits, handovers and the cancelling of layaways into the shifts of their days. */
export async function layawaysInPast(
  sql: Writer,
  past: readonly PastShift[],
  house: { customers: readonly number[]; places: readonly number[]; staffId: number },
): Promise<PastLayaways> {
  const shop = await readShop(sql);
  const rates = await taxRates(sql);
  const setup = await store.layawaySetup(sql);
  const tills = await sql.query<{ id: number; number: number }>('select id, number from till');
  const numbers = [...new Set(LAYAWAYS.flatMap(({ goods }) => goods.map(([number]) => number)))];
  const items = new Map(
    (
      await sql.query<Omit<PromiseLine, 'quantity'> & { price: Money; stocked: boolean }>(
        `select id as "itemId", number, name, unit, decimals, tax_category_id as "taxCategoryId", price, stocked
         from item where number = any ($1) and price is not null`,
        [numbers],
      )
    ).map((item) => [item.number, item]),
  );
  const shifts = past.map((shift) => ({ ...shift, sales: [...shift.sales] }));
  const mine = shifts.filter(({ till }) => till === TILL);
  const dayOf = ({ openedAt }: PastShift) => businessDate(openedAt, shop.timezone);
  const last = mine.at(-1);
  if (!last) return { shifts, laid: [] };

  const priceOf = (lines: readonly BasketLine[], day: string) =>
    priceBasket(
      linesToPrice(
        { id: '', lines: [...lines] },
        { rates: ratesOn(rates, day), groupPrices: [], goodsOf: () => undefined },
      ),
      shop,
    );
  let counted = 0;
  const ids = () => namedId(`line ${(counted += 1)}`, NAMESPACE);
  const laid: Laid[] = [];

  for (const [place, wanted] of LAYAWAYS.entries()) {
    const begin = daysAfter(dayOf(last), 0 - wanted.daysAgo);
    const shift = mine.find((one) => dayOf(one) >= begin);
    const customer = CUSTOMERS.findIndex(({ name }) => name === wanted.customer);
    const lines = wanted.goods.flatMap(([number, units]) => {
      const item = items.get(number);
      return item ? [{ ...item, units }] : [];
    });
    if (!shift || customer < 0 || lines.length === 0) continue;
    const day = dayOf(shift);
    const basket = lines.map(({ units, price, ...item }): BasketLine => ({
      ...item,
      id: ids(),
      serial: undefined,
      bundle: undefined,
      quantity: units * ONE,
      listPrice: price,
    }));
    const priced = priceOf(basket, day);
    const total = priced.total;
    const id = namedId(`layaway ${place}`, NAMESPACE);
    const terms = {
      deposit: leastDeposit(total, setup.rules.leastDeposit),
      parts: wanted.parts,
      interval: wanted.interval,
      firstDay: daysAfter(day, wanted.interval === 'week' ? 7 : wanted.interval === 'fortnight' ? 14 : 30),
      fee: wanted.fee ?? 0,
    };
    const plan = layawayPlan(total, terms, day);
    const promised = basket.map((line, at): PromiseLine & { stocked: boolean } => {
      const figures = priced.lines[at];
      return {
        ...line,
        position: at + 1,
        handed: 0,
        unitPrice: line.listPrice,
        regular: figures?.regular ?? 0,
        net: figures?.net ?? 0,
        tax: dueOf(basket, priced, (one) => one.id === line.id) - (figures?.net ?? 0),
        records: figures?.records ?? [],
        serial: null,
        note: '',
        gift: false,
        ageChecked: false,
        bundle: null,
        order: null,
        stocked: lines[at]?.stocked ?? false,
      };
    });
    const at = DateTime.fromJSDate(shift.openedAt)
      .plus({ minutes: 40 + place })
      .toJSDate();
    const atTill: PromiseAtTill = {
      id,
      number: promiseNumber('layaway', place + 1),
      held: 0,
      lines: promised,
      depositItem: setup.depositItem,
      feeItem: setup.feeItem,
    };
    const ring = (on: PastShift, minutes: number, extra: BasketLine[]): Date => {
      const when = DateTime.fromJSDate(on.openedAt)
        .plus({ minutes: 40 + place + minutes })
        .toJSDate();
      const sale: PastSale = { at: when, customer, lines: [], promised: extra, exact: true };
      on.sales.push(sale);
      on.sales.sort((a, b) => a.at.getTime() - b.at.getTime());
      return when;
    };
    const onOrAfter = (wantedDay: string) => mine.find((one) => dayOf(one) >= wantedDay);
    payParts(plan, wanted.paid, (part, nth) => {
      const on = nth === 0 ? shift : onOrAfter(daysAfter(part.day, -1));
      if (on) ring(on, 2, [moneyLine(atTill, 'deposit', part.amount, ids)]);
    });
    const held = sum(plan.slice(0, wanted.paid).map(({ amount }) => amount));
    const ending = onOrAfter(daysAfter(plan[Math.max(0, wanted.paid - 1)]?.day ?? day, 2));
    let arrived: Date | null = null;
    let told: Date | null = null;
    let cancelled: Date | null = null;
    const steps: Laid['steps'] = [{ at, what: 'Set aside', words: wanted.note ?? '' }];
    if (ending) {
      const late = DateTime.fromJSDate(ending.openedAt).plus({ hours: 5, minutes: place }).toJSDate();
      if (wanted.end === 'arrived' || wanted.end === 'told') {
        arrived = late;
        steps.push({ at: late, what: 'Goods arrived', words: '' });
      }
      if (wanted.end === 'told') {
        told = late;
        steps.push({ at: late, what: 'Customer told', words: 'by telephone' });
      }
      if (wanted.end === 'cancelled') {
        cancelled = late;
        steps.push({ at: late, what: 'Cancelled', words: 'No longer wanted' });
      }
      if (wanted.end === 'handed' || wanted.end === 'part') {
        const leaving = new Map(
          promised
            .slice(0, wanted.end === 'part' ? 1 : undefined)
            .map(({ position, quantity }) => [position, quantity]),
        );
        const goods = goodsLines({ ...atTill, held }, leaving, ids);
        const due = priceOf(goods, dayOf(ending)).total;
        const stays = total - due;
        const used = Math.min(due, held - leastDeposit(Math.max(0, stays), setup.rules.leastDeposit));
        ring(ending, 60, [...goods, moneyLine(atTill, 'used', 0 - Math.max(0, used), ids)]);
      }
    }
    laid.push({
      made: {
        id,
        basketId: namedId(`basket ${place}`, NAMESPACE),
        kind: 'layaway',
        customerId: house.customers[customer] ?? 0,
        placeId: house.places[shift.place] ?? 0,
        tillId: tills.find(({ number }) => number === TILL)?.id ?? 0,
        staffId: house.staffId,
        at,
        taxMode: priced.taxMode,
        total,
        fee: wanted.fee ?? 0,
        note: wanted.note ?? '',
        coming: wanted.coming ?? false,
        plan,
        lines: promised,
        words: wordsOf([wanted.customer, ...lines.flatMap(({ name, number }) => [name, number])].join(' ')),
      },
      steps,
      told,
      arrived,
      cancelled,
    });
  }
  return { shifts, laid };
}

function payParts(
  plan: readonly PlanPart[],
  count: number,
  pay: (part: PlanPart, nth: number) => void,
): void {
  plan.slice(0, count).forEach(pay);
}

/** Lays layaways down before the sales that touch them. */
export async function addLayaways(sql: Writer, { laid }: PastLayaways): Promise<void> {
  for (const { made, steps, told, arrived, cancelled } of laid) {
    await goods.addPromise(sql, made);
    if (arrived) await store.markArrived(sql, made.id, arrived);
    if (cancelled) await store.markCancelled(sql, made.id, cancelled);
    if (told) await store.markTold(sql, made.id, told);
    for (const step of steps) await store.addEvent(sql, made.id, { ...step, staffId: made.staffId });
  }
}

/** What past sales did to layaways: their money, what left, and what is set aside now. */
export async function settleLayaways(sql: Writer, { laid }: PastLayaways): Promise<void> {
  await sql.query(`
    insert into promise_move (promise_id, kind, amount, sale_id, at)
    select promise_id, promise_part, net, sale_id, finished_at
    from sale_line join sale on sale.id = sale_id where promise_part in ('deposit', 'used')
    order by finished_at`);
  await sql.query(`
    update promise_line set handed = gone.quantity, set_aside = 0
    from (select promise_id, promise_position, sum(quantity) as quantity from sale_line
          where promise_part = 'goods' group by 1, 2) as gone
    where promise_line.promise_id = gone.promise_id and position = promise_position`);
  await sql.query(`
    insert into promise_event (promise_id, at, staff_id, what, words, sale_id, amount)
    select promise_id, finished_at, staff_id,
           case promise_part when 'deposit' then 'Deposit paid' when 'goods' then 'Handed over' else 'Deposit used' end,
           case promise_part when 'goods' then string_agg(name, ', ') else '' end, sale_id,
           nullif(case promise_part when 'goods' then 0 else sum(net) end, 0)
    from sale_line join sale on sale.id = sale_id where promise_id is not null
    group by promise_id, sale_id, finished_at, staff_id, promise_part order by finished_at, promise_part`);
  await sql.query('update stock_level set set_aside = 0 where set_aside > 0');
  await sql.query('update promise_line set set_aside = 0 where set_aside > 0');
  for (const { made } of laid) {
    await sql.query(
      `select set_aside(id, cancelled_at is null and (not coming or arrived_at is not null)) from promise where id = $1`,
      [made.id],
    );
    await goods.sumPromise(sql, made.id);
  }
}
