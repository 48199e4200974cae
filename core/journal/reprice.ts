import { multiplyDivide, sum, type Money } from '../money.ts';
import type { PriceRecord } from '../pricing/price.ts';
import { priceBasket, type LineToPrice, type Offering } from '../pricing/price.ts';
import type { OfferedGoods } from '../offers/offerUnits.ts';
import type { ReturnedPart, SoldLine } from './returns.ts';

/** A sold line with what offers look at. */
export interface OfferedLine extends SoldLine {
  goods: OfferedGoods | undefined;
  /** Sold in whole units, which offers count. */
  counted: boolean;
}

const isOffer = ({ kind }: PriceRecord): boolean => kind === 'offer' || kind === 'reward';

/**
 * What the kept goods of a sale cost under the offers of its day: what they cost before offers, then the offers, then
 * their part of what was taken off the whole basket, points among it.
 * @param kept how much of which line is kept
 * @returns their net amount, as it was priced: without tax on top, with tax inside
 */
export function keptCost(
  sale: readonly OfferedLine[],
  kept: readonly ReturnedPart[],
  offering: Offering,
): Money {
  const onBasket = basketDiscounts(sale);
  let later = 0;
  const lines = kept.flatMap((part): LineToPrice[] => {
    const line = sale.find(({ position }) => position === part.position);
    if (!line) return [];
    const { quantity } = part;
    const partOf = (amount: Money) => multiplyDivide(amount, quantity, line.quantity);
    const records = line.records.filter((record) => !isOffer(record));
    const before = records.filter(
      ({ kind, discountId }) => kind !== 'points' && (!discountId || !onBasket.has(discountId)),
    );
    later += partOf(sum(records.filter((record) => !before.includes(record)).map(({ amount }) => amount)));
    const amount = partOf(line.regular + sum(before.map((record) => record.amount)));
    return [
      {
        id: String(line.position),
        quantity,
        listPrice: multiplyDivide(line.regular, 1000, line.quantity),
        label: { amount },
        rates: [],
        goods: line.goods,
        counted: line.counted,
      },
    ];
  });
  const { total } = priceBasket(lines, { taxMode: 'on-top', taxRounding: 'sale' }, [], offering);
  return Math.max(0, total + later);
}

/** Discounts that came after the offers: those that were given on the whole basket. */
function basketDiscounts(sale: readonly OfferedLine[]): Set<string> {
  const found = new Set<string>();
  for (const { records } of sale) {
    const first = records.findIndex(isOffer);
    if (first < 0) continue;
    for (const { discountId } of records.slice(first)) if (discountId) found.add(discountId);
  }
  return found;
}
