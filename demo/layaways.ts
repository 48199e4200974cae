import { DateTime } from 'luxon';
import { goodsLines, moneyLine, type PromiseAtTill } from '../core/counter/promiseBasket.ts';
import { sum } from '../core/money.ts';
import { layawayPlan, leastDeposit } from '../core/promises/plan.ts';
import { promiseNumber } from '../core/promises/promiseNumber.ts';
import { wordsOf } from '../core/words.ts';
import { dayLater } from '../core/day.ts';
import type { Writer } from '../server/db/database.ts';
import * as goods from '../server/promises/goodsStore.ts';
import * as store from '../server/promises/store.ts';
import { CUSTOMERS } from './data/customers.ts';
import { LAYAWAYS } from './data/layaways.ts';
import type { PastShift } from './history.ts';
import { openPast, type Laid, type PastPromises } from './pastPromises.ts';

/** Puts the deposits, handovers and the cancelling of layaways into the shifts of their days. */
export async function layawaysInPast(
  sql: Writer,
  past: readonly PastShift[],
  house: { customers: readonly number[]; places: readonly number[]; staffId: number },
): Promise<PastPromises> {
  const setup = await store.layawaySetup(sql);
  const till = await openPast(
    sql,
    past,
    'layaway',
    LAYAWAYS.flatMap(({ goods: list }) => list.map(([number]) => number)),
  );
  const { shifts, mine, dayOf, priceOf, ids } = till;
  const last = mine.at(-1);
  if (!last) return { shifts, laid: [] };

  const laid: Laid[] = [];

  for (const [place, wanted] of LAYAWAYS.entries()) {
    const begin = dayLater(dayOf(last), { days: 0 - wanted.daysAgo });
    const shift = mine.find((one) => dayOf(one) >= begin);
    const customer = CUSTOMERS.findIndex(({ name }) => name === wanted.customer);
    if (!shift || customer < 0) continue;
    const day = dayOf(shift);
    const { priced, lines: promised, words } = till.promise(wanted.goods, day);
    if (promised.length === 0) continue;
    const total = priced.total;
    const id = till.idOf(String(place));
    const terms = {
      deposit: leastDeposit(total, setup.rules.leastDeposit),
      parts: wanted.parts,
      interval: wanted.interval,
      firstDay: dayLater(day, {
        days: wanted.interval === 'week' ? 7 : wanted.interval === 'fortnight' ? 14 : 30,
      }),
      fee: wanted.fee ?? 0,
    };
    const plan = layawayPlan(total, terms, day);
    const at = DateTime.fromJSDate(shift.openedAt)
      .plus({ minutes: 40 + place })
      .toJSDate();
    const atTill: PromiseAtTill = {
      id,
      number: promiseNumber('layaway', place + 1),
      held: 0,
      heldThere: 0,
      lines: promised,
      depositItem: setup.depositItem,
      feeItem: setup.feeItem,
    };
    const ring = (on: PastShift, minutes: number, extra: Parameters<typeof till.ring>[3]): Date =>
      till.ring(on, 40 + place + minutes, customer, extra);
    const onOrAfter = (wantedDay: string) => mine.find((one) => dayOf(one) >= wantedDay);
    plan.slice(0, wanted.paid).forEach((part, nth) => {
      const on = nth === 0 ? shift : onOrAfter(dayLater(part.day, { days: -1 }));
      if (on) ring(on, 2, [moneyLine(atTill, 'deposit', part.amount, ids)]);
    });
    const held = sum(plan.slice(0, wanted.paid).map(({ amount }) => amount));
    const ending = onOrAfter(dayLater(plan[Math.max(0, wanted.paid - 1)]?.day ?? day, { days: 2 }));
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
        basketId: till.idOf(`basket ${place}`),
        kind: 'layaway',
        customerId: house.customers[customer] ?? 0,
        placeId: house.places[shift.place] ?? 0,
        tillId: till.tillId,
        staffId: house.staffId,
        at,
        taxMode: priced.taxMode,
        total,
        fee: wanted.fee ?? 0,
        note: wanted.note ?? '',
        coming: wanted.coming ?? false,
        plan,
        lines: promised,
        words: wordsOf(`${wanted.customer} ${words}`),
      },
      steps,
      told,
      arrived,
      cancelled,
    });
  }
  return { shifts, laid };
}

/** Lays promises down before the sales that touch them. */
export async function addPromises(sql: Writer, { laid }: PastPromises): Promise<void> {
  for (const { made, steps, told, arrived, cancelled } of laid) {
    await goods.addPromise(sql, made);
    if (arrived) await store.markArrived(sql, made.id, arrived);
    if (cancelled) await store.markCancelled(sql, made.id, cancelled);
    if (told) await store.markTold(sql, made.id, told);
    for (const step of steps) await store.addEvent(sql, made.id, { ...step, staffId: made.staffId });
  }
}

/** What past sales did to promises: their money, what left, and what is set aside now. */
export async function settlePromises(sql: Writer, { laid }: PastPromises): Promise<void> {
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
      `select set_aside(id, cancelled_at is null and (not coming or arrived_at is not null)) from promise
        where id = $1`,
      [made.id],
    );
    await goods.sumPromise(sql, made.id);
  }
}
