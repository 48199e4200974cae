import type { PromiseRow } from '../../contract/promises.ts';
import type { WaitingFacts } from '../../core/promises/may.ts';
import { daysLate, planStanding } from '../../core/promises/plan.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { isOpen, promiseState, type PromiseState } from '../../core/promises/state.ts';
import { iso } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import { shopToday } from '../shop/store.ts';
import { promiseList, type PromiseRowFacts } from './store.ts';

/** A promise as lists show it. @param today `YYYY-MM-DD` */
export function rowOf(row: PromiseRowFacts, today: string): PromiseRow {
  const {
    id,
    kind,
    count,
    customer,
    customerId,
    stage,
    goods,
    madeAt,
    total,
    held,
    heldThere,
    rest,
    placeId,
    place,
    placedAt,
  } = row;
  const state = promiseState(row);
  return {
    id,
    kind,
    number: promiseNumber(kind, count),
    state,
    stage,
    customer,
    customerId,
    goods,
    madeAt: iso(madeAt),
    total,
    held,
    heldThere,
    rest,
    ...standingOf(row, state, today),
    placeId,
    place,
    placedAt,
    relay: row.relay && { state: row.relay.state, partner: row.relay.partner, day: row.relay.day },
    order: row.order && {
      collect: row.collect,
      recipient: row.ship?.recipient ?? '',
      ships: row.order.ships,
    },
  };
}

/**
 * What is paid next and since when something is overdue: a part of a layaway, or the day on which an order is
 * collected.
 */
function standingOf(
  { kind, plan, paid, rest, held, nextDue }: PromiseRowFacts,
  state: PromiseState,
  today: string,
): Pick<PromiseRow, 'next' | 'overdueDays'> {
  if (!isOpen(state) || state === 'paid') return { next: null, overdueDays: 0 };
  if (kind !== 'layaway') return { next: null, overdueDays: nextDue ? daysLate(nextDue, today) : 0 };
  const { next, overdueDays } = planStanding(plan, paid, today, rest - held);
  return { next, overdueDays };
}

/** What may become of a promise is judged by this. */
export const waitingFacts = (row: PromiseRowFacts): Pick<WaitingFacts, 'kind' | 'state' | 'coming'> => ({
  kind: row.kind,
  state: promiseState(row),
  coming: row.coming && row.arrivedAt === null,
});

/** What waits for a customer. */
export async function promisesFor(sql: Reader, customerId: number, at: Date): Promise<PromiseRow[]> {
  const today = await shopToday(sql, at);
  const { rows } = await promiseList(sql, { show: 'open', customer: customerId, page: 0, words: [] }, today);
  return rows.map((row) => rowOf(row, today));
}
