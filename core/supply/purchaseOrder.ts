import type { Quantity } from '../quantity.ts';

/** Where an order to a supplier stands; what came of it follows from its lines. */
export const ORDER_STATES = { draft: 'Draft', sent: 'Sent', closed: 'Closed' } as const;
export type OrderState = keyof typeof ORDER_STATES;

export const MOST_ORDER_LINES = 500;

/** An order's number as it is written. */
export const orderNumber = (number: number): string => `B-${String(number).padStart(4, '0')}`;
/** A delivery's number as it is written. */
export const deliveryNumber = (number: number): string => `E-${String(number).padStart(4, '0')}`;

/** A return to a supplier, as its number is written. */
export const supplierReturnNumber = (number: number): string => `R-${String(number).padStart(4, '0')}`;

/** How much of a line of a delivery can still go back: what came whole, less what went back. */
export const canGoBack = (line: { quantity: Quantity; damaged: Quantity; back: Quantity }): Quantity =>
  Math.max(0, line.quantity - line.damaged - line.back);

interface Line {
  quantity: Quantity;
  received: Quantity;
}

/** What is still to come of a line. */
export const stillToCome = ({ quantity, received }: Line): Quantity => Math.max(0, quantity - received);

/** How far an order is, in words. */
export function orderWords(state: OrderState, lines: readonly Line[]): string {
  const came = lines.some(({ received }) => received > 0);
  const open = lines.some((line) => stillToCome(line) > 0);
  if (state === 'draft' && !came) return ORDER_STATES.draft;
  if (!open && lines.length > 0) return 'Received';
  if (state === 'closed') return came ? 'Closed, not all of it came' : ORDER_STATES.closed;
  return came ? 'Part of it came' : ORDER_STATES.sent;
}

/** How complete and how fast a supplier delivered. @property days from sending to the last goods, on average */
export interface Reliability {
  orders: number;
  days: number | null;
  /** Millionths of what was ordered. */
  complete: number | null;
}

export function reliability(
  orders: readonly { ordered: Quantity; received: Quantity; days: number | null }[],
): Reliability {
  const took = orders.flatMap(({ days }) => (days === null ? [] : [days]));
  const ordered = orders.reduce((all, order) => all + order.ordered, 0);
  const received = orders.reduce((all, order) => all + Math.min(order.received, order.ordered), 0);
  return {
    orders: orders.length,
    days: took.length > 0 ? Math.round(took.reduce((all, days) => all + days, 0) / took.length) : null,
    complete: ordered > 0 ? Math.floor((received / ordered) * 1_000_000) : null,
  };
}
