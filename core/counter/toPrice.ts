import type { Money } from '../money.ts';
import type { OfferedGoods } from '../offers/offerUnits.ts';
import type { LineToPrice } from '../offers/price.ts';
import type { TaxRate } from '../offers/tax.ts';
import type { Basket } from './basket.ts';

/** The price of an item for a group that the customer belongs to. */
export interface GroupPrice {
  itemId: number;
  price: Money;
  group: string;
}

/** What else than the basket a price depends on. */
export interface PriceFacts {
  /** Rates of the day by tax category. */
  rates: Readonly<Record<number, readonly TaxRate[]>>;
  /** Prices for the groups of the basket's customer; the lowest of an item counts. */
  groupPrices: readonly GroupPrice[];
  /** Where an item belongs, by which offers find it; nothing where it is not known. */
  goodsOf(itemId: number): OfferedGoods | undefined;
}

/** A basket as it is priced. */
export function linesToPrice(
  { lines, exemption }: Basket,
  { rates, groupPrices, goodsOf }: PriceFacts,
): LineToPrice[] {
  const lowest = new Map<number, GroupPrice>();
  for (const one of groupPrices) {
    const other = lowest.get(one.itemId);
    if (!other || one.price < other.price) lowest.set(one.itemId, one);
  }
  return lines.map((line) => {
    // What comes back has its own price, whoever brings it.
    const found = line.quantity > 0 ? lowest.get(line.itemId) : undefined;
    return {
      ...line,
      groupPrice: found && { unitPrice: found.price, group: found.group },
      goods: goodsOf(line.itemId),
      counted: line.decimals === 0 && !line.label,
      // Gift cards are never reduced, and taxed when they are spent.
      closed: Boolean(line.storedValue ?? line.comesBack?.sale),
      refund: line.comesBack?.sale?.figures,
      rates: exemption || line.storedValue ? [] : (rates[line.taxCategoryId] ?? []),
    };
  });
}
