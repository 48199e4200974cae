import type { Money } from '../money.ts';
import type { Quantity } from '../quantity.ts';

/** The states of a promise, as they are called. */
export const PROMISE_STATES = {
  begun: 'No deposit yet',
  coming: 'Goods to come',
  running: 'Running',
  arrived: 'Goods arrived',
  told: 'Customer told',
  paid: 'Paid, not handed over',
  part: 'Handed over in part',
  handed: 'Handed over',
  cancelled: 'Cancelled',
} as const;

export type PromiseState = keyof typeof PROMISE_STATES;

/** What the state of a promise follows from. */
export interface PromiseFacts {
  cancelledAt: string | null;
  /** Units that were promised, and those of them that were handed over. */
  units: Quantity;
  handed: Quantity;
  /** What the goods that are left come to, with tax. */
  rest: Money;
  /** Deposits that are held. */
  held: Money;
  /** All deposits that were ever paid. */
  paid: Money;
  /** The goods are not here yet. */
  coming: boolean;
  arrivedAt: string | null;
  toldAt: string | null;
}

/** The state is never kept: it follows from what has happened. */
export function promiseState(facts: PromiseFacts): PromiseState {
  const { cancelledAt, units, handed, rest, held, paid, coming, arrivedAt, toldAt } = facts;
  if (cancelledAt !== null) return 'cancelled';
  if (handed >= units) return 'handed';
  if (held >= rest) return 'paid';
  if (handed > 0) return 'part';
  if (toldAt !== null) return 'told';
  if (arrivedAt !== null) return 'arrived';
  if (paid === 0) return 'begun';
  return coming ? 'coming' : 'running';
}

/** Whether goods or money of the promise still wait. */
export const isOpen = (state: PromiseState): boolean => state !== 'handed' && state !== 'cancelled';

/** What of a promise wants somebody's attention today. */
export const wantsAttention = (state: PromiseState, overdueDays: number): boolean =>
  isOpen(state) && (state === 'paid' || state === 'arrived' || state === 'begun' || overdueDays > 0);
