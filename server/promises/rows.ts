import type { PromiseRow } from '../../contract/promises.ts';
import type { WaitingFacts } from '../../core/promises/may.ts';
import { planStanding } from '../../core/promises/plan.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { isOpen, promiseState } from '../../core/promises/state.ts';
import { businessDate, iso } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import { readShop } from '../shop/store.ts';
import { promiseList, type PromiseRowFacts } from './store.ts';

/** The shop's calendar day, `YYYY-MM-DD`. */
export async function shopToday(sql: Reader, at: Date): Promise<string> {
  return businessDate(at, (await readShop(sql)).timezone);
}

/** A promise as lists show it. @param today `YYYY-MM-DD` */
export function rowOf(row: PromiseRowFacts, today: string): PromiseRow {
  const { id, kind, count, customer, customerId, goods, madeAt, total, held, rest, placeId, place } = row;
  const state = promiseState(row);
  const standing = planStanding(row.plan, row.paid, today, rest - held);
  const waits = isOpen(state) && state !== 'paid';
  return {
    id,
    kind,
    number: promiseNumber(kind, count),
    state,
    customer,
    customerId,
    goods,
    madeAt: iso(madeAt),
    total,
    held,
    rest,
    next: waits ? standing.next : null,
    overdueDays: waits ? standing.overdueDays : 0,
    placeId,
    place,
  };
}

/** What may become of a promise is judged by this. */
export const waitingFacts = (row: PromiseRowFacts): Pick<WaitingFacts, 'state' | 'coming'> => ({
  state: promiseState(row),
  coming: row.coming && row.arrivedAt === null,
});

/** What waits for a customer. */
export async function promisesFor(sql: Reader, customerId: number, at: Date): Promise<PromiseRow[]> {
  const today = await shopToday(sql, at);
  const { rows } = await promiseList(sql, { show: 'open', customer: customerId, page: 0, words: [] }, today);
  return rows.map((row) => rowOf(row, today));
}
