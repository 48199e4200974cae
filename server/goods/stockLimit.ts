import { v4 as newId } from 'uuid';
import type { Person, WantedApproval } from '../../contract/staff.ts';
import type { Money } from '../../core/money.ts';
import type { Step } from '../../core/staff/approval.ts';
import type { Writer } from '../db/database.ts';
import { approvalFor } from '../staff/approval.ts';
import { stockLimits } from '../staff/limitStore.ts';
import { addStockApproval } from './stockStore.ts';

/** How much of what is put right, by what it cost. */
export interface StockStep {
  /** What is approved, e.g. `count:12`. */
  subject: string;
  /** In thousandths, where it is about one item. */
  quantity: number | null;
  cost: Money;
}

/**
 * Whoever puts more right than the limit of their role needs an approval of just this.
 * @returns its id, or `null` where none is needed. @throws Problem 403 `countersign-needed`
 */
export async function approveStock(
  sql: Writer,
  person: Person,
  { subject, quantity, cost }: StockStep,
  { approval, at }: { approval: WantedApproval | null; at: Date },
): Promise<string | null> {
  const limit = (await stockLimits(sql))[person.role];
  if (limit === null || cost <= limit) return null;
  const step: Step = {
    subject,
    from: null,
    to: quantity,
    unit: quantity === null ? 'money' : 'quantity',
    amount: cost,
  };
  return approvalFor(sql, person, {
    about: approval?.about ?? newId(),
    countersign: approval?.countersign,
    right: 'stock.large',
    step,
    at,
  });
}

/** Notes who approved what an event put right. */
export async function noteApproval(sql: Writer, event: number, approval: string | null): Promise<void> {
  if (approval !== null) await addStockApproval(sql, event, approval);
}
