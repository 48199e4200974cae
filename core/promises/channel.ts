import type { Money } from '../money.ts';
import { sentProblem } from './may.ts';
import { goesBack, type PromiseLine } from './promised.ts';
import { isOpen, type PromiseState } from './state.ts';

/**
 * Whether something reads like what an order is called where it was placed: letters, a dash, and a number, e.g.
 * `WEB-1001`. A name with a dash does not.
 */
export const isOrderReference = (text: string): boolean =>
  /^[A-Z][\dA-Z]{1,11}-(?=[A-Z]*\d)[\dA-Z]{1,20}$/i.test(text.trim());

/**
 * Why a channel's numbers cannot begin otherwise from now on; `null` where they can. @param ordered whether it has
 * orders
 */
export const channelPrefixProblem = (was: string, wanted: string, ordered: boolean): string | null =>
  ordered && was !== wanted ? `Orders were placed there: their numbers begin with ${was}.` : null;

/** An order as it is judged when it is cancelled where it was placed. */
export interface CancelledThere {
  state: PromiseState;
  handed: number;
  held: Money;
  heldThere: Money;
  /** Money was taken for its goods at a till just now. */
  beingPaid: boolean;
  lines: readonly PromiseLine[];
}

/** Why an order cannot be cancelled where it was placed; `null` where it can. */
export function cancelThereProblem(order: CancelledThere): string | null {
  const { state, handed, lines, beingPaid } = order;
  if (state === 'handed' || state === 'shipped') return 'It was handed over.';
  if (handed > 0) return 'Some of it was handed over: the rest is cancelled at the shop.';
  if (beingPaid) return 'It is being handed over just now.';
  if (goesBack(order) > 0) return 'A deposit was paid at the shop: it is cancelled there.';
  return sentProblem(lines);
}

/** Why so much cannot be paid where an order was placed; `null` where it can. */
export function payThereProblem(
  { state, rest, held, beingPaid }: Pick<CancelledThere, 'state' | 'held' | 'beingPaid'> & { rest: Money },
  amount: Money,
): string | null {
  if (!isOpen(state)) return 'Nothing waits here any more.';
  if (beingPaid) return 'It is being paid at the shop just now.';
  return amount > rest - held ? 'More was paid than is left to pay.' : null;
}
