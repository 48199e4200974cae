import type { Money } from '../money.ts';
import type { Quantity } from '../quantity.ts';
import { RELAY_STATES, type RelayState } from './relay.ts';

/** The states of a promise, as they are called. */
export const PROMISE_STATES = {
  asked: 'A partner asks',
  begun: 'No deposit yet',
  coming: 'Goods to come',
  running: 'Running',
  arrived: 'Goods arrived',
  told: 'Customer told',
  paid: 'Paid, not handed over',
  part: 'Handed over in part',
  handed: 'Handed over',
  cancelled: 'Cancelled',
  placed: 'Placed',
  picking: 'Being picked',
  short: 'Short',
  ready: 'Ready',
  shipped: 'Shipped',
  ...RELAY_STATES,
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
  /** Of an order, how far it is; nothing for a layaway. */
  order: OrderProgress | null;
  /** Of a relay, how it stands with its partner; nothing for others. */
  relay: { state: RelayState; firstPayment: Money } | null;
}

/** How far an order is, beside what all promises have. */
export interface OrderProgress {
  /** A partner has passed it to the shop, and nobody has answered. */
  asked: boolean;
  /** So much is to be paid before it is picked. */
  firstPayment: Money;
  /** Units that have neither left nor lie ready, and those of them that nobody has found. */
  unready: Quantity;
  short: Quantity;
  /** Somebody has begun to pick it, or some of it is on the way. */
  begun: boolean;
  /** Nothing of it is collected. */
  shipsOnly: boolean;
  /** Something that has not left is to be shipped. */
  ships: boolean;
}

/** The state is never kept: it follows from what has happened. */
export function promiseState(facts: PromiseFacts): PromiseState {
  const { cancelledAt, units, handed, rest, held, paid, coming, arrivedAt, toldAt, order } = facts;
  if (cancelledAt !== null) return 'cancelled';
  if (order) return orderState(facts, order);
  if (facts.relay && handed < units) return paid < facts.relay.firstPayment ? 'begun' : facts.relay.state;
  if (handed >= units) return 'handed';
  if (held >= rest) return 'paid';
  if (handed > 0) return 'part';
  if (toldAt !== null) return 'told';
  if (arrivedAt !== null) return 'arrived';
  if (paid === 0) return 'begun';
  return coming ? 'coming' : 'running';
}

function orderState({ units, handed, paid }: PromiseFacts, order: OrderProgress): PromiseState {
  if (order.asked) return 'asked';
  if (handed >= units) return order.shipsOnly ? 'shipped' : 'handed';
  if (paid < order.firstPayment) return 'begun';
  if (order.short > 0) return 'short';
  if (order.unready === 0) return 'ready';
  if (order.begun) return 'picking';
  return handed > 0 ? 'part' : 'placed';
}

/** Whether goods or money of the promise still wait. */
export const isOpen = (state: PromiseState): boolean =>
  state !== 'handed' && state !== 'shipped' && state !== 'cancelled';

/** What of a promise wants somebody's attention today: of an order, all but what lies ready to be collected. */
export function wantsAttention(
  state: PromiseState,
  overdueDays: number,
  order: Pick<OrderProgress, 'ships'> | null,
): boolean {
  if (!isOpen(state)) return false;
  if (overdueDays > 0 || ['asked', 'begun', 'refused', 'delivered'].includes(state)) return true;
  return order ? state !== 'ready' || order.ships : state === 'paid' || state === 'arrived';
}
