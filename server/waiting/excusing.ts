import type { ExcusedPayment } from '../../contract/orders.ts';
import type { PromiseView } from '../../contract/promises.ts';
import type { Person } from '../../contract/staff.ts';
import { excuseStep, overProblem } from '../../core/promises/may.ts';
import type { Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { excuseFirstPayment } from '../promises/orderStore.ts';
import { addEvent } from '../promises/store.ts';
import { approvalFor } from '../staff/approval.ts';
import { lockPromise, promiseView, refuse } from './promises.ts';

/**
 * Lets an order go on although what was to be paid first is not paid; somebody with the right to it says so, in place.
 * @throws Problem 403 `countersign-needed`, 404, 409 where nothing is missing
 */
export async function excusePayment(
  sql: Writer,
  person: Person,
  id: string,
  { reason, countersign }: ExcusedPayment,
  at: Date,
): Promise<PromiseView> {
  const promise = await lockPromise(sql, id);
  refuse(overProblem(promise));
  const missing = (promise.order?.firstPayment ?? 0) - promise.paid;
  if (missing <= 0) throw new Problem('promise-changed', 'What was to be paid first is paid, or excused.');
  const step = excuseStep(missing);
  await approvalFor(sql, person, { about: id, countersign, right: 'order.unpaid', step, at });
  await excuseFirstPayment(sql, id);
  await addEvent(sql, id, { at, staffId: person.staffId, what: 'Deposit excused', words: reason });
  return promiseView(sql, id, at);
}
