import type { Money } from '../money.ts';
import { restOf, type PromiseLine } from './promised.ts';
import { isOpen, type PromiseState } from './state.ts';

/** What may become of a promise is judged by this, by the page and, with its row locked, by the server. */
export interface WaitingFacts {
  state: PromiseState;
  /** Deposits that are held. */
  held: Money;
  /** What the goods that are left come to, with tax. */
  rest: Money;
  /** The goods are not here yet. */
  coming: boolean;
  customer: string;
  customerId: number;
  mail: string;
  phone: string;
  placeId: number;
  place: string;
}

/** Why nothing more is done with a promise; `null` where something waits. */
export const overProblem = ({ state }: Pick<WaitingFacts, 'state'>): string | null =>
  isOpen(state) ? null : 'Nothing waits here any more.';

/** Why a line of goods cannot be taken out; `null` where it can. */
export function takeOutProblem(
  facts: Pick<WaitingFacts, 'state' | 'held' | 'rest'>,
  lines: readonly PromiseLine[],
  position: number,
): string | null {
  const over = overProblem(facts);
  if (over) return over;
  const line = lines.find((one) => one.position === position);
  if (!line || line.handed > 0) return 'These goods were handed over or taken out.';
  if (lines.length === 1) return 'It is the last line: cancel the layaway instead.';
  if (facts.held > facts.rest - restOf(line)) {
    return 'More is held than the rest comes to: hand something over first, or cancel the layaway.';
  }
  return null;
}

/** Why goods cannot be added that a customer takes at a place; `null` where they can. */
export function addProblem(
  facts: Pick<WaitingFacts, 'state' | 'customer' | 'customerId' | 'place' | 'placeId'>,
  more: { customerId: number | undefined; placeId: number },
): string | null {
  const over = overProblem(facts);
  if (over) return over;
  if (facts.customerId !== more.customerId)
    return `This layaway is ${facts.customer}’s: make one for this customer.`;
  return facts.placeId === more.placeId ? null : `This layaway waits at ${facts.place}: make one here.`;
}

/** Why goods cannot be said to have arrived; `null` where they can. */
export const arriveProblem = (facts: Pick<WaitingFacts, 'state' | 'coming'>): string | null =>
  overProblem(facts) ?? (facts.coming ? null : 'The goods are here and set aside already.');

/** Why no message can be sent to the customer; `null` where one can. */
export const remindProblem = (
  facts: Pick<WaitingFacts, 'state' | 'customer' | 'mail' | 'phone'>,
): string | null =>
  overProblem(facts) ??
  (facts.mail || facts.phone ? null : `${facts.customer} has neither a mail address nor a telephone number.`);

/** Why a promise cannot be given up without money; `null` where it can. */
export const dropProblem = (facts: Pick<WaitingFacts, 'state' | 'held'>): string | null =>
  overProblem(facts) ?? (facts.held > 0 ? 'A deposit is held: it goes back at the Counter.' : null);
