import { formatMoney, sum, type Money } from '../money.ts';
import type { PricedBasket } from '../pricing/price.ts';
import { bookProblem, type RelayState } from '../promises/relay.ts';
import { firstPaymentProblem, leaveProblem, relayGiveUpProblem, sentProblem } from '../promises/may.ts';
import {
  goesBack,
  handoverFigures,
  restOf,
  type PromisedPart,
  type PromiseLine,
} from '../promises/promised.ts';
import { ONE } from '../quantity.ts';
import type { BasketLine } from './basket.ts';

/** What is known of a promise when a basket touches it. */
export interface PromiseInBasket {
  id: string;
  number: string;
  cancelled: boolean;
  /** Deposits that are held. */
  held: Money;
  /** What of it was paid where it was ordered: it goes back there, not at a till. */
  heldThere: Money;
  /** What was agreed to be kept when nothing comes of it. */
  fee: Money;
  /** What the goods that are left come to, with tax. */
  rest: Money;
  /** All deposits that were ever paid, and what has to be paid before the goods leave. */
  paid: Money;
  firstPayment: Money;
  /** A partner has passed it to the shop, and nobody has answered. */
  asked: boolean;
  /** Of a relay, how it stands with its partner. */
  relay: { state: RelayState } | null;
  lines: PromiseLine[];
  /** The place of the till. */
  atPlace: number;
  /** The sales with which its deposits were paid. */
  depositSales: string[];
}

/** What the lines of one promise in a basket are, and what they bring. */
interface OfPromise {
  promise: PromiseInBasket;
  lines: readonly BasketLine[];
  digits: number;
}

const amountOf = (lines: readonly BasketLine[], part: PromisedPart): Money =>
  sum(lines.filter(({ promised }) => promised?.part === part).map(({ listPrice }) => listPrice));

/** What money of a promise is called on a line. */
export const moneyName = (part: PromisedPart, number: string): string => `${MONEY_WORDS[part]} ${number}`;

const MONEY_WORDS: Readonly<Record<PromisedPart, string>> = {
  goods: 'Goods of',
  deposit: 'Deposit for',
  used: 'Deposit used,',
  back: 'Deposit given back,',
  fee: 'Fee for cancelling',
};

/** Why what a basket has of a promise cannot be; `null` where it can. */
function problemOf({ promise, lines, digits }: OfPromise): string | null {
  const { number, held, heldThere, rest } = promise;
  const money = (amount: Money) => formatMoney(amount, digits);
  const deposit = amountOf(lines, 'deposit');
  const used = amountOf(lines, 'used');
  const back = amountOf(lines, 'back');
  const fee = amountOf(lines, 'fee');
  const goods = lines.filter(({ promised }) => promised?.part === 'goods');
  if (promise.asked) return `${number}: a partner waits for an answer, under Waiting.`;
  const unpaid = firstPaymentProblem(
    { ...promise, paid: promise.paid + deposit },
    goods.flatMap(({ promised }) => promised?.position ?? []),
  );
  if (unpaid) return unpaid;
  const others = lines.filter(({ promised }) => promised?.part !== 'goods');
  if (others.some(({ quantity }) => quantity !== ONE))
    return `${number}: money of a promise stands on a line once.`;
  if (deposit < 0 || fee < 0 || used > 0 || back > 0)
    return `${number}: the amounts are not what they stand for.`;
  const payable = Math.max(0, rest - restLeaving(promise, goods) - held);
  if (deposit > payable) {
    return `Only ${money(payable)} is left to pay on ${number}. Look at it under Waiting again.`;
  }
  if (0 - used > held) return `Only ${money(held)} is held for ${number}. Look at it under Waiting again.`;
  if (used !== 0 && goods.length === 0) return `A deposit of ${number} is used for its goods only.`;
  if (fee > 0 && (back === 0 || goods.length > 0))
    return `${number}: a fee is kept of a deposit when nothing comes of it.`;
  if (fee > promise.fee) return `${number}: at most the agreed fee of ${money(promise.fee)} is kept.`;
  const cancels = back !== 0 && goods.length === 0;
  const booked = goods.length > 0 && promise.relay ? bookProblem(promise.relay.state) : null;
  if (booked) return `${number}: ${booked}`;
  const onTheWay = cancels ? (relayGiveUpProblem(promise.relay) ?? sentProblem(promise.lines)) : null;
  if (onTheWay) return `${number}: ${onTheWay}`;
  if (back === 0 && !leavesNothing(promise, goods)) return null;
  // Nothing waits any more afterwards: nothing stays held, either.
  if (back !== 0 && goods.length > 0 && !leavesNothing(promise, goods))
    return `A deposit of ${number} goes back when all of its goods have left, or none of them does.`;
  if (deposit !== 0 || 0 - back !== goesBack({ held: held + used, heldThere }))
    return `${money(held)} is held for ${number} now. Look at it under Waiting again.`;
  return null;
}

/** What the goods that leave took of what was left, with the tax of the day they were promised. */
const restLeaving = ({ lines }: PromiseInBasket, goods: readonly BasketLine[]): Money =>
  sum(
    goods.map(({ promised, quantity }) => {
      const known = lines.find(({ position }) => position === promised?.position);
      return known ? restOf(known) - restOf({ ...known, handed: known.handed + quantity }) : 0;
    }),
  );

