import { sum, type Money } from '../money.ts';
import {
  depositToUse,
  promisedFigures,
  restOf,
  type MoneyItem,
  type PromisedPart,
  type PromiseLine,
} from '../promises/promised.ts';
import { leastDeposit } from '../promises/plan.ts';
import type { Rate } from '../rate.ts';
import { ONE, type Quantity } from '../quantity.ts';
import type { BasketLine } from './basket.ts';
import { moneyName } from './promisedLines.ts';

/** A promise as a till brings it into a basket. */
export interface PromiseAtTill {
  id: string;
  number: string;
  /** Deposits that are held. */
  held: Money;
  lines: readonly PromiseLine[];
  depositItem: MoneyItem;
  feeItem: MoneyItem;
}

type NewId = () => string;

/** Money of a promise as a line of a basket. @param amount below zero where it is used or goes back */
export function moneyLine(
  { id: promiseId, number, depositItem, feeItem }: Omit<PromiseAtTill, 'held' | 'lines'>,
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
    const { position, itemId, number, name, unit, decimals, taxCategoryId, unitPrice } = line;
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
        listPrice: unitPrice,
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
          figures: promisedFigures(line, quantity),
        },
      },
    ];
  });
}

/**
 * How much of the deposit is used for goods that leave: what stays keeps the least deposit that the shop asks for.
 * @param due what the goods that leave come to
 */
export function depositUsed(
  { held, lines }: PromiseAtTill,
  wanted: ReadonlyMap<number, Quantity>,
  due: Money,
  rate: Rate,
): Money {
  const stays = sum(
    lines.map((line) => restOf({ ...line, handed: line.handed + (wanted.get(line.position) ?? 0) })),
  );
  return depositToUse(held, due, leastDeposit(stays, rate));
}

/** A promise that is given up: the deposit goes back, less the fee. @param reason stands on the receipt */
export function cancelLines(promise: PromiseAtTill, fee: Money, reason: string, newId: NewId): BasketLine[] {
  return [
    { ...moneyLine(promise, 'back', 0 - promise.held, newId), note: reason },
    ...(fee > 0 ? [moneyLine(promise, 'fee', fee, newId)] : []),
  ];
}
