import { sum, type Money } from '../money.ts';
import {
  depositToUse,
  goesBack,
  handoverFigures,
  restOf,
  type MoneyItem,
  type PromisedPart,
  type PromiseLine,
} from '../promises/promised.ts';
import { leastDeposit } from '../promises/plan.ts';
import type { Rate } from '../rate.ts';
import { ONE, type Quantity } from '../quantity.ts';
import type { Basket, BasketLine } from './basket.ts';
import { moneyName } from './promisedLines.ts';

/** A promise as a till brings it into a basket. */
export interface PromiseAtTill {
  id: string;
  number: string;
  /** Deposits that are held, and what of them was paid where it was ordered. */
  held: Money;
  heldThere: Money;
  lines: readonly PromiseLine[];
  depositItem: MoneyItem;
  feeItem: MoneyItem;
}

type NewId = () => string;

/** Money of a promise as a line of a basket. @param amount below zero where it is used or goes back */
export function moneyLine(
  { id: promiseId, number, depositItem, feeItem }: Omit<PromiseAtTill, 'held' | 'heldThere' | 'lines'>,
  part: Exclude<PromisedPart, 'goods'>,
  amount: Money,
  newId: NewId,
): BasketLine {
  return {
    id: newId(),
    ...(part === 'fee' ? feeItem : depositItem),
    name: moneyName(part, number),
    decimals: 0,
    quantity: ONE,
    listPrice: amount,
    promised: { promiseId, number, part },
  };
}

/** Goods of a promise that leave, at the prices that were promised. @param wanted how many of which line */
export function goodsLines(
  { id: promiseId, number: of, lines }: PromiseAtTill,
  wanted: ReadonlyMap<number, Quantity>,
  newId: NewId,
): BasketLine[] {
  return lines.flatMap((line): BasketLine[] => {
    const quantity = wanted.get(line.position) ?? 0;
    if (quantity <= 0) return [];
    const { position, itemId, number, name, unit, decimals, taxCategoryId } = line;
    const figures = handoverFigures(line, quantity);
    return [
      {
        id: newId(),
        itemId,
        number,
        name,
        unit,
        decimals,
        taxCategoryId,
        quantity,
        listPrice: figures.unitPrice,
        ...(line.serial !== null && { serial: line.serial }),
        ...(line.note && { note: line.note }),
        ...(line.gift && { gift: true }),
        ...(line.ageChecked && { ageChecked: true }),
        ...(line.bundle !== null && { bundle: line.bundle }),
        promised: {
          promiseId,
          number: of,
          part: 'goods',
          position,
          figures,
        },
      },
    ];
  });
}

/**
 * What becomes of the deposit when goods leave. It is used for them, as far as what stays keeps the least deposit
 * that the shop asks for; when nothing stays, what is held beyond them goes back.
 * @param due what the goods that leave come to
 */
export function depositLines(
  promise: PromiseAtTill,
  wanted: ReadonlyMap<number, Quantity>,
  due: Money,
  rate: Rate,
  newId: NewId,
): BasketLine[] {
  const { held, heldThere, lines } = promise;
  const left = lines.map((line) => ({
    ...line,
    handed: line.handed + (wanted.get(line.position) ?? 0),
  }));
  const used = depositToUse(held, due, leastDeposit(sum(left.map(restOf)), rate));
  const back = left.every(({ handed, quantity }) => handed >= quantity)
    ? goesBack({ held: held - used, heldThere })
    : 0;
  return [
    ...(used > 0 ? [moneyLine(promise, 'used', 0 - used, newId)] : []),
    ...(back > 0 ? [moneyLine(promise, 'back', 0 - back, newId)] : []),
  ];
}

/** Puts what a promise brings into a basket, in the place of what it brought before. */
export function putPromised(basket: Basket, fresh: readonly BasketLine[]): Basket {
  const ids = new Set(fresh.map(({ promised }) => promised?.promiseId));
  const others = basket.lines.filter(({ promised }) => !promised || !ids.has(promised.promiseId));
  return { ...basket, lines: [...others, ...fresh] };
}

/**
 * A promise that is given up: the deposit goes back, less the fee.
 * @param why stands on the receipt, with the approval of a fee that is less than agreed
 */
export function cancelLines(
  promise: PromiseAtTill,
  fee: Money,
  { reason, countersign }: { reason: string; countersign?: string | undefined },
  newId: NewId,
): BasketLine[] {
  const back = moneyLine(promise, 'back', 0 - goesBack(promise), newId);
  return [
    { ...back, note: reason, ...(countersign !== undefined && { returnCountersign: countersign }) },
    ...(fee > 0 ? [moneyLine(promise, 'fee', fee, newId)] : []),
  ];
}