/** Whether all that is left of a promise leaves. */
const leavesNothing = ({ lines }: PromiseInBasket, goods: readonly BasketLine[]): boolean =>
  goods.length > 0 &&
  lines.every(({ position, quantity, handed }) => {
    const going = goods.filter(({ promised }) => promised?.position === position);
    return handed + sum(going.map((line) => line.quantity)) >= quantity;
  });

/** A line of promised goods as the promise has it. @returns words where it has not */
function goodsAgain(line: BasketLine, { number, lines, atPlace }: PromiseInBasket): BasketLine | string {
  const { promised, quantity } = line;
  const known = lines.find(({ position }) => position === promised?.position);
  if (!promised || known?.itemId !== line.itemId) return `${line.name} does not belong to ${number}.`;
  const left = known.quantity - known.handed;
  if (quantity <= 0 || quantity > left)
    return `${line.name} of ${number} was handed over meanwhile. Look at it under Waiting again.`;
  if (known.serial !== (line.serial ?? null))
    return `${line.name} of ${number} has the serial number ${known.serial ?? ''}.`;
  const elsewhere = leaveProblem(known, atPlace);
  if (elsewhere) return `${number}: ${elsewhere}`;
  const { itemId, name, unit, decimals, taxCategoryId } = known;
  const figures = handoverFigures(known, quantity);
  return {
    ...line,
    itemId,
    number: known.number,
    name,
    unit,
    decimals,
    taxCategoryId,
    listPrice: figures.unitPrice,
    promised: { ...promised, number, figures },
  };
}

const moneyAgain = (line: BasketLine, part: PromisedPart, { id, number }: PromiseInBasket): BasketLine => ({
  ...line,
  name: moneyName(part, number),
  promised: { promiseId: id, number, part },
});

/**
 * The lines of a basket that belong to promises, worked out again: what the browser says of them counts for nothing.
 * @returns the lines by their id, or words for what cannot be
 */
export function promisedAgain(
  lines: readonly BasketLine[],
  promises: ReadonlyMap<string, PromiseInBasket>,
  digits: number,
): ReadonlyMap<string, BasketLine> | string {
  const again = new Map<string, BasketLine>();
  for (const id of new Set(lines.flatMap(({ promised }) => promised?.promiseId ?? []))) {
    const mine = lines.filter(({ promised }) => promised?.promiseId === id);
    const promise = promises.get(id);
    if (!promise) return `${mine[0]?.promised?.number ?? ''} is not known any more. Take its lines out.`;
    if (promise.cancelled) return `${promise.number} was cancelled. Take its lines out.`;
    const positions = mine.flatMap(({ promised }) => promised?.position ?? []);
    if (new Set(positions).size < positions.length)
      return `A line of ${promise.number} is in the basket twice.`;
    for (const line of mine) {
      const part = line.promised?.part ?? 'deposit';
      const found = part === 'goods' ? goodsAgain(line, promise) : moneyAgain(line, part, promise);
      if (typeof found === 'string') return found;
      again.set(line.id, found);
    }
    const problem = problemOf({ promise, lines: mine, digits });
    if (problem) return problem;
  }
  return again;
}

/** What lines come to, with tax on top. */
export function dueOf(
  lines: readonly BasketLine[],
  priced: PricedBasket,
  which: (line: BasketLine) => boolean,
): Money {
  const figures = new Map(priced.lines.map((line) => [line.id, line]));
  return sum(
    lines.filter(which).map(({ id }) => {
      const found = figures.get(id);
      if (!found) return 0;
      return found.net + (priced.taxMode === 'on-top' ? sum(found.taxes.map(({ tax }) => tax)) : 0);
    }),
  );
}

/** What a basket does to one promise. */
export interface PromiseChange {
  id: string;
  /** What moves of its money: what is paid above zero, what is used, kept and given back below. */
  moves: { kind: 'deposit' | 'used' | 'fee' | 'back'; amount: Money }[];
  /** Goods that are handed over. */
  handed: { position: number; quantity: number }[];
}

/**
 * What a priced basket does to the promises in it. @returns words where more of a deposit is used than goods leave
 * for
 */
export function promiseChanges(lines: readonly BasketLine[], priced: PricedBasket): PromiseChange[] | string {
  const changes: PromiseChange[] = [];
  for (const id of new Set(lines.flatMap(({ promised }) => promised?.promiseId ?? []))) {
    const mine = lines.filter(({ promised }) => promised?.promiseId === id);
    const number = mine[0]?.promised?.number ?? '';
    const due = (part: PromisedPart) => dueOf(mine, priced, ({ promised }) => promised?.part === part);
    const used = due('used');
    const back = due('back');
    const fee = due('fee');
    if (0 - used > due('goods')) return `More of the deposit of ${number} is used than its goods come to.`;
    if (fee > 0 - back) return `The fee is more than what is held for ${number}.`;
    const moves: PromiseChange['moves'] = [
      { kind: 'deposit', amount: due('deposit') },
      { kind: 'used', amount: used },
      { kind: 'fee', amount: 0 - fee },
      { kind: 'back', amount: back + fee },
    ];
    changes.push({
      id,
      moves: moves.filter(({ amount }) => amount !== 0),
      handed: mine.flatMap(({ promised, quantity }) =>
        promised?.part === 'goods' ? [{ position: promised.position ?? 0, quantity }] : [],
      ),
    });
  }
  return changes;
}
