import { sum, type Money } from '../money.ts';
import type { TypedDiscount } from '../pricing/discount.ts';
import type { PricedBasket } from '../pricing/price.ts';
import type { Basket } from './basket.ts';

/** Whether a discount is on just these lines, in whatever order they were picked. */
export function isOnSameLines(discount: TypedDiscount, lineIds: TypedDiscount['lineIds']): boolean {
  if (discount.lineIds === null || lineIds === null) return discount.lineIds === lineIds;
  const wanted = new Set(lineIds);
  return wanted.size === discount.lineIds.length && discount.lineIds.every((id) => wanted.has(id));
}

/** Gives a discount; one on the same lines takes the place of what was given before. */
export function giveDiscount(basket: Basket, discount: TypedDiscount): Basket {
  const others = (basket.discounts ?? []).filter((one) => !isOnSameLines(one, discount.lineIds));
  return { ...basket, discounts: [...others, discount] };
}

/** Takes a discount away again. */
export function withoutDiscount(basket: Basket, discountId: string): Basket {
  const left = (basket.discounts ?? []).filter(({ id }) => id !== discountId);
  return { ...basket, discounts: left.length > 0 ? left : undefined };
}

/** What a discount takes off altogether, and what its lines cost before it. */
export function discountEffect(priced: PricedBasket, discountId: string): { taken: Money; before: Money } {
  let [taken, before] = [0, 0];
  for (const { regular, records } of priced.lines) {
    const at = records.findIndex((record) => record.discountId === discountId);
    if (at < 0) continue;
    taken -= records[at]?.amount ?? 0;
    before += regular + sum(records.slice(0, at).map(({ amount }) => amount));
  }
  return { taken, before };
}
