import type { Money } from '../money.ts';
import type { Step } from '../staff/approval.ts';
import { formatQuantity, type Quantity } from '../quantity.ts';
import { giveUpProblem, type RelayState } from './relay.ts';
import { goesBack, restOf, type PromiseLine } from './promised.ts';
import type { PromiseKind } from './promiseNumber.ts';
import { isOpen, type PromiseState } from './state.ts';

/** What may become of a promise is judged by this, by the page and, with its row locked, by the server. */
export interface WaitingFacts {
  kind: PromiseKind;
  state: PromiseState;
  /** Deposits that are held, and what of them was paid where it was ordered. */
  held: Money;
  heldThere: Money;
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

/** Why nothing more is done with a promise, or not before a partner is answered; `null` where something waits. */
export const overProblem = ({ state }: Pick<WaitingFacts, 'state'>): string | null =>
  state === 'asked' ? 'A partner waits for an answer first.' : goneProblem(state);

const goneProblem = (state: PromiseState): string | null =>
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
  if (lines.length === 1) return 'It is the last line: cancel all of it instead.';
  if (line.order?.sent) return onTheWay(line);
  if (facts.held > facts.rest - restOf(line)) {
    return 'More is held than the rest comes to: hand something over first, or cancel all of it.';
  }
  return null;
}

/** Why goods cannot be added that a customer takes at a place; `null` where they can. */
export function addProblem(
  facts: Pick<WaitingFacts, 'kind' | 'state' | 'customer' | 'customerId' | 'place' | 'placeId'> & {
    exemption: object | null;
  },
  more: { customerId: number | undefined; placeId: number; exemption: object | undefined },
): string | null {
  const over = overProblem(facts);
  if (over) return over;
  if (facts.kind !== 'layaway') return 'Goods are added to layaways only: make an order of its own.';
  if (facts.customerId !== more.customerId)
    return `This layaway is ${facts.customer}’s: make one for this customer.`;
  if ((facts.exemption === null) !== (more.exemption === undefined))
    return `This layaway is ${facts.exemption ? 'without' : 'with'} tax, these goods are not: make one for them.`;
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
export const dropProblem = (
  facts: Pick<WaitingFacts, 'state' | 'held' | 'heldThere'> & { relay: { state: RelayState } | null },
  lines: readonly PromiseLine[],
): string | null =>
  goneProblem(facts.state) ??
  relayGiveUpProblem(facts.relay) ??
  sentProblem(lines) ??
  (goesBack(facts) > 0 ? 'A deposit is held: it goes back at the Counter.' : null);

/** Why a relay stays as it is while its partner has it; `null` for all else, and where it can be given up. */
export const relayGiveUpProblem = (relay: { state: RelayState } | null): string | null =>
  relay && giveUpProblem(relay.state);

const onTheWay = ({ name }: PromiseLine): string => `${name} is on the way: say first that it has arrived.`;

/** Why a promise cannot be given up yet: some of it is on the way. */
export function sentProblem(lines: readonly PromiseLine[]): string | null {
  const sent = lines.find(({ order }) => order?.sent);
  return sent ? onTheWay(sent) : null;
}

/** Why a line of an order cannot leave at a place; `null` where it can. */
export function leaveProblem(line: PromiseLine, placeId: number): string | null {
  const { order, name } = line;
  if (!order) return null;
  if (order.sent) return onTheWay(line);
  if (order.way === 'ship' || order.placeId === placeId) return null;
  return `${name} is at ${order.place}: have it sent here first.`;
}

/** Why goods cannot leave before what was to be paid first is paid, or excused; `null` where they can. */
export function firstPaymentProblem(
  promise: { number: string; paid: Money; firstPayment: Money; lines: readonly PromiseLine[] },
  leaving: readonly number[],
): string | null {
  // What is taken along when it is ordered is paid like all goods.
  const waited = promise.lines.some(
    ({ position, order }) => leaving.includes(position) && order !== null && order.way !== 'take',
  );
  return waited && promise.paid < promise.firstPayment
    ? `The deposit of ${promise.number} was not paid: take it, or have it excused under Waiting.`
    : null;
}

/** What is approved where an order goes on although so much was not paid. */
export const excuseStep = (missing: Money): Step => ({
  subject: 'deposit',
  from: null,
  to: null,
  unit: 'money',
  amount: missing,
});

/** What of a line is still to be picked. */
export const toPick = ({ quantity, order }: PromiseLine): Quantity =>
  order ? Math.max(0, quantity - order.picked) : 0;

/** What of a line is to be looked for: all that is to be picked but what nobody has found. */
export const toFind = (line: PromiseLine): Quantity => toPick(line) - (line.order?.short ?? 0);

/** Why so many units of a line cannot be said to be found; `null` where they can. */
export function pickProblem(line: PromiseLine, found: Quantity): string | null {
  if (!line.order) return 'Only orders are picked.';
  if (line.order.sent) return onTheWay(line);
  const left = toPick(line);
  if (left === 0) return `${line.name} was picked already.`;
  return found < 0 || found > left ? `Of ${line.name} ${formatQuantity(left)} are still to be picked.` : null;
}

/** Why what is missing of a line cannot be picked elsewhere; `null` where it can. */
export function sourceProblem(line: PromiseLine, placeId: number): string | null {
  if (!line.order || toPick(line) === 0) return `${line.name} was picked already.`;
  if (line.order.placeId === placeId) return `${line.name} is picked at ${line.order.place} already.`;
  return line.order.sent ? onTheWay(line) : null;
}

/** Whether a line can be sent to the place where it is collected. */
export const canBeSent = (line: PromiseLine, collectAt: number | null): boolean =>
  line.order?.way === 'collect' &&
  !line.order.sent &&
  line.order.placeId !== collectAt &&
  line.handed === 0 &&
  toPick(line) === 0;

/** Whether something waits to be collected, and all of it lies where that is. @param collectAt where it is collected */
export function collectReady(lines: readonly PromiseLine[], collectAt: number | null): boolean {
  const waiting = lines.filter((line) => line.order?.way === 'collect' && line.handed < line.quantity);
  return (
    waiting.length > 0 &&
    waiting.every((line) => toPick(line) === 0 && !line.order?.sent && line.order?.placeId === collectAt)
  );
}
